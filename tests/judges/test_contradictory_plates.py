"""Plates that contradict themselves are read again; the rating of an inlet against its set."""

import unittest

from tests.judges.test_pushed_back import held, inverter
from tests.support.jobs import JobBuilder, finding, mended, report_of, thing
from tests.validation.test_interconnection_conditions import large_inlet


class Plates(unittest.TestCase):
    def found(self, **plate):
        builder = JobBuilder()
        builder.service()
        builder.box("barn", "service", kind="disconnect", main_a=40.0, feeder_a=40.0)
        inverter(builder, "barn")
        thing(builder.job, "sources", "roof").update(plate)
        report = builder.report()
        return [item.field for item in report.findings if item.code == "plate"]

    def test_amperes_and_kva_agree_within_a_tenth(self):
        """32 A at 240 V are 7.68 kVA; a tenth of that is 0.768."""
        for kva, fields in ((7.6, []), (8.44, []), (8.45, ["rated_kva"]), (6.9, ["rated_kva"]), (6.92, [])):
            with self.subTest(kva=kva):
                self.assertEqual(self.found(rated_kva=kva), fields)
        self.assertEqual(self.found(rated_kva=9.6, power_factor=0.8), [])  # 7.68 kW

    def test_what_cannot_all_be_true(self):
        self.assertEqual(self.found(interactive=False, forms_supply=False), ["forms_supply"])
        self.assertEqual(self.found(output="line_to_line", neutral_path="passes"), ["output"])
        self.assertEqual(self.found(marking="floating_neutral", relay="always_closed"), ["relay"])
        self.assertEqual(self.found(largest_device_a=31.0), ["largest_device_a"])
        self.assertEqual(self.found(largest_device_a=40.0), [])


class Inlets(unittest.TestCase):
    def test_rated_for_the_device_of_its_set(self):
        job = large_inlet("2023", rating_a=50.0)
        inlet = thing(job, "enclosures", "q")
        asked = finding(report_of(job), "inlet_rating", "q")
        self.assertEqual((asked.outcome, asked.field), ("cannot_tell", "inlet_a"))
        inlet["inlet_a"] = 50.0
        self.assertIsNotNone(held(report_of(job), "inlet_rating", "q"))
        inlet["inlet_a"] = 30.0
        wrong = finding(report_of(job), "inlet_rating", "q")
        self.assertEqual((wrong.outcome, wrong.section), ("must_fix", "110.3(B)"))
        self.assertIsNotNone(held(report_of(mended(job, wrong)), "inlet_rating", "q"))


if __name__ == "__main__":
    unittest.main()
