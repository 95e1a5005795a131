"""Autotransformers: no bond in them, one device, and the neutral that one forms for a source without any."""

import unittest

from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.study.outcome import study
from nelvor.study.situation import Situation
from tests.judges.test_pushed_back import held
from tests.support.arrangements import Arrangement
from tests.support.jobs import finding, report_of, thing

ALONE = "I(standalone,v240,no_neutral) -hj- P(main) ; A(neutral_forming) -hng- P"
IN_LINE = "I(standalone,v240,no_neutral) -hj- A(neutral_forming,in_line) -hng- P(main)"
WITH_UTILITY = "U -hn- S(main) ; A(neutral_forming) -hng- S"
FEEDER = "U -hn- S(main) -hng- A -hng- P"
CORE = "a-core"
WIRE = {"hot_size": "6", "neutral_size": "6", "ground_size": "8", "insulation": "THWN-2", "placement": "indoors"}


class Bonds(unittest.TestCase):
    def decisions(self, line, **made):
        site = Arrangement(line)
        for name, bond in made.items():
            site.bond(name, made=bond)
        report = report_of(site.job)
        wrong = {item.code for item in report.findings if item.outcome == "must_fix" and item.list == "enclosures"}
        return {name: answer.decision for name, answer in report.bonds.items()}, wrong - {"electrode"}

    def test_the_one_bond_is_in_the_first_disconnect(self):
        found, wrong = self.decisions(ALONE, p=True)
        self.assertEqual((found, wrong), ({"i": "no_neutral", "p": "derived_bond", "a": "apart"}, set()))
        self.assertEqual(self.decisions(ALONE, p=False)[1], {"bond"})
        self.assertEqual(self.decisions(ALONE, p=True, a=True)[1], {"bond"})

    def test_a_neutral_that_does_not_come_to_the_panel_is_no_way_back(self):
        site = Arrangement(ALONE)
        site.without("a", "p", "n")
        missing = finding(report_of(site.job), "neutral_missing", "p")
        self.assertEqual(missing.outcome, "must_fix")
        self.assertIn("Bring it along", missing.text)

    def test_in_line_it_may_hold_the_bond_or_the_disconnect_behind_it(self):
        found, wrong = self.decisions(IN_LINE, a=True)
        self.assertEqual((found["a"], found["p"], wrong), ("derived_bond", "apart", set()))
        found, wrong = self.decisions(IN_LINE, p=True)
        self.assertEqual((found["a"], found["p"], wrong), ("apart", "derived_bond", set()))
        self.assertEqual(self.decisions(IN_LINE, a=True, p=True)[1], {"bond"})
        self.assertEqual(self.decisions(IN_LINE)[1], {"bond"})

    def test_in_a_feeder_it_keeps_the_neutral_of_its_supply(self):
        site = Arrangement(FEEDER)
        site.bond("s", made=True)
        answer = report_of(site.job).bonds["a"]
        self.assertEqual((answer.decision, answer.section), ("apart", "215.11"))


class WithoutNeutral(unittest.TestCase):
    def found(self, line, **load):
        site = Arrangement(line)
        site.bond("p", made=True)
        own = {"id": "lamp", "name": "Lamp", "enclosure_id": "p", "category": "other", "amount": 1200.0, "unit": "VA"}
        site.job["loads"].append({**own, "volts": 120.0, **load})
        return finding(report_of(site.job), "supply_without_neutral", "i-set")

    def test_a_load_of_120_volts_on_a_source_without_a_neutral(self):
        bare = "I(standalone,v240,no_neutral) -hj- P(main) ; P -hng- Q"
        wrong = self.found(bare)
        self.assertEqual(wrong.outcome, "must_fix")
        self.assertIn("Lamp at p needs one", wrong.text)
        self.assertEqual(self.found(bare, neutral_used=True, volts=240.0).outcome, "must_fix")

    def test_one_of_240_volts_or_with_a_neutral_formed_holds(self):
        self.assertIsNone(self.found("I(standalone,v240,no_neutral) -hj- P(main) ; P -hng- Q", volts=240.0))
        self.assertIsNone(self.found(ALONE))
        self.assertIsNone(self.found("I(standalone) -hnj- P(main)"))

    def test_a_formed_neutral_that_does_not_reach_the_panel_does_not_count(self):
        site = Arrangement(ALONE)
        site.without("a", "p", "n")
        own = {"id": "lamp", "name": "Lamp", "enclosure_id": "p", "category": "other", "amount": 1200.0, "unit": "VA"}
        site.job["loads"].append({**own, "volts": 120.0})
        self.assertEqual(finding(report_of(site.job), "supply_without_neutral", "i-set").outcome, "must_fix")


class Devices(unittest.TestCase):
    def report(self, line=ALONE, device_a=60.0, **facts):
        self.site = Arrangement(line)
        panel = "s" if line == WITH_UTILITY else "p"
        self.site.bond(panel, made=True)
        thing(self.site.job, "devices", f"{panel}-to-a-feeder")["rating_a"] = device_a
        thing(self.site.job, "transformers", CORE).update(facts)
        return report_of(self.site.job)

    def test_both_sides_of_its_device(self):
        # 9.6 kVA at 240 V: 40 A in, 125 % are 50 A, a standard rating; 10 kVA: 52.1 A, and the next one is 60 A
        for kva, enough, beyond in ((9.6, 50.0, 60.0), (10.0, 60.0, 70.0)):
            self.assertEqual(held(self.report(kva=kva, device_a=enough), "transformer", CORE).section, "450.4(A)")
            wrong = finding(self.report(kva=kva, device_a=beyond), "transformer", CORE)
            self.assertEqual(wrong.outcome, "must_fix")

    def test_below_nine_amperes_no_next_size_counts(self):
        # 2.1 kVA: 8.75 A in, 167 % are 14.6 A; 2.16 kVA: 9 A, 125 % are 11.25 A, and the next standard rating is 15 A
        self.assertEqual(finding(self.report(kva=2.1, device_a=15.0), "transformer", CORE).outcome, "must_fix")
        self.assertIsNone(finding(self.report(kva=2.16, device_a=15.0), "transformer", CORE))
        self.assertIsNone(finding(self.report(kva=2.4, device_a=15.0), "transformer", CORE))

    def test_a_rating_that_is_not_read(self):
        self.assertEqual(finding(self.report(kva=None), "transformer", CORE).field, "kva")

    def test_it_is_listed_for_forming_a_neutral(self):
        outcomes = [
            finding(self.report(listed_for_neutral=told), "neutral_listing", CORE) for told in (True, None, False)
        ]
        self.assertEqual([item and item.outcome for item in outcomes], [None, "cannot_tell", "must_fix"])

    def test_its_device_opens_the_source_too(self):
        self.assertIsNotNone(held(self.report(), "neutral_lost", CORE))
        self.assertEqual(finding(self.report(opens_source=None), "neutral_lost", CORE).outcome, "cannot_tell")
        wrong = finding(self.report(opens_source=False), "neutral_lost", CORE)
        self.assertEqual((wrong.outcome, len(wrong.mends)), ("must_fix", 1))

    def test_beside_the_utility_it_works_against_its_imbalance_too(self):
        self.assertEqual(finding(self.report(WITH_UTILITY), "neutral_with_utility", CORE).outcome, "advice")
        self.assertIsNone(finding(self.report(), "neutral_with_utility", CORE))


class Currents(unittest.TestCase):
    def outcome(self, **load):
        site = Arrangement(ALONE)
        site.bond("p", made=True)
        for run in site.job["runs"]:
            run.update(WIRE)
        thing(site.job, "sources", "i-set").update(rated_output_a=50.0, rated_kva=12.0, rated_output_v=240.0)
        thing(site.job, "transformers", CORE)["impedance_percent"] = 2.0
        own = {"id": "lamp", "name": "Lamp", "enclosure_id": "p", "category": "other", "connection": "L1-N"}
        site.job["loads"].append({**own, "amount": 2400.0, "unit": "VA", "volts": 120.0, **load})
        return study(check(parse_value(site.job)), Situation(use="stated"), "")

    def lines_of(self, outcome, run_id):
        return next(item.amperes for item in outcome.runs if item.id == run_id)

    def test_a_load_on_one_line_draws_half_of_it_from_each_line_of_the_source(self):
        # 2,400 VA at 120 V: 20 A, of which the two halves of the winding take 10 A each
        outcome = self.outcome()
        source, halves = (self.lines_of(outcome, run) for run in ("i-to-p", "p-to-a"))
        for role in ("L1", "L2"):
            self.assertAlmostEqual(abs(source[role]), 10.0, delta=0.4)
            self.assertAlmostEqual(abs(halves[role]), 10.0, delta=0.4)
        self.assertAlmostEqual(abs(halves["neutral"]), 20.0, delta=0.8)

    def test_a_load_between_the_lines_leaves_it_alone(self):
        halves = self.lines_of(self.outcome(volts=240.0, connection="L1-L2"), "p-to-a")
        self.assertLess(max(abs(amperes) for amperes in halves.values()), 0.1)


if __name__ == "__main__":
    unittest.main()
