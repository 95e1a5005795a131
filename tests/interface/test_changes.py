"""The interface's own changes of a document do what the server's do: shared fixtures through both."""

import json
import random
import subprocess
import unittest
from pathlib import Path

from nelvor.model.changes.merge import operations_between
from nelvor.model.changes.operations import apply
from nelvor.model.changes.remove import removal
from nelvor.model.document import LISTS
from nelvor.model.parse import parse_value
from nelvor.model.resolve import resolve
from tests.support.jobs import bakery, orchard
from tests.support.sites import shuffled
from tools.environment import node_program
from tools.layout import UI

RUNNER = Path(__file__).parent / "run_module.mjs"


def in_the_interface(module: str, calls: list[dict]) -> list:
    """Return the results of functions of an interface module."""
    done = subprocess.run(
        [str(node_program()), str(RUNNER), str(UI), module],
        input=json.dumps(calls),
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stderr[-2000:]
    return json.loads(done.stdout)


def documents() -> list[dict]:
    """Return jobs of every kind of thing, as JSON in the present version."""
    raw = (Path(__file__).parents[1] / "model" / "every_kind_v4.json").read_text()
    return [json.loads(parse_value(job).model_dump_json()) for job in (orchard(), bakery(), json.loads(raw))]


def plain(operations) -> list[dict]:
    return [operation.model_dump(mode="json") for operation in operations]


class Removing(unittest.TestCase):
    def test_each_thing_of_each_kind_in_both_states(self):
        cases = [
            (job, state, list_name, item["id"])
            for job in documents()
            for state in ("existing", "proposed")
            for list_name in LISTS
            for item in job[list_name][:: max(1, len(job[list_name]) // 6)]
        ]
        found = in_the_interface("core/removing.ts", [{"call": "removal", "arguments": [*case]} for case in cases])
        self.assertGreater(len(cases), 100)
        for case, theirs in zip(cases, found, strict=True):
            ours = removal(*case)
            with self.subTest(case[1:]):
                self.assertEqual({(item["list"], item["id"]) for item in theirs["gone"]}, set(ours.gone))
                loose = {(item["list"], item["id"], item["field"]) for item in theirs["loose"]}
                self.assertEqual(loose, {(item.list, item.id, item.field) for item in ours.loose})
                self.assertEqual(apply(case[0], list(ours.operations)), _applied_here(case[0], theirs["operations"]))


def _applied_here(job: dict, operations: list[dict]) -> dict:
    from pydantic import TypeAdapter

    from nelvor.model.changes.operations import Operation

    return apply(job, TypeAdapter(list[Operation]).validate_python(operations))


class Applying(unittest.TestCase):
    def edits(self) -> list[tuple[dict, list[dict]]]:
        """Pairs of a job and the operations to another one: properties, proposals, things that come and go."""
        found, chance = [], random.Random(7)
        for job in documents():
            other = json.loads(json.dumps(job))
            for name in ("runs", "loads", "devices"):
                for item in other[name][::2]:
                    item["name"] = f"{item.get('name', '')} again"
                for item in other[name][1::3]:
                    item["proposed"] = {**item["proposed"], "name": "proposed"}
            other["prices"] = [
                {"id": "new-price", "item": "copper 4", "price": 2.5, "standing": "added", "proposed": {}}
            ]
            other["loads"] = other["loads"][: len(other["loads"]) - chance.randint(0, 2)]
            other["settings"]["ambient_c"] = 40.0
            other["name"] = "Another name"
            found.append((job, plain(operations_between(job, other))))
            found.append((shuffled(job, 3), plain(operations_between(job, other))))
        return found

    def test_both_sides_carry_out_the_same_operations_to_the_same_document(self):
        cases = self.edits()
        found = in_the_interface(
            "core/changes.ts", [{"call": "apply", "arguments": [job, operations]} for job, operations in cases]
        )
        for (job, operations), theirs in zip(cases, found, strict=True):
            self.assertEqual(_applied_here(job, operations), theirs["document"])

    def test_the_inverse_leads_back_to_the_byte(self):
        cases = self.edits()
        there = in_the_interface(
            "core/changes.ts", [{"call": "apply", "arguments": [job, operations]} for job, operations in cases]
        )
        back = in_the_interface(
            "core/changes.ts",
            [{"call": "apply", "arguments": [item["document"], item["inverse"]]} for item in there],
        )
        for (job, _), theirs in zip(cases, back, strict=True):
            self.assertEqual(job, theirs["document"])

    def test_a_property_that_a_thing_came_without_goes_back_to_its_default(self):
        """What comes from an addition tells only what it sets: nothing is lost over the wire when that is taken back."""
        job = documents()[0]
        insert = {
            "op": "insert",
            "list": "devices",
            "thing": {"id": "new", "enclosure_id": "barn-panel", "standing": "added"},
        }
        put = {"op": "put", "list": "devices", "id": "new", "proposed": False}
        puts = [{**put, "field": "rating_a", "value": 20.0}, {**put, "field": "poles", "value": 1}]
        (there,) = in_the_interface("core/changes.ts", [{"call": "apply", "arguments": [job, [insert, *puts]]}])
        back = _applied_here(there["document"], there["inverse"][:-1])
        device = next(item for item in back["devices"] if item["id"] == "new")
        self.assertEqual((device["rating_a"], device["poles"]), (None, 2))

    def test_what_finds_its_thing_gone_is_told_and_the_rest_is_done(self):
        job = documents()[0]
        operations = [
            {"op": "put", "list": "loads", "id": "nobody", "field": "name", "value": "x", "proposed": False},
            {"op": "put", "list": "loads", "id": "h-dish", "field": "name", "value": "y", "proposed": False},
        ]
        (found,) = in_the_interface("core/changes.ts", [{"call": "applyWhatFits", "arguments": [job, operations]}])
        self.assertEqual(found["homeless"], operations[:1])
        self.assertEqual({item["id"]: item["name"] for item in found["document"]["loads"]}["h-dish"], "y")

    def test_both_sides_resolve_a_state_alike(self):
        for job in documents():
            for state in ("existing", "proposed"):
                (theirs,) = in_the_interface("core/document.ts", [{"call": "resolve", "arguments": [job, state]}])
                ours = json.loads(resolve(parse_value(job), state).model_dump_json())
                for name in LISTS:
                    strip = [{key: value for key, value in item.items() if key != "proposed"} for item in theirs[name]]
                    mine = [{key: value for key, value in item.items() if key != "proposed"} for item in ours[name]]
                    self.assertEqual(strip, mine)


class NewThings(unittest.TestCase):
    def test_what_is_fed_anew_is_a_valid_document_for_each_kind_and_state(self):
        for job in documents():
            start = job["enclosures"][-1]["id"]
            for state in ("existing", "proposed"):
                calls = [
                    {"call": "feed", "arguments": [job, state, start, kind]}
                    for kind in ("panel", "section", "disconnect", "meter", "transformer")
                ]
                calls += [
                    {"call": "feed", "arguments": [job, state, start, "panel", where]}
                    for where in ("within", "another")
                ]
                made = [
                    parse_value(_applied_here(job, made["operations"]))
                    for made in in_the_interface("core/building.ts", calls)
                ]
                transformer = next(at for at, call in enumerate(calls) if call["arguments"][3] == "transformer")
                self.assertIs(made[transformer].bonds[-1].made, None if state == "existing" else True)
                resolved = resolve(parse_value(job), state).enclosures
                fed_from = next((item.building_id for item in resolved if item.id == start), None)
                within, another = (item.enclosures[-1].building_id for item in made[-2:])
                self.assertEqual(within, fed_from)
                self.assertEqual(another, made[-1].buildings[-1].id)
                self.assertEqual([item.runs[-1].placement for item in made[-2:]], ["indoors", "underground"])
