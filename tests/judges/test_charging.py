"""What storage takes to charge: a continuous load of what supplies it, on its own run and through its own breaker."""

import unittest

from nelvor.judges.memory import Memory
from nelvor.model.changes.operations import Put
from nelvor.model.edited import KnownJob
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.wire import report_out
from tests.judges.test_passing import HYBRID, PASSES, built
from tests.judges.test_pushed_back import held
from tests.judges.test_source_runs import with_inverter
from tests.support.jobs import finding, mended, report_of, thing


def storage(charging_a, output_a=24.0, **more):
    """Storage of 24 A on a breaker of the hall, beside 24 000 VA at 240 V, which are 100 A."""
    builder = with_inverter(output_a=output_a)
    thing(builder.job, "sources", "roof").update(kind="battery", charging_a=charging_a, **more)
    builder.load("hall", 24_000.0)
    return builder


def load_at(report, box):
    worst = report.levels[box].worst
    return float(worst.actual.number), float(worst.design.number)


class AsALoad(unittest.TestCase):
    def test_it_is_a_continuous_load_of_each_level_above_it(self):
        # 100 A and 32 A; 100 A and 1.25 x 32 A
        for charging_a, expected in ((None, (100.0, 100.0)), (0.0, (100.0, 100.0)), (32.0, (132.0, 140.0))):
            report = storage(charging_a).report()
            for box in ("hall", "service"):
                self.assertEqual(load_at(report, box), expected)

    def test_the_main_and_the_bus_are_judged_with_it(self):
        builder = storage(32.0)
        thing(builder.job, "devices", "hall-main")["rating_a"] = 125.0
        self.assertEqual(finding(builder.report(), "main_load", "hall-main").outcome, "must_fix")
        thing(builder.job, "sources", "roof")["charging_a"] = 20.0
        self.assertIsNone(finding(builder.report(), "main_load", "hall-main"))

    def test_of_one_dwelling_it_belongs_to_its_unit_so_that_its_feeder_stays_that_of_the_whole(self):
        builder = storage(32.0)
        builder.add("buildings", "house", name="House", use="dwelling")
        for box in builder.job["enclosures"]:
            box["building_id"] = "house"
        builder.add("dwelling_units", "unit", name="Unit", building_id="house")
        for load in builder.job["loads"]:
            load["dwelling_unit_id"] = "unit"
        self.assertTrue(builder.report().runs["to-hall"].whole_dwelling)

    def test_an_edit_of_it_is_seen_by_what_was_worked_out_before(self):
        known, memory = KnownJob.of(parse_value(storage(20.0).job)), Memory()
        check(known.document, memory=memory)
        edited = known.edited([Put(list="sources", id="roof", field="charging_a", value=32.0)])
        again = report_out(check(edited.document, memory=memory))
        self.assertEqual(again, report_out(check(parse_value(storage(32.0).job))))


class ItsRunAndBreaker(unittest.TestCase):
    def test_they_carry_the_greater_of_both_ways(self):
        for charging_a, design in ((None, 30.0), (16.0, 30.0), (32.0, 40.0)):
            figures = storage(charging_a).report().runs["out"].figures
            self.assertEqual(float(figures["design"].number), design)

    def test_its_breaker_by_what_it_takes(self):
        builder = storage(32.0)
        thing(builder.job, "devices", "solar")["rating_a"] = 30.0
        found = finding(builder.report(), "source_device", "solar")
        self.assertEqual((found.outcome, found.mend.label), ("must_fix", "Solar: 30 A to 40 A"))
        self.assertIsNone(finding(report_of(mended(builder.job, found)), "source_device", "solar"))
        thing(builder.job, "sources", "roof")["charging_a"] = 24.0
        self.assertIsNone(finding(builder.report(), "source_device", "solar"))

    def test_its_breaker_is_judged_by_that_also_where_it_gives_nothing_back_or_its_output_is_not_read(self):
        for plate in ({"interactive": False}, {"interactive": None}, {"rated_output_a": None}):
            builder = storage(32.0)
            thing(builder.job, "sources", "roof").update(plate)
            thing(builder.job, "devices", "solar")["rating_a"] = 30.0
            found = finding(builder.report(), "source_device", "solar")
            self.assertEqual((found.outcome, found.mend.label), ("must_fix", "Solar: 30 A to 40 A"), plate)
            self.assertIsNone(finding(report_of(mended(builder.job, found)), "source_device", "solar"))


class WhatPowerPassesThrough(unittest.TestCase):
    """A hybrid inverter ahead of its backup panel: its input carries both, its own island does not charge it."""

    def report(self, charging_a):
        job = built(HYBRID, PASSES, "s", charging_a=charging_a)
        load = {"id": "of-p2", "enclosure_id": "p2", "amount": 4800.0, "unit": "VA", "volts": 240.0}
        job["loads"] = [{**load, "category": "other", "continuous": False}]
        return report_of(job)

    def test_its_feed_carries_what_passes_and_what_it_takes(self):
        # 4 800 VA are 20 A; 20 and 24; 20 and 1.25 x 24
        report = self.report(24.0)
        figures = report.runs["s-to-i"].figures
        self.assertEqual((float(figures["load"].number), float(figures["design"].number)), (44.0, 50.0))
        self.assertEqual(load_at(report, "s"), (44.0, 50.0))
        self.assertEqual(load_at(report, "i"), (20.0, 20.0))
        self.assertEqual(load_at(self.report(0.0), "s"), (20.0, 20.0))


class AskedFor(unittest.TestCase):
    def test_of_storage_and_of_inverters_that_go_on_alone(self):
        for plate, asked in (
            ({"kind": "battery"}, True),
            ({"kind": "inverter", "forms_supply": True}, True),
            ({"kind": "inverter", "forms_supply": False}, False),
            ({"kind": "battery", "charging_a": 0.0}, False),
        ):
            builder = storage(None)
            thing(builder.job, "sources", "roof").update(plate)
            missing = finding(builder.report(), "source_facts", "roof").asks
            self.assertEqual(("roof", "charging_a") in missing, asked, plate)

    def test_entered_it_is_told(self):
        self.assertIn(
            "takes 32 A to charge, a continuous load", held(storage(32.0).report(), "charging_a", "roof").text
        )
