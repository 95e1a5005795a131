"""``nelvor bonds``: boxes and positions in words and as JSON, and how it ends."""

import json
import unittest

from tests.support.arrangements import Arrangement
from tests.support.command import run_on_job
from tests.support.jobs import orchard

GEAR = "U -hn- M -hn- S(main) -hng- T.n(solid) ; G(fixed,brk,out) -hng- T.s ; T.l -hng- P"


class Bonds(unittest.TestCase):
    def told(self, job, *arguments):
        return run_on_job("bonds", job, *arguments)

    def generator(self, **bonds):
        arrangement = Arrangement(GEAR)
        for name, made in {"m": True, "s": True, **bonds}.items():
            arrangement.bond(name, made=made)
        return arrangement.job

    def test_boxes_and_positions_in_words(self):
        status, out, _ = self.told(self.generator())
        self.assertEqual(status, 0)
        self.assertIn("s: Bond here; found joined. 250.24(C)", out)
        self.assertIn("g: Floating: no bond in it; found apart.", out)
        self.assertIn("Utility away, t on its standby side:", out)
        self.assertIn("not live: m, s", out)

    def test_a_wrong_bond_ends_with_1(self):
        self.assertEqual(self.told(self.generator(g=True))[0], 1)
        self.assertEqual(self.told(orchard())[0], 1)

    def test_one_position_by_its_words_and_as_json(self):
        status, out, _ = self.told(self.generator(), "--position", "standby", "--json")
        told = json.loads(out)
        self.assertEqual(status, 0)
        self.assertEqual([item["name"] for item in told["positions"]], ["Utility away, t on its standby side"])
        self.assertEqual(told["boxes"]["g"]["decision"], "floating")

    def test_a_position_that_is_not_known_names_those_that_are(self):
        status, out, err = self.told(self.generator(), "--position", "island")
        self.assertEqual(status, 2)
        self.assertIn("Utility on", out + err)


if __name__ == "__main__":
    unittest.main()
