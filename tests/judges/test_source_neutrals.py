"""The neutral of a source that is smaller than its lines: on one line, only measuring, or with power in it; by edition."""

import unittest

from tests.judges.test_pushed_back import held
from tests.judges.test_source_runs import COPPER, conductors
from tests.support.jobs import JobBuilder, finding, mended, report_of


class SourceNeutrals(unittest.TestCase):
    def site(self, edition="2023", size="10", roles=("L1", "L2", "neutral", "ground"), **plate):
        builder = JobBuilder(edition)
        builder.service(main_a=200.0)
        builder.box("hall", "service", main_a=200.0, feeder_a=200.0)
        told = {"kind": "inverter", "interactive": True, "output": "with_neutral", "rated_output_a": 32.0, **plate}
        builder.add("sources", "roof", name="Roof", **told)
        poles = len(roles) - 2
        device = {"enclosure_id": "hall", "bus_id": "hall-bus", "role": "source", "rating_a": 40.0, "poles": poles}
        builder.add("devices", "solar", name="Solar", **device)
        run = {"length_ft": 50.0, "hot_size": "8", "neutral_size": size, **COPPER}
        builder.add("runs", "out", from_part="roof", to_part="solar", **run)
        ends = {"ground": ("roof", "hall-g"), "neutral": ("roof", "hall-n")}
        conductors(builder, "out", "roof", "solar", roles, ends)
        self.job = builder.job
        return builder.report()

    def ends(self, report, thing_id="out"):
        found = finding(report, "neutral_size", thing_id)
        return found.outcome if found else "holds" if held(report, "neutral_size", thing_id) else None

    def test_as_large_as_the_lines_nothing_is_said(self):
        self.assertIsNone(self.ends(self.site(size="8")))

    def test_whether_it_only_measures_is_asked_of_the_source(self):
        found = finding(self.site(), "neutral_size", "roof")
        self.assertEqual((found.outcome, found.field), ("cannot_tell", "neutral_senses_only"))

    def test_one_that_carries_power_goes_by_its_load(self):
        self.assertEqual(self.ends(self.site(neutral_senses_only=False)), "cannot_tell")

    def test_one_that_only_measures_by_the_grounding_conductor_and_later_by_the_jumper(self):
        # Table 250.122 for 40 A: 10 AWG. Table 250.102(C)(1) for 8 AWG copper: 8 AWG.
        for edition, size, expected, section in (
            ("2017", "10", "holds", "705.95(B)"),
            ("2017", "12", "must_fix", "705.95(B)"),
            ("2020", "10", "must_fix", "705.28(C)(2)"),
            ("2023", "10", "must_fix", "705.28(C)(2)"),
        ):
            report = self.site(edition, size, neutral_senses_only=True)
            self.assertEqual(self.ends(report), expected, (edition, size))
            said = finding(report, "neutral_size", "out") or held(report, "neutral_size", "out")
            self.assertEqual(said.section, section)

    def test_its_mend_clears_it(self):
        found = finding(self.site("2017", "12", neutral_senses_only=True), "neutral_size", "out")
        self.assertEqual(self.ends(report_of(mended(self.job, found))), "holds")

    def test_a_source_on_one_line_loads_its_neutral_with_all_it_gives(self):
        one_line = {"roles": ("L1", "neutral", "ground"), "output": "two_wire_120"}
        # 10 AWG THWN-2 at terminals of 75 °C carries 35 A: 28 A at 125 % are 35 A, 28.1 A are more
        for edition, output, expected in (
            ("2023", 28.0, "holds"),
            ("2023", 28.1, "must_fix"),
            ("2020", 28.1, "must_fix"),
            ("2017", 35.0, "holds"),
            ("2017", 35.1, "must_fix"),
        ):
            report = self.site(edition, rated_output_a=output, **one_line)
            self.assertEqual(self.ends(report), expected, (edition, output))


if __name__ == "__main__":
    unittest.main()
