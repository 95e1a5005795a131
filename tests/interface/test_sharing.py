"""What stays the same keeps its identity from one report, and from one edit, to the next; what is shown never lags."""

import copy
import random
import unittest

from nelvor.demo import FOLDER
from nelvor.model.parse import parse_bytes
from nelvor.report.check import check
from nelvor.report.wire import report_out
from tests.interface.test_changes import documents, in_the_interface

KEPT_PARTS = "../../tests/interface/kept_parts.ts"


def shared_parts(pairs: list[list]) -> list[dict]:
    return in_the_interface(KEPT_PARTS, [{"call": "sharedParts", "arguments": pair} for pair in pairs])


def changed_somewhere(value, chance: random.Random):
    """Return a JSON value with one part of it otherwise, left out or added."""
    value = copy.deepcopy(value)
    part = value
    while True:
        keys = list(part) if isinstance(part, dict) else range(len(part))
        deeper = [key for key in keys if isinstance(part[key], dict | list) and part[key]]
        if not deeper or chance.random() < 0.2:
            break
        part = part[chance.choice(deeper)]
    keys = list(part) if isinstance(part, dict) else list(range(len(part)))
    what = chance.choice(["put", "take", "add"])
    if what == "put" and keys:
        part[chance.choice(keys)] = chance.choice([None, 0, "", "another", [], {}, [1], {"a": None}])
    elif what == "take" and keys:
        del part[chance.choice(keys)]
    elif isinstance(part, dict):
        part["something new"] = 1
    else:
        part.append("something new")
    return value


class Reports(unittest.TestCase):
    def test_whatever_changes_the_newest_is_what_is_held(self):
        chance = random.Random(7)
        wire = report_out(check(parse_bytes((FOLDER / "orchard.json").read_bytes()))).model_dump(mode="json")
        pairs = [[wire, changed_somewhere(wire, chance)] for _ in range(40)]
        pairs += [[1, [1]], [[], {}], [{}, []], [None, {"a": 1}], [{"a": 1}, None], [{"a": None}, {"b": None}]]
        for (_, now), found in zip(pairs, shared_parts(pairs), strict=True):
            self.assertEqual(now, found["value"])

    def test_what_is_equal_keeps_its_identity(self):
        before = {"runs": {"a": {"size": 2}, "b": {"size": 3}}, "places": [{"id": "x"}, {"id": "y"}]}
        now = {"runs": {"a": {"size": 2}, "b": {"size": 4}}, "places": [{"id": "x"}, {"id": "y"}]}
        whole, part, longer = shared_parts(
            [[before, copy.deepcopy(before)], [before, now], [[{"id": 1}], [{"id": 1}, {}]]]
        )
        self.assertEqual(whole["kept"], [""])
        self.assertEqual(part["kept"], ["/runs/a", "/places"])
        self.assertEqual(longer["kept"], ["/0"])


class Edits(unittest.TestCase):
    def test_an_edit_of_one_thing_leaves_all_lists_but_its_own(self):
        document = documents()[0]
        run, *others = [item["id"] for item in document["runs"] if item["standing"] != "removed"]
        next(item for item in document["runs"] if item["id"] == others[0])["proposed"] = {"cover_in": 30}
        (found,) = in_the_interface(
            KEPT_PARTS,
            [{"call": "listsKept", "arguments": [document, "proposed", "runs", run, "length_ft", 77]}],
        )
        (edited,) = [item for item in found["after"]["runs"] if item["id"] == run]
        self.assertEqual(edited["length_ft"], 77)
        self.assertIn(30, [item["cover_in"] for item in found["after"]["runs"]])
        lists = {f"/{name}" for name, value in document.items() if isinstance(value, list) and name != "runs"}
        self.assertLessEqual(lists, set(found["kept"]))
        in_its_list = [path for path in found["kept"] if path.startswith("/runs/") and path.count("/") == 2]
        self.assertEqual(len(in_its_list), len(others))


if __name__ == "__main__":
    unittest.main()
