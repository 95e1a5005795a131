"""Farm loads on a site, two dwelling units together, and loads with least or counted amounts."""

import unittest

from nelvor.judges.level_loads import LoadUnknown
from tests.support.jobs import JobBuilder, finding, thing


def farm(*buildings, edition="2023"):
    """Return a service that feeds a panel in each building, with these loads in VA that run together or not."""
    builder = JobBuilder(edition)
    builder.job["settings"]["other_load_method"] = "farm"
    builder.service(main_a=400.0)
    for number, loads in enumerate(buildings, 1):
        builder.add("buildings", f"barn-{number}", name=f"Barn {number}", use="farm")
        builder.box(f"panel-{number}", "service", building=f"barn-{number}", main_a=200.0, feeder_a=200.0)
        for va, together in loads:
            builder.load(f"panel-{number}", va, without_diversity=together)
    return builder


class OnASite(unittest.TestCase):
    def test_each_building_by_itself_and_the_farm_by_size(self):
        """Barn 1: 14 400 + 7 200 + 2 800 = 24 400; barn 2: 10 000; together 10 000 at 75 %: 31 900 VA."""
        builder = farm([(20_000.0, False), (20_000.0, False)], [(6_000.0, False), (4_000.0, False)])
        levels = builder.report().levels
        self.assertEqual(levels["panel-1"].demand_va.number, 24_400)
        self.assertEqual(levels["panel-2"].demand_va.number, 10_000)
        self.assertEqual(levels["service"].demand_va.number, 31_900)
        self.assertEqual(levels["service"].connected_va.number, 50_000)

    def test_panels_of_one_building_are_one_load(self):
        builder = farm([(20_000.0, False)], [(20_000.0, False)])
        thing(builder.job, "enclosures", "panel-2")["building_id"] = "barn-1"
        self.assertEqual(builder.report().levels["service"].demand_va.number, 24_400)

    def test_unknown_diversity_is_cannot_tell(self):
        builder = farm([(20_000.0, None), (20_000.0, False)])
        level = builder.report().levels["panel-1"]
        self.assertIsInstance(level, LoadUnknown)
        self.assertEqual(level.reason.field_name, "without_diversity")
        told = finding(builder.report(), "load", "panel-1")
        self.assertIn("Whether load-1 runs together with the others is not known", told.text)

    def test_other_methods_do_not_ask_for_it(self):
        builder = farm([(20_000.0, None), (20_000.0, None)])
        builder.job["settings"]["other_load_method"] = "connected"
        self.assertEqual(builder.report().levels["service"].demand_va.number, 40_000)

    def test_the_dwelling_of_the_farm_goes_by_its_own_method(self):
        builder = farm([(20_000.0, False), (20_000.0, False)])
        builder.add("dwelling_units", "house", name="House")
        builder.load("service", 12.0, unit="kW", category="range", dwelling_unit_id="house")
        self.assertEqual(builder.report().levels["service"].demand_va.number, 24_400 + 8_000)

    def test_the_motor_adder_is_not_taken_twice(self):
        """One 80 A motor and 6 kVA: 24 000 whole by 125 % of the motor, and 600; no further quarter."""
        builder = farm([(19_200.0, False), (6_000.0, False)])
        builder.job["loads"][0]["category"] = "motor"
        worst = builder.report().levels["panel-1"].worst
        self.assertEqual((worst.actual.number * 240, worst.design.number * 240), (24_600, 24_600))

    def test_the_load_never_exceeds_what_is_connected(self):
        builder = farm([(3_000.0, False), (2_000.0, False)])
        self.assertEqual(builder.report().levels["panel-1"].demand_va.number, 5_000)


class TwoUnits(unittest.TestCase):
    def builder(self, *areas):
        builder = JobBuilder()
        builder.job["settings"]["multifamily_optional"] = True
        builder.service(main_a=200.0)
        for number, area in enumerate(areas, 1):
            unit = f"unit-{number}"
            builder.add("dwelling_units", unit, name=unit)
            builder.load("service", area, unit="ft2", category="lighting_area", dwelling_unit_id=unit)
            builder.load("service", 12.0, unit="kW", category="range", dwelling_unit_id=unit)
            builder.load("service", 12.0, unit="kW", category="cooling", dwelling_unit_id=unit)
        return builder

    def test_two_alike_count_as_three_where_that_is_less(self):
        """3 x (4500 + 12 000 + 12 000) x 45 % = 38 475; standard 3000 + 35 % of 6000 + 11 000 + 24 000 = 40 100 VA."""
        level = self.builder(1_500.0, 1_500.0).report().levels["service"]
        self.assertEqual((level.groups[0].method, level.demand_va.number), ("two_units", 38_475))

    def test_two_that_differ_go_by_the_standard_method(self):
        level = self.builder(1_500.0, 1_600.0).report().levels["service"]
        self.assertEqual({group.method for group in level.groups}, {"standard"})

    def test_the_neutral_goes_by_the_standard_method(self):
        level = self.builder(1_500.0, 1_500.0).report().levels["service"]
        neutral = (3_000 + 0.35 * 6_000 + 0.7 * 11_000) / 240
        self.assertAlmostEqual(float(level.neutral.number), neutral, places=6)


class LeastAndCountedAmounts(unittest.TestCase):
    def level(self, edition="2023", **load):
        builder = JobBuilder(edition)
        builder.service()
        builder.load("service", load.pop("amount"), volts=120.0, **load)
        return builder.report().levels["service"]

    def test_a_sign_counts_1200_va_at_least_and_is_continuous(self):
        small, large = (self.level(category="sign", amount=va) for va in (400.0, 1_500.0))
        self.assertEqual((small.demand_va.number, large.demand_va.number), (1_200, 1_500))
        self.assertEqual(small.worst.design.number, small.worst.actual.number * 5 / 4)

    def test_show_windows_by_the_foot(self):
        self.assertEqual(self.level(category="show_window", unit="ft", amount=12.0).demand_va.number, 2_400)

    def test_track_lighting_for_every_two_feet_or_a_part(self):
        for feet, va in ((2.0, 150), (2.1, 300), (10.0, 750), (11.0, 900)):
            self.assertEqual(self.level(category="track_lighting", unit="ft", amount=feet).demand_va.number, va)

    def test_feet_belong_to_windows_and_tracks_alone(self):
        level = self.level(category="other", unit="ft", amount=10.0)
        self.assertIn("given in ft", level.reason.reason)
