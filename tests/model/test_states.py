import json
import unittest
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from nelvor.errors import BadInput
from nelvor.model.changes.differences import between, proposal
from nelvor.model.changes.operations import Delete, Drop, Insert, Put, PutSetting, apply
from nelvor.model.document import LISTS, VERSION
from nelvor.model.migrate import OLDER_SPELLINGS
from nelvor.model.parse import parse_bytes, parse_job, parse_value
from nelvor.model.resolve import resolve
from nelvor.report.check import check
from tests.support.jobs import orchard, thing

MOVED = {
    "enclosures": {"rating_a", "spaces", "half_size_spaces"},
    "sources": {"neutral_bonded_inside"},
    "transfers": {"normal_part", "standby_part", "standby_position"},
    "devices": {"frame_a", "bus_id"},
    "runs": {"armour_listed_ground"},
}
FIXTURE = Path(__file__).parent / f"every_kind_v{VERSION}.json"


class TwoStates(unittest.TestCase):
    def setUp(self):
        self.job = orchard()
        self.document = parse_value(self.job)

    def test_the_existing_state_knows_nothing_of_the_proposal(self):
        existing = resolve(self.document, "existing")
        self.assertNotIn("barn-panel", {item.id for item in existing.enclosures})
        self.assertEqual({item.id: item.rating_a for item in existing.devices}["disc-barn-main"], 200)

    def test_the_proposed_state_puts_proposed_values_in_place(self):
        proposed = resolve(self.document, "proposed")
        self.assertEqual({item.id: item.rating_a for item in proposed.devices}["disc-barn-main"], 125)

    def test_removed_things_stand_and_are_not_proposed(self):
        thing(self.job, "electrodes", "house-footing")["standing"] = "removed"
        document = parse_value(self.job)
        self.assertIn("house-footing", {item.id for item in resolve(document, "existing").electrodes})
        self.assertNotIn("house-footing", {item.id for item in resolve(document, "proposed").electrodes})

    def test_a_run_whose_end_is_taken_away_is_told_and_nothing_breaks(self):
        thing(self.job, "devices", "disc-house-main")["standing"] = "removed"
        report = check(parse_value(self.job))
        self.assertIn("not_computed", {item.code for item in report.findings if item.id == "to-house"})

    def test_the_proposal_is_listed_per_thing_and_property(self):
        found = {(item.id, item.field): (item.before, item.after) for item in proposal(self.document)}
        self.assertEqual(found["disc-barn-main", "rating_a"], (200, 125))
        self.assertIsNone(found["barn-panel", ""][0])
        self.assertNotIn(("disc-barn-main", "proposed"), found)

    def test_differences_between_documents_tell_settings_too(self):
        self.job["settings"]["edition"] = "2020"
        self.job["name"] = "Other"
        found = {(item.list, item.field) for item in between(self.document, parse_value(self.job))}
        self.assertEqual(found, {("settings", "edition"), ("", "name")})


class EditsAsOperations(unittest.TestCase):
    def test_each_operation_does_what_it_says_and_leaves_the_rest(self):
        job = orchard()
        result = apply(
            job,
            [
                Put(list="runs", id="to-barn", field="length_ft", value=200.0),
                Put(list="devices", id="house-main", field="rating_a", value=150.0, proposed=True),
                Drop(list="devices", id="disc-barn-main", field="rating_a"),
                Insert(list="bars", thing={"id": "new-bar", "enclosure_id": "meter", "kind": "ground"}),
                Delete(list="loads", id="h-dish"),
                PutSetting(field="edition", value="2017"),
            ],
        )
        self.assertEqual(thing(result, "runs", "to-barn")["length_ft"], 200)
        self.assertEqual(thing(result, "devices", "house-main")["proposed"], {"rating_a": 150})
        self.assertEqual(thing(result, "devices", "house-main")["rating_a"], 200)
        self.assertEqual(thing(result, "devices", "disc-barn-main")["proposed"], {})
        self.assertEqual(result["bars"][-1]["id"], "new-bar")
        self.assertNotIn("h-dish", [item["id"] for item in result["loads"]])
        self.assertEqual(result["settings"]["edition"], "2017")
        self.assertEqual(job, orchard(), "the document handed in is left as it was")

    def test_an_operation_on_nothing_is_refused(self):
        for operation in (
            Put(list="runs", id="none", field="x", value=1),
            Delete(list="nothing", id="x"),
            Insert(list="nothing", thing={}),
        ):
            with self.subTest(operation.op), self.assertRaises(BadInput):
                apply(orchard(), [operation])


class OlderVersions(unittest.TestCase):
    """The frozen documents of older versions must always open."""

    def test_every_older_version_opens_with_everything_it_holds(self):
        for version in range(1, VERSION):
            raw = (Path(__file__).parent / f"every_kind_v{version}.json").read_bytes()
            before, after = json.loads(raw), parse_bytes(raw).model_dump(mode="json")
            self.assertEqual((before["version"], after["version"]), (version, VERSION))
            for list_name in set(before) & set(LISTS):
                there = {item["id"]: item for item in after[list_name]}
                for old in before[list_name]:
                    new = there[old["id"]]
                    moved = MOVED.get(list_name, frozenset())
                    same = {
                        key: OLDER_SPELLINGS.get(str(value), value) for key, value in old.items() if key not in moved
                    }
                    self.assertEqual(same, {key: new[key] for key in same})

    def test_what_version_4_holds_elsewhere_is_there(self):
        raw = json.loads((Path(__file__).parent / "every_kind_v3.json").read_bytes())
        thing(raw, "sources", "standby")["neutral_bonded_inside"] = True
        thing(raw, "enclosures", "panel").update(spaces=30, proposed={"rating_a": 225.0})
        file = parse_job(raw)
        document = file.document
        buses = {item.enclosure_id: item for item in document.buses}
        self.assertEqual((buses["panel"].rating_a, buses["panel"].spaces), (200, 30))
        self.assertEqual((buses["panel"].proposed, buses["panel"].fed_by), ({"rating_a": 225.0}, "panel-main"))
        self.assertEqual({item.id: item.meter_class_a for item in document.enclosures}["meter"], 200)
        self.assertEqual({item.id: item.frame_a for item in document.devices}["service-main"], 200)
        throws = {(item.name, item.part) for item in document.throws}
        self.assertEqual(throws, {("Normal", "transfer-main"), ("Standby", "transfer-gen")})
        self.assertEqual(document.transfers[0].load_part, "transfer-load")
        (inner,) = [item for item in document.bonds if item.part_a == "standby"]
        self.assertEqual((inner.made, inner.kind), (True, "factory"))
        self.assertEqual({item.id: item.enclosure_id for item in document.sources}["standby"], inner.enclosure_id)
        self.assertEqual([(item.thing_id, item.value) for item in file.field_log], [("to-panel", 250.0)])

    def test_the_older_spelling_is_read(self):
        job = orchard()
        thing(job, "runs", "to-barn")["material"] = "aluminium"
        self.assertEqual({run.id: run.material for run in parse_value(job).runs}["to-barn"], "aluminum")


class EveryKind(unittest.TestCase):
    """A document that holds every kind of thing."""

    def setUp(self):
        self.raw = FIXTURE.read_bytes()
        self.document = parse_bytes(self.raw)

    def test_it_holds_every_kind(self):
        for list_name in LISTS:
            self.assertTrue(getattr(self.document, list_name), list_name)

    def test_it_comes_back_byte_for_byte(self):
        text = json.dumps(self.document.model_dump(mode="json"), indent=1, ensure_ascii=False) + "\n"
        self.assertEqual(text.encode(), self.raw)

    def test_what_is_not_computed_is_named(self):
        told = {item.id for item in check(self.document).findings if item.outcome == "cannot_tell"}
        for thing_id in ("standby", "roof-solar", "changeover", "xfmr", "tap-1", "odd-rule"):
            self.assertIn(thing_id, told)


class LengthsAreKeptAsWritten(unittest.TestCase):
    @given(st.floats(min_value=0.001, max_value=10_000, allow_nan=False))
    def test_any_lawful_length_survives_the_round_trip(self, feet: float):
        job = orchard()
        thing(job, "runs", "to-barn")["length_ft"] = feet
        again = parse_bytes(parse_value(job).model_dump_json().encode())
        self.assertEqual({run.id: run.length_ft for run in again.runs}["to-barn"], feet)
