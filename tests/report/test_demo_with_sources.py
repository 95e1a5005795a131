"""The orchard with sources: made from the orchard by what anybody can take, lawful, with its chosen way and the refused ones."""

import json
import unittest

from nelvor.demo import demo_job
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.positions_played import positions_out
from nelvor.report.ways_to_connect import ways_for_source
from tools.make_sources_demo import made

DEMO = "orchard-sources"


class DemoWithSources(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.job = json.loads(demo_job(DEMO).model_dump_json())
        cls.report = check(parse_value(cls.job), "proposed")

    def test_it_is_what_the_tool_makes(self):
        self.assertEqual(parse_value(made()), demo_job(DEMO))

    def test_nothing_must_be_fixed_and_the_bus_holds(self):
        self.assertEqual([item.text for item in self.report.findings if item.outcome == "must_fix"], [])
        bus = [item for item in self.report.held if item.code == "bus_source"]
        self.assertTrue(any("120 %" in item.text or "150 A" in item.text for item in bus), bus)

    def test_the_refused_ways_stand_beside_the_chosen_one_with_their_reasons(self):
        ways = ways_for_source(self.job, lambda job: check(parse_value(job), "proposed"), self.inverter()).ways
        refused = [way for way in ways if way.outcome == "fails"]
        self.assertGreaterEqual(len(refused), 3)
        for way in refused:
            self.assertTrue(way.reasons or way.rules, way.title)

    def inverter(self):
        return next(item["id"] for item in self.job["sources"] if item["kind"] == "inverter")

    def test_without_the_utility_the_set_feeds_the_house_and_the_barn_is_dead(self):
        usual, away = positions_out(self.report)
        for box in ("house-panel", "barn-panel"):
            self.assertIn(box, usual.live)
        self.assertIn("house-panel", away.live)
        self.assertNotIn("barn-panel", away.live)
        self.assertIn("transfer-switch", {place for system in away.systems for place in system.places})
