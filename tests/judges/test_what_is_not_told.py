"""What is not computed, or lacks its input, is said on the thing itself, and never ends as holding."""

import unittest

from nelvor.report.check import Report
from tests.support.jobs import JobBuilder, finding, report_of, thing


def panel_job() -> JobBuilder:
    builder = JobBuilder()
    builder.service()
    builder.box("panel", "service")
    return builder


def codes(report: Report, outcome: str) -> set[str]:
    return {item.code for item in report.findings if item.outcome == outcome}


class BackFedBreakers(unittest.TestCase):
    def test_a_bus_that_a_source_feeds_too_is_not_said_to_be_protected(self):
        builder = panel_job()
        held = report_of(builder.job).count("holds")
        builder.add("devices", "solar", enclosure_id="panel", name="Solar", role="source", rating_a=40.0)
        report = report_of(builder.job)
        told = finding(report, "bus_source", "panel")
        self.assertEqual(told.outcome, "cannot_tell")
        self.assertIn("Solar feeds the 200 A bus of panel besides its supply of 100 A", told.text)
        self.assertEqual(report.count("holds"), held - 1)

    def test_an_interactive_source_that_lands_on_lugs_is_told_too(self):
        builder = panel_job()
        builder.add("lugs", "more", enclosure_id="panel")
        builder.add("sources", "roof", name="Roof", kind="inverter", system="split_120_240", interactive=True)
        builder.add("runs", "from-roof", from_part="roof", to_part="more", length_ft=20.0)
        told = finding(report_of(builder.job), "bus_source", "panel")
        self.assertIn("Roof feeds", told.text)

    def test_a_bus_that_is_too_small_for_its_main_alone_stays_a_must_fix(self):
        builder = panel_job()
        builder.add("devices", "solar", enclosure_id="panel", name="Solar", role="source", rating_a=40.0)
        thing(builder.job, "buses", "panel-bus")["rating_a"] = 80.0
        self.assertEqual(finding(report_of(builder.job), "bus", "panel").outcome, "must_fix")

    def test_the_breaker_of_a_source_is_no_feeder_of_loads(self):
        builder = panel_job()
        builder.box("beyond", "panel", feeder_a=60.0)
        device = next(item for item in builder.job["devices"] if item["rating_a"] == 60.0)
        self.assertIsNone(finding(report_of(builder.job), "source_as_feeder", device["id"]))
        device["role"] = "source"
        told = finding(report_of(builder.job), "source_as_feeder", device["id"])
        self.assertEqual((told.outcome, told.field), ("cannot_tell", "role"))


class DropWithoutALoad(unittest.TestCase):
    def test_it_is_shown_for_the_device_and_cannot_be_told(self):
        report = report_of(panel_job().job)
        told = [item for item in report.findings if item.code == "drop"]
        self.assertEqual({item.outcome for item in told}, {"cannot_tell"})
        run = report.runs[told[-1].id]
        self.assertNotIn("total_drop", run.figures)
        self.assertGreater(run.figures["drop_at_device"].number, 0)
        self.assertIn("At the 100 A of its device it would be", told[-1].text)

    def test_it_is_the_same_drop_that_a_load_of_the_device_s_rating_has(self):
        builder = panel_job()
        alone = report_of(builder.job)
        run_id = next(item.id for item in alone.findings if item.code == "drop" and "100 A" in item.text)
        at_device = alone.runs[run_id].figures["drop_at_device"].number
        builder.add(
            "loads", "heat", enclosure_id="panel", name="Heat", category="other", unit="A", amount=100.0, volts=240.0
        )
        self.assertEqual(report_of(builder.job).runs[run_id].figures["drop"].number, at_device)

    def test_with_a_load_it_is_judged(self):
        builder = panel_job()
        builder.add(
            "loads", "heat", enclosure_id="panel", name="Heat", category="other", unit="A", amount=1.0, volts=240.0
        )
        self.assertEqual(codes(report_of(builder.job), "cannot_tell") & {"drop"}, set())
