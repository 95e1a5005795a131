"""A supply that stands alone against its largest piece of equipment: both sides, and what is not told."""

import json
import unittest

from nelvor.demo import FOLDER
from tests.judges.test_pushed_back import held
from tests.support.jobs import finding, report_of, thing

INVERTER = "inverter-source"


class Islands(unittest.TestCase):
    def setUp(self):
        self.job = json.loads((FOLDER / "cabin.json").read_text())
        self.job["loads"] = [item for item in self.job["loads"] if item["name"] != "Well pump"]

    def heater(self, va, **values):
        load = {"id": "heater", "name": "Water heater", "enclosure_id": "cabin-panel", "category": "water_heater"}
        self.job["loads"].append({**load, "amount": va, "unit": "VA", "volts": 240.0, **values})

    def test_it_carries_the_largest_piece_and_no_less(self):
        self.heater(8000.0)
        holds = held(report_of(self.job), "island_capacity", INVERTER)
        self.assertIn("8 kVA for Water heater of 8 kVA", holds.text)
        self.job["loads"][-1]["amount"] = 8001.0
        wrong = finding(report_of(self.job), "island_capacity", INVERTER)
        self.assertEqual((wrong.outcome, wrong.section), ("must_fix", "710.15(A); 705.80"))

    def test_two_pieces_are_not_added(self):
        self.heater(5000.0, quantity=2)
        self.assertIsNone(finding(report_of(self.job), "island_capacity", INVERTER))

    def test_lighting_and_receptacles_are_no_single_piece(self):
        self.heater(9000.0, category="receptacles", volts=120.0)
        self.assertIsNone(finding(report_of(self.job), "island_capacity", INVERTER))

    def test_what_is_not_told_is_asked_for(self):
        self.heater(None)
        self.assertEqual(finding(report_of(self.job), "island_capacity", INVERTER).outcome, "cannot_tell")
        self.job["loads"].pop()
        thing(self.job, "sources", INVERTER)["rated_kva"] = None
        asked = finding(report_of(self.job), "island_capacity", INVERTER)
        self.assertEqual((asked.outcome, asked.field), ("cannot_tell", "rated_kva"))

    def test_that_a_motor_starts_is_advice(self):
        for horsepower, expected in (("1", None), ("2", "advice")):
            self.setUp()
            self.heater(float(horsepower), category="motor", unit="hp", volts=230.0, name="Pump")
            found = finding(report_of(self.job), "island_start", INVERTER)
            self.assertEqual(found.outcome if found else None, expected, horsepower)

    def test_a_generator_alone_is_one_too(self):
        thing(self.job, "sources", INVERTER)["kind"] = "generator"
        self.heater(8001.0)
        self.assertEqual(finding(report_of(self.job), "island_capacity", INVERTER).outcome, "must_fix")

    def test_a_site_with_a_utility_is_no_island(self):
        self.job["sources"].append({"id": "utility", "kind": "utility", "name": "Utility"})
        thing(self.job, "sources", INVERTER)["kind"] = "generator"
        self.heater(20_000.0)
        self.assertIsNone(finding(report_of(self.job), "island_capacity", INVERTER))
