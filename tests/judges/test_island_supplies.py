"""Supplies that stand alone: one of 120 V on both legs (710.15(C)), and several on one way (710.15(B)); both sides of each."""

import json
import unittest

from nelvor.demo import FOLDER
from nelvor.report.signs import signs_due
from tests.judges.test_pushed_back import held
from tests.support.jobs import finding, report_of, thing

SOURCE, PANEL, BAR = "inverter-source", "cabin-panel", "cabin-n"


class Single120Supply(unittest.TestCase):
    """The cabin on an inverter of 120 V and two wires: 3.6 kVA, 30 A, on both legs of its panel."""

    def setUp(self):
        self.job = json.loads((FOLDER / "cabin.json").read_text())
        thing(self.job, "sources", SOURCE).update(output="two_wire_120", rated_kva=3.6, rated_output_a=None)
        thing(self.job, "bars", BAR)["rating_a"] = 100.0
        gone = {load["device_id"] for load in self.job["loads"] if load["volts"] == 240.0} | {"to-wash"}
        self.job["loads"] = [load for load in self.job["loads"] if load["volts"] != 240.0]
        for name, field in (("devices", "id"), ("circuits", "device_id")):
            self.job[name] = [item for item in self.job[name] if item[field] not in gone]
        wash = ("wash-panel", "wash-main", "to-wash-house", "wash-n", "wash-g")
        for name, things in self.job.items():
            if isinstance(things, list):
                self.job[name] = [
                    item
                    for item in things
                    if not any(value in wash for value in item.values() if isinstance(value, str))
                ]

    def found(self, code, of):
        found = finding(report_of(self.job), code, of)
        return found.outcome if found else None

    def holds(self):
        return held(report_of(self.job), "single_120_supply", SOURCE)

    def test_it_holds_where_nothing_needs_both_legs(self):
        said = self.holds()
        self.assertIn("30 A are below the 100 A of the neutral bar", said.text)
        self.assertEqual(said.section, "710.15(C); 705.82")

    def test_below_the_rating_of_the_neutral_bar_and_not_at_it(self):
        thing(self.job, "bars", BAR)["rating_a"] = 30.0
        self.assertEqual(self.found("single_120_bar", BAR), "must_fix")
        self.assertIsNone(self.holds())
        thing(self.job, "bars", BAR)["rating_a"] = 30.5
        self.assertIsNone(self.found("single_120_bar", BAR))

    def test_what_the_bar_carries_is_asked_for(self):
        thing(self.job, "bars", BAR)["rating_a"] = None
        asked = finding(report_of(self.job), "single_120_bar", BAR)
        self.assertEqual((asked.outcome, asked.field), ("cannot_tell", "rating_a"))

    def test_what_needs_240_v_gets_none(self):
        pump = {"id": "pump", "name": "Pump", "enclosure_id": PANEL, "category": "other", "amount": 900.0, "unit": "VA"}
        self.job["loads"].append({**pump, "volts": 240.0})
        self.assertEqual(self.found("single_120_load", "pump"), "must_fix")
        self.job["loads"][-1]["volts"] = 120.0
        self.assertIsNone(self.found("single_120_load", "pump"))

    def test_circuits_that_share_a_neutral(self):
        thing(self.job, "circuits", "w1")["shared_neutral"] = "counter"
        thing(self.job, "circuits", "w3")["shared_neutral"] = "counter"
        self.assertEqual(
            [self.found("single_120_multiwire", item) for item in ("c1", "c3", "c2")], ["must_fix"] * 2 + [None]
        )

    def test_a_feeder_of_two_poles_is_asked_about(self):
        feeder = {"id": "shed", "enclosure_id": PANEL, "role": "feeder", "rating_a": 20.0, "poles": 2, "space": 20}
        self.job["devices"].append({**feeder, "bus_id": "cabin-bus"})
        self.assertEqual(self.found("single_120_feeder", "shed"), "cannot_tell")

    def test_the_panel_is_marked(self):
        words = [sign.words for sign in signs_due(report_of(self.job)) if sign.enclosure_id == PANEL]
        self.assertTrue(any("SINGLE 120-VOLT SUPPLY" in item for item in words), words)

    def test_one_of_both_legs_is_not_asked(self):
        thing(self.job, "sources", SOURCE)["output"] = "with_neutral"
        self.assertIsNone(self.holds())
        self.assertFalse(any("SINGLE 120" in sign.words for sign in signs_due(report_of(self.job))))


class SeveralSourcesOnOneWay(unittest.TestCase):
    """A second inverter of 8 kVA joins the first ahead of the cabin: 66.7 A, 83.3 A at 125 %."""

    def setUp(self):
        self.job = json.loads((FOLDER / "cabin.json").read_text())
        second = {**thing(self.job, "sources", SOURCE), "id": "second", "name": "Second inverter"}
        self.job["sources"].append(second)

    def outcome(self, size):
        thing(self.job, "runs", "to-cabin").update(hot_size=size, neutral_size=size, raceway_size="2")
        report = report_of(self.job)
        found = finding(report, "standalone_conductor", "to-cabin")
        return found.outcome if found else (held(report, "standalone_conductor", "to-cabin") and "holds")

    def test_by_the_sum_of_them(self):
        self.assertEqual(self.outcome("6"), "must_fix")  # 65 A at 75 °C
        self.assertEqual(self.outcome("4"), "holds")  # 85 A
        self.job["sources"].pop()
        self.assertIsNone(self.outcome("6"))

    def test_another_size_of_the_second_moves_the_limit(self):
        for kva, expected in ((8.32, "holds"), (8.33, "must_fix")):  # 16.32 kVA / 240 V × 1.25 = 85.0 A
            self.job["sources"][-1]["rated_kva"] = kva
            self.assertEqual(self.outcome("4"), expected, kva)


if __name__ == "__main__":
    unittest.main()
