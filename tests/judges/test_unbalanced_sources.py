"""One-phase sources on a three-phase system: even over the legs, uneven, entered, and not meant."""

import unittest

from tests.judges.test_pushed_back import held, inverter
from tests.support.jobs import JobBuilder, finding

CODE = "unbalanced_source"


class UnbalancedSources(unittest.TestCase):
    def report(self, edition="2023", system="wye_208_120", pairs=(("L1", "L2"),), amperes=20.0, **values):
        builder = JobBuilder(edition, system=system)
        builder.service()
        for number, legs in enumerate(pairs):
            box = f"barn{number}"
            builder.box(box, "service", kind="disconnect", main_a=40.0, feeder_a=40.0)
            facts = {"output_a": amperes, "system": system, "legs": legs, **values}
            inverter(builder, box, f"roof{number}", **facts)
        return builder.report()

    def outcome(self, report):
        found = finding(report, CODE, "roof0")
        return found.outcome if found else "holds" if held(report, CODE, "roof0") else None

    def test_one_on_two_legs_is_asked_about(self):
        self.assertEqual(self.outcome(self.report()), "cannot_tell")
        self.assertEqual(self.outcome(self.report(unbalance_accepted=True)), "holds")
        for edition, section in (("2017", "705.100"), ("2020", "705.45"), ("2023", "705.45")):
            wrong = finding(self.report(edition, unbalance_accepted=False), CODE, "roof0")
            self.assertEqual((wrong.outcome, wrong.section), ("must_fix", section))

    def test_three_alike_on_the_three_pairs_are_even(self):
        pairs = (("L1", "L2"), ("L2", "L3"), ("L1", "L3"))
        self.assertEqual(self.outcome(self.report(pairs=pairs)), "holds")
        self.assertEqual(self.outcome(self.report(pairs=(*pairs[:2], pairs[0]))), "cannot_tell")
        self.assertEqual(self.outcome(self.report(pairs=pairs, amperes=None)), "cannot_tell")

    def test_three_lines_and_one_phase_systems_are_not_meant(self):
        self.assertIsNone(self.outcome(self.report(pairs=(("L1", "L2", "L3"),))))
        self.assertIsNone(self.outcome(self.report(system="split_120_240")))
