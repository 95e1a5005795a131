"""``nelvor connect``: the ways in words and as JSON, how it ends, and what cannot be asked."""

import json
import unittest

from nelvor.model.changes.operations import apply
from tests.report.test_ways import house, plain, ways
from tests.support.command import run_on_job
from tests.support.jobs import orchard

BARN = ("--panel", "Barn panel")


class Connect(unittest.TestCase):
    def told(self, job, *arguments):
        return run_on_job("connect", job, *arguments)

    def test_every_way_in_words(self):
        status, out, _ = self.told(orchard(), *BARN, "--output", "32")
        self.assertEqual(status, 0)
        self.assertIn("PASSES: Ahead of the service disconnect", out)
        self.assertIn("agrees: the utility, before anything is made there", out)
        self.assertIn("+ Barn panel, 120 %, at the opposite end: 165 A of 180 A", out)
        self.assertIn("FAILS: On the bus of Barn panel as it is; largest output 0 A, short by 32 A", out)

    def test_as_json(self):
        status, out, _ = self.told(orchard(), *BARN, "--output", "32", "--json")
        found = json.loads(out)
        self.assertEqual((status, found["ways"][0]["kind"]), (0, "power_control"))
        self.assertEqual(found["ways"][0]["rules"][0]["total"], 165.0)

    def test_none_that_passes_ends_with_1(self):
        status, out, _ = self.told(house("2017").job, "--panel", "hall", "--output", "1000")
        self.assertEqual(status, 1)
        self.assertIn("No switch is large enough for this output.", out)

    def test_a_source_of_the_design_by_its_name(self):
        document = plain(house().job)
        own = next(way for way in ways(document, "hall", 40.0).ways if way.kind == "own_bus")
        status, out, _ = self.told(apply(document, own.operations), "--source", "inverter")
        self.assertEqual(status, 0)
        self.assertIn("FAILS: On the bus of hall as it is; largest output 32 A, short by 8 A", out)

    def test_what_cannot_be_asked_is_told(self):
        for arguments, words in (
            ((*BARN, "--output", "0"), "greater than 0"),
            (("--panel", "Attic", "--output", "20"), "There is no panel 'Attic'"),
            (("--output", "20"), "Name the panel"),
            (("--source", "Wind"), "Known: none but the utility"),
        ):
            status, out, err = self.told(orchard(), *arguments)
            self.assertEqual(status, 2, arguments)
            self.assertIn(words, out + err)


if __name__ == "__main__":
    unittest.main()
