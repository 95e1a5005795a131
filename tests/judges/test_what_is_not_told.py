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
        told = finding(report_of(builder.job), "bus_source", "roof")
        self.assertIn("Roof feeds", told.text)
        self.assertEqual(told.field, "rated_output_a")

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
        for run in builder.job["runs"]:
            run["standing"] = "added"
        self.assertEqual(codes(report_of(builder.job), "cannot_tell") & {"drop"}, set())


class StillToBeRead(unittest.TestCase):
    """Sizes of standing work are never chosen for the user: they are asked for until they are read."""

    def told(self, job, state="proposed"):
        return finding(report_of(job, state), "to_be_read", "to-panel")

    def test_what_is_empty_of_a_standing_run_is_asked_for_in_one_place(self):
        job = panel_job().job
        told = self.told(job)
        self.assertEqual((told.outcome, told.field), ("cannot_tell", "hot_size"))
        words = "the size of the lines, the size of the neutral, the size of the grounding conductor, the raceway"
        self.assertIn(words, told.text)
        thing(job, "runs", "to-panel").update(hot_size="1", neutral_size="1", ground_size="6")
        self.assertIn("Still to be read on site: the raceway.", self.told(job).text)
        thing(job, "runs", "to-panel")["raceway_size"] = "1-1/2"
        self.assertIsNone(self.told(job))

    def test_an_added_run_and_a_proposed_change_are_free(self):
        job = panel_job().job
        run = thing(job, "runs", "to-panel")
        run["standing"] = "added"
        self.assertIsNone(self.told(job))
        sizes = {"neutral_size": "1", "ground_size": "6", "raceway_size": "1-1/2"}
        run.update(standing="existing", hot_size="4", proposed={"hot_size": None}, **sizes)
        self.assertIsNone(self.told(job))
        self.assertIsNone(self.told(job, "existing"))
        run["hot_size"] = None
        self.assertIsNone(self.told(job))
        self.assertIsNotNone(self.told(job, "existing"))

    def test_of_a_cable_only_its_size_is_asked_for(self):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service", run={"method": "cable", "insulation": "SER", "material": "aluminum"})
        self.assertIn("Still to be read on site: the size of the lines.", self.told(builder.job).text)

    def test_the_rating_of_a_standing_breaker_is_asked_for_too(self):
        job = panel_job().job
        thing(job, "devices", "service-to-panel")["rating_a"] = None
        self.assertIn("the rating of its device", self.told(job).text)

    def test_a_drop_that_rests_on_an_unread_size_never_holds(self):
        builder = panel_job()
        builder.load("panel", 5_000.0)
        report = report_of(builder.job)
        self.assertFalse([item for item in report.held if (item.code, item.id) == ("drop", "to-panel")])
        drop = report.runs["to-panel"].figures["total_drop"].text
        self.assertIn(f"the drop with it is {drop} %", self.told(builder.job).text)
        thing(builder.job, "runs", "to-panel")["hot_size"] = "1"
        report = report_of(builder.job)
        self.assertTrue([item for item in report.held if (item.code, item.id) == ("drop", "to-panel")])
