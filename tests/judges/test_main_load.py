"""A main against the load behind it: in a sub-panel, in a disconnect, at a service that the utility feeds straight."""

import unittest

from nelvor.model.parse import parse_value
from nelvor.report.check import check
from tests.judges import test_source_runs
from tests.judges.test_pushed_back import held
from tests.support.jobs import JobBuilder, finding, mended, report_of, thing


class MainLoad(unittest.TestCase):
    """19 200 VA at 240 V are 80 A; continuous, 100 A."""

    def site(self, main_a, box="panel", continuous=False, **device):
        builder = JobBuilder()
        builder.service(main_a=200.0)
        builder.box("box", "service", kind=box, main_a=main_a, feeder_a=100.0)
        load = {"enclosure_id": "box", "category": "other", "amount": 19200.0, "unit": "VA", "volts": 240.0}
        builder.add("loads", "load", continuous=continuous, **load)
        thing(builder.job, "devices", "box-main").update(device)
        return builder

    def test_both_sides_of_its_rating(self):
        for kind in ("panel", "disconnect"):
            for main_a, continuous, outcome in (
                (80.0, False, None),
                (70.0, False, "must_fix"),
                (100.0, True, None),
                (90.0, True, "must_fix"),
            ):
                with self.subTest(kind=kind, main_a=main_a, continuous=continuous):
                    found = finding(self.site(main_a, kind, continuous).report(), "main_load", "box-main")
                    self.assertEqual(found.outcome if found else None, outcome)

    def test_a_bare_switch_carries_the_load_as_it_is(self):
        switch = {"kind": "switch", "frame_a": 80.0}
        self.assertIsNone(finding(self.site(None, "disconnect", True, **switch).report(), "main_load", "box-main"))
        switch["frame_a"] = 60.0
        wrong = finding(self.site(None, "disconnect", False, **switch).report(), "main_load", "box-main")
        self.assertEqual((wrong.outcome, wrong.mend), ("must_fix", None))

    def test_its_mend_is_the_next_rating_with_another_panel_where_the_bus_asks_for_it(self):
        builder = self.site(60.0)
        wrong = finding(builder.report(), "main_load", "box-main")
        self.assertEqual((wrong.section, wrong.mend.label), ("215.3", "box main: 60 A to 80 A"))
        self.assertIsNotNone(held(report_of(mended(builder.job, wrong)), "main_load", "box"))
        thing(builder.job, "buses", "box-bus")["rating_a"] = 70.0
        wrong = finding(builder.report(), "main_load", "box-main")
        self.assertEqual(wrong.mend.label, "box main: 60 A to 80 A; bus of box: 70 A to 80 A, another panel")
        after = report_of(mended(builder.job, wrong))
        self.assertEqual([item.code for item in after.findings if item.outcome == "must_fix"], [])

    def test_a_service_that_the_utility_feeds_straight(self):
        builder = JobBuilder()
        builder.service(main_a=60.0)
        job = builder.job
        job["runs"] = [item for item in job["runs"] if item["id"] != "to-meter"]
        job["conductors"] = [item for item in job["conductors"] if item["run_id"] != "to-meter"]
        thing(job, "runs", "to-service")["from_part"] = "utility"
        for wire in job["conductors"]:
            wire["from_part"] = "utility"
        load = {"enclosure_id": "service", "category": "other", "amount": 19200.0, "unit": "VA", "volts": 240.0}
        builder.add("loads", "load", continuous=False, **load)
        wrong = finding(check(parse_value(job)), "main_load", "service-main")
        self.assertEqual((wrong.outcome, wrong.section), ("must_fix", "230.90(A)"))

    def test_the_main_of_a_set_is_judged_with_what_is_transferred(self):
        """150 A behind a set whose own breaker is 100 A: that is what 702.4 is about."""
        report = test_source_runs.with_generator().report()
        self.assertEqual([item for item in report.findings if item.code == "main_load" and item.id == "yard-main"], [])


if __name__ == "__main__":
    unittest.main()
