"""``nelvor diagnose``: from a list of readings to causes in words and as JSON, practice, and what is refused."""

import json
import unittest

from tests.support.command import run_on_job
from tests.support.jobs import orchard


class Diagnose(unittest.TestCase):
    def told(self, *arguments, readings=None):
        return run_on_job("diagnose", orchard(), *arguments, table=readings)

    def test_without_readings_the_first_is_asked_for(self):
        status, out, _ = self.told()
        self.assertEqual(status, 0)
        self.assertIn("No reading yet", out)
        self.assertIn("Read next: clamp", out)
        self.assertIn("Never lift a neutral", out)

    def test_practice_gives_readings_from_which_the_hidden_fault_is_found(self):
        status, table, _ = self.told("--practice", "5")
        self.assertEqual(status, 0)
        self.assertIn("place,what,value,unit", table)
        status, out, _ = self.told(readings=table)
        self.assertEqual(status, 0)
        self.assertRegex(out, r"\n\d+% The ")
        found = json.loads(self.told("--json", readings=table)[1])
        self.assertTrue(found["causes"][0]["fits"])
        self.assertEqual(found["readings"], len(table.strip().splitlines()) - 1)

    def test_faults_of_the_list_are_told_by_line(self):
        status, out, err = self.told(readings="place,what,value,unit\nto-barn,ground,1,V\n")
        self.assertEqual(status, 2)
        self.assertIn("line 2, unit", out + err)

    def test_a_position_that_is_not_there(self):
        self.assertEqual(self.told("--position", "island")[0], 2)


if __name__ == "__main__":
    unittest.main()
