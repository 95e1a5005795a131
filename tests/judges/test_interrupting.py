import unittest

from tests.support.jobs import JobBuilder, thing, through_transformer


class InterruptingRatings(unittest.TestCase):
    """22 kA at the service: a breaker there must break it; one behind a wire need only break what is left."""

    def setUp(self):
        self.builder = JobBuilder()
        self.builder.service()
        self.builder.box("panel", "service")
        self.builder.load("panel", 5_000.0)
        self.source = self.builder.job["sources"][0]
        self.source["fault_current_a"] = 22_000

    def devices_in(self, box):
        return [item for item in self.builder.job["devices"] if item["enclosure_id"] == box]

    def outcomes(self, ratings):
        for box, rating in ratings.items():
            for device in self.devices_in(box):
                device["interrupting_a"] = rating
        report = self.builder.report()
        said = [
            item for answer in report.of("panel").values() for item in answer.verdicts if item.code == "interrupting"
        ]
        self.texts = [item.text for item in said]
        return [item.outcome for item in said]

    def test_at_the_service_all_of_it_must_be_broken(self):
        self.assertIn("must_fix", self.outcomes({"service": 21_999}))
        self.assertEqual(set(self.outcomes({"service": 22_000})), {"holds"})

    def test_behind_the_service_what_breaks_all_of_it_holds(self):
        self.assertEqual(set(self.outcomes({"service": 22_000, "panel": 22_000})), {"holds"})

    def test_behind_the_service_less_is_not_known_to_be_enough(self):
        self.assertEqual(set(self.outcomes({"service": 22_000, "panel": 10_000})), {"holds", "cannot_tell"})
        self.texts = [text for text in self.texts if "Currents" in text]
        self.assertIn("10000 A, and 22000 A are available at the service", self.texts[0])

    def test_a_marking_of_the_panel_serves_all_but_its_main(self):
        thing(self.builder.job, "enclosures", "service")["interrupting_a"] = 25_000
        self.assertEqual(sorted(set(self.outcomes({"service": 10_000}))), ["holds", "must_fix"])

    def test_what_the_utility_gives_is_no_bound_behind_a_transformer(self):
        self.builder = through_transformer()
        self.builder.job["sources"][0]["fault_current_a"] = 22_000
        behind = {item["enclosure_id"] for item in self.builder.job["devices"]} - {"service"}
        self.assertTrue(behind)
        self.assertEqual(
            self.outcomes({"service": 22_000, **dict.fromkeys(behind, 10_000)}),
            ["holds"] * len(self.devices_in("service")),
        )

    def test_the_main_at_the_service_is_asked_for_what_it_can_break(self):
        self.assertEqual(self.outcomes({}), ["cannot_tell"])
        self.assertIn("22000 A are available here", self.texts[0])

    def test_nothing_is_said_where_the_utility_has_not_told(self):
        self.source["fault_current_a"] = None
        self.assertEqual(self.outcomes({"service": 10_000, "panel": 10_000}), [])
