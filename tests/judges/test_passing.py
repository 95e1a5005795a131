"""Inverters that power passes through: the neutral that goes along or is opened, the relay, and what is not known of them."""

import json
import re
import unittest

from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.positions_played import positions_out
from tests.support.arrangements import Arrangement
from tests.support.jobs import finding, mended, report_of, thing

HYBRID = "U -hn- S(main) -hng- I.g(interactive,{}) ; I.o -hng- P2(backup)"
CHARGER = "G(fixed,brk) -hng- I.g(standalone,{}) ; I.o -hng- P(main)"
PASSES, OPENS = "through,norelay", "opens,relay"


def built(line, marks, *bonded, **plate):
    arrangement = Arrangement(line.format(marks))
    for name in bonded:
        arrangement.bond(name, made=True)
    thing(arrangement.job, "sources", "i-set").update(plate)
    return arrangement.job


def bond_findings(report):
    codes = {"bond", "bond_relay", "no_bond", "second_bond"}
    return {(item.outcome, item.code, item.id, item.field) for item in report.findings if item.code in codes}


class Hybrid(unittest.TestCase):
    def test_where_the_neutral_passes_the_relay_lies_still(self):
        self.assertEqual(bond_findings(report_of(built(HYBRID, PASSES, "s"))), set())
        self.assertEqual(bond_findings(report_of(built(HYBRID, PASSES, "s", relay="disabled"))), set())
        for relay in ("closes_when_islanded", "always_closed"):
            with self.subTest(relay=relay):
                job = built(HYBRID, PASSES, "s", relay=relay)
                wrong = finding(report_of(job), "bond", "i")
                self.assertEqual(wrong.outcome, "must_fix")
                self.assertEqual(bond_findings(report_of(mended(job, wrong))), set())

    def test_where_it_opens_the_relay_closes_alone_and_then_only(self):
        self.assertEqual(bond_findings(report_of(built(HYBRID, OPENS, "s"))), set())
        for relay in ("none", "disabled", "always_closed"):
            with self.subTest(relay=relay):
                job = built(HYBRID, OPENS, "s", relay=relay)
                wrong = finding(report_of(job), "bond", "i")
                self.assertEqual(wrong.outcome, "must_fix")
                self.assertEqual(bond_findings(report_of(mended(job, wrong))), set())

    def test_what_is_not_known_is_asked_for_on_the_source(self):
        report = report_of(built(HYBRID, OPENS, "s", neutral_path=None))
        asked = finding(report, "bond", "i")
        self.assertEqual((asked.outcome, asked.field), ("cannot_tell", "neutral_path"))
        self.assertEqual(report.bonds["p2"].decision, "apart")
        for marks in (PASSES, OPENS):
            with self.subTest(marks=marks):
                asked = finding(report_of(built(HYBRID, marks, "s", relay=None)), "bond_relay", "i-set")
                self.assertEqual((asked.outcome, asked.field), ("cannot_tell", "relay"))

    def test_a_neutral_that_opens_has_a_bar_on_either_side(self):
        job = built(HYBRID, OPENS, "s")
        for conductor in job["conductors"]:
            if conductor["to_part"] == "i-g-neutral":
                conductor["to_part"] = "i-o-neutral"
        asked = finding(report_of(job), "bond", "i")
        self.assertEqual(asked.outcome, "cannot_tell")
        self.assertIn("give each its own", asked.text)

    def test_alone_the_backup_panel_is_live_and_the_rest_dark(self):
        report = check(parse_value(built(HYBRID, OPENS, "s")))
        day, alone = positions_out(report)
        self.assertEqual((day.name, alone.name), ("Utility on", "i alone"))
        self.assertEqual(alone.live, ["i", "p2"])
        self.assertEqual([system.places for system in day.systems], [["s"]])
        self.assertEqual([system.places for system in alone.systems], [["i"]])


class BehindASet(unittest.TestCase):
    def test_a_common_neutral_is_bonded_at_the_first_disconnect(self):
        report = report_of(built(CHARGER, PASSES, "p"))
        self.assertEqual(
            {key: bond.decision for key, bond in report.bonds.items()},
            {"g": "floating", "i": "floating", "p": "derived_bond"},
        )
        self.assertEqual(bond_findings(report), set())

    def test_the_decision_hangs_on_no_name(self):
        job = built(CHARGER, PASSES, "p")
        renamed = json.loads(re.sub(r'"g(-[a-z0-9-]*)?"', r'"zz\1"', json.dumps(job)))
        self.assertEqual(report_of(renamed).bonds["p"].decision, "derived_bond")


if __name__ == "__main__":
    unittest.main()
