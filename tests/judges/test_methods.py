"""Load methods on a site: which level they fit, what they leave out, and what the levels above make of it."""

import unittest
from fractions import Fraction

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.judges.level_loads import LoadUnknown
from tests.support.jobs import JobBuilder, finding, mended, report_of, thing, through_transformer


def house(method="standard", main_a=200.0, *, split=False, edition="2023") -> JobBuilder:
    """A service, a house panel with a dwelling's loads, and where asked a sub-panel with part of them."""
    builder = JobBuilder(edition)
    builder.add("buildings", "home", name="Home", use="dwelling")
    builder.add("dwelling_units", "unit", name="Unit", building_id="home", load_method=method)
    builder.service(main_a=main_a)
    builder.box("panel", "service", building="home", main_a=main_a, feeder_a=main_a)
    if split:
        builder.box("sub", "panel", building="home", main_a=60.0, feeder_a=60.0)
    own = {"dwelling_unit_id": "unit"}
    builder.load("panel", 1_500.0, category="lighting_area", unit="ft2", volts=None, **own)
    builder.load("panel", 2.0, category="small_appliance", unit="circuits", volts=None, **own)
    builder.load("panel", 1.0, category="laundry", unit="circuits", volts=None, **own)
    for category, kilowatts in (("range", 12.0), ("dryer", 5.5), ("water_heater", 4.5)):
        builder.load("panel", kilowatts, category=category, unit="kW", **own)
    builder.load("sub" if split else "panel", 5.0, category="cooling", unit="kVA", **own)
    return builder


class DwellingMethods(unittest.TestCase):
    def level(self, builder, box="service") -> LevelLoad:
        level = builder.report().levels[box]
        assert isinstance(level, LevelLoad), level
        return level

    def test_each_method_gives_its_own_figure_on_every_level_that_carries_the_whole_unit(self):
        for method, va in (("standard", 28_100), ("optional", 23_400), ("existing", 19_200)):
            for box in ("service", "panel"):
                with self.subTest(method, box=box):
                    level = self.level(house(method), box)
                    self.assertEqual(level.demand_va.number, va)
                    self.assertEqual([group.method for group in level.groups], [method])

    def test_a_level_with_part_of_the_unit_goes_by_the_standard_method(self):
        builder = house("optional", split=True)
        self.assertEqual(self.level(builder, "sub").groups[0].method, "standard")
        self.assertEqual(self.level(builder, "panel").groups[0].method, "optional")

    def test_the_neutral_stays_with_220_61(self):
        standard, optional = (self.level(house(method)).neutral.number for method in ("standard", "optional"))
        self.assertEqual(standard, optional)

    def test_the_optional_methods_have_no_motor_adder(self):
        standard, optional = (self.level(house(method)).worst for method in ("standard", "optional"))
        self.assertGreater(standard.design.number, standard.actual.number)
        self.assertEqual(optional.design.number, optional.actual.number)

    def test_below_100_a_the_optional_method_is_a_must_fix(self):
        wrong = finding(house("optional", 90.0).report(), "optional_method", "panel")
        self.assertEqual(wrong.outcome, "must_fix")
        self.assertIsNone(finding(house("optional", 100.0).report(), "optional_method", "panel"))

    def test_an_existing_dwelling_with_cooling_added(self):
        builder = house("existing")
        cooling = next(item for item in builder.job["loads"] if item["category"] == "cooling")
        self.assertEqual(self.level(builder).demand_va.number, 8_000 + (36_000 - 8_000) * 2 / 5)
        cooling["standing"] = "added"
        self.assertEqual(self.level(builder).demand_va.number, 8_000 + (31_000 - 8_000) * 2 / 5 + 5_000)

    def test_three_units_together(self):
        builder = JobBuilder()
        builder.job["settings"]["multifamily_optional"] = True
        builder.service()
        for number in range(3):
            builder.add("dwelling_units", f"unit-{number}", name=f"Unit {number}")
            builder.box(f"flat-{number}", "service")
            for category, kilowatts in (("range", 12.0), ("cooling", 6.0)):
                own = {"dwelling_unit_id": f"unit-{number}", "category": category, "unit": "kW"}
                builder.load(f"flat-{number}", kilowatts, **own)
        service = self.level(builder)
        self.assertEqual([group.method for group in service.groups], ["multifamily"])
        self.assertEqual(service.demand_va.number, 3 * 18_000 * 45 / 100)
        self.assertEqual(self.level(builder, "flat-0").groups[0].method, "standard")
        builder.job["settings"]["multifamily_optional"] = False
        pooled = self.level(builder)
        self.assertEqual([(group.method, len(group.units)) for group in pooled.groups], [("standard", 3)])
        self.assertEqual(pooled.demand_va.number, 14_000 + 18_000)


class OtherOccupancies(unittest.TestCase):
    def level(self, loads, edition="2023", method="demand_factors"):
        builder = JobBuilder(edition)
        builder.job["settings"]["other_load_method"] = method
        builder.service()
        builder.box("panel", "service")
        for values in loads:
            builder.load("panel", values.pop("amount"), **values)
        return builder.report().levels["panel"]

    def va(self, loads, **options) -> float:
        level = self.level([dict(item) for item in loads], **options)
        assert isinstance(level, LevelLoad), level
        return float(level.demand_va.number)

    def test_lighting_by_area_of_each_edition(self):
        office = [{"category": "lighting_area", "amount": 1_000.0, "unit": "ft2", "occupancy": "office", "volts": None}]
        self.assertEqual([self.va(office, edition=edition) for edition in ("2017", "2020", "2023")], [3500, 1300, 1300])

    def test_connected_lighting_counts_where_it_is_more(self):
        office = {"category": "lighting_area", "amount": 1_000.0, "unit": "ft2", "occupancy": "office", "volts": None}
        for connected, va in ((1_299.0, 1_300), (1_300.0, 1_300), (2_000.0, 2_000)):
            self.assertEqual(self.va([office, {"category": "lighting", "amount": connected}]), va)

    def test_lighting_by_area_is_raised_as_continuous_in_2017_alone(self):
        store = [{"category": "lighting_area", "amount": 2_400.0, "unit": "ft2", "occupancy": "store", "volts": None}]
        for edition, raised in (("2017", True), ("2020", False), ("2023", False)):
            worst = self.level([dict(item) for item in store], edition=edition).worst
            self.assertEqual(worst.design.number > worst.actual.number, raised, edition)

    def test_a_warehouse_has_its_lighting_demand(self):
        area = [
            {"category": "lighting_area", "amount": 20_000.0, "unit": "ft2", "occupancy": "warehouse", "volts": None}
        ]
        self.assertEqual(self.va(area), 12_500 + (24_000 - 12_500) / 2)
        self.assertEqual(self.va(area, method="connected"), 24_000)

    def test_hotels_by_edition(self):
        area = [
            {"category": "lighting_area", "amount": 10_000.0, "unit": "ft2", "occupancy": "hotel_motel", "volts": None}
        ]
        self.assertEqual(self.va(area, edition="2017"), 20_000 * 0.5)
        self.assertEqual(self.va(area, edition="2020"), 17_000 * 0.6)

    def test_receptacles_up_to_and_above_10_kva(self):
        outlets = {"category": "receptacles", "unit": "outlets", "volts": 120.0}
        self.assertEqual(self.va([{**outlets, "amount": 55.0}]), 9_900)
        self.assertEqual(self.va([{**outlets, "amount": 100.0}]), 10_000 + 8_000 / 2)
        self.assertEqual(self.va([{**outlets, "amount": 100.0}], method="connected"), 18_000)

    def test_kitchen_equipment_by_pieces_and_never_below_the_two_largest(self):
        def pieces(*kilowatts):
            return [{"category": "kitchen", "amount": value, "unit": "kW"} for value in kilowatts]

        self.assertEqual(self.va(pieces(5.0, 5.0)), 10_000)
        self.assertEqual(self.va(pieces(5.0, 5.0, 5.0)), 13_500)
        self.assertEqual(self.va(pieces(*[5.0] * 6)), 30_000 * 0.65)
        self.assertEqual(self.va(pieces(20.0, 10.0, 1.0, 1.0, 1.0, 1.0)), 30_000)

    def test_an_area_without_its_occupancy_or_with_one_the_edition_has_not(self):
        area = {"category": "lighting_area", "amount": 100.0, "unit": "ft2", "volts": None}
        self.assertIsInstance(self.level([dict(area)]), LoadUnknown)
        bank = {**area, "occupancy": "bank"}
        self.assertEqual(self.va([bank], edition="2017"), 350)
        told = self.level([dict(bank)], edition="2023")
        self.assertIn("no figure for bank", told.reason.reason)

    def test_heating_or_cooling_whichever_is_larger(self):
        loads = [{"category": "heating", "amount": 9_000.0}, {"category": "cooling", "amount": 4_000.0}]
        self.assertEqual(self.va(loads), 9_000)
        self.assertEqual(self.va(loads, method="connected"), 13_000)


class RunsApart(unittest.TestCase):
    """A 9 kVA heater and a motor that cannot run at once, on one panel."""

    def va(self, motor_va, edition="2023", *, word="season", category="motor", where="panel"):
        builder = JobBuilder(edition)
        builder.service()
        builder.box("panel", "service")
        builder.box("other", "service")
        builder.load("panel", 9_000.0, category="other", runs_apart=word)
        builder.load(where, motor_va, category=category, runs_apart="season")
        level = builder.report().levels["service"]
        assert isinstance(level, LevelLoad), level
        return level

    def test_the_smaller_is_left_out(self):
        self.assertEqual(self.va(5_000.0).demand_va.number, 9_000)
        self.assertEqual(self.va(12_000.0).demand_va.number, 12_000)

    def test_a_dropped_motor_is_compared_at_125_percent_from_2020_on(self):
        for edition, va in (("2017", 9_000), ("2020", 10_000), ("2023", 10_000)):
            level = self.va(8_000.0, edition)
            self.assertEqual(level.demand_va.number, va)
            self.assertEqual(level.worst.design.number, level.worst.actual.number)
        self.assertEqual(self.va(7_200.0, "2020").demand_va.number, 9_000)
        self.assertEqual(self.va(7_201.0, "2020").demand_va.number, Fraction("9001.25"))

    def test_dropped_cooling_is_a_motor_too(self):
        for edition, va in (("2017", 9_000), ("2020", 10_000), ("2023", 10_000)):
            self.assertEqual(self.va(8_000.0, edition, category="cooling").demand_va.number, va)

    def test_without_the_same_word_or_on_another_panel_both_count(self):
        self.assertEqual(self.va(5_000.0, word="").demand_va.number, 14_000)
        self.assertEqual(self.va(5_000.0, where="other").demand_va.number, 14_000)

    def test_what_is_left_out_has_no_motor_adder(self):
        worst = self.va(5_000.0).worst
        self.assertEqual(worst.design.number, worst.actual.number)


class Floors(unittest.TestCase):
    """Least rating of the disconnect of an outbuilding by what it feeds (225.39)."""

    def outcome(self, main_a, branches, poles=1, alone=True):
        builder = JobBuilder()
        builder.add("buildings", "shed", name="Shed", use="other")
        builder.service()
        builder.box("panel", "service", building="shed", main_a=main_a, feeder_a=main_a)
        for number in range(branches):
            builder.add("devices", f"b{number}", enclosure_id="panel", role="branch", rating_a=15.0, poles=poles)
        thing(builder.job, "enclosures", "panel")["no_other_circuits"] = alone
        found = finding(builder.report(), "disconnect_floor", "panel")
        return found.outcome if found else "holds"

    def test_one_circuit_two_circuits_and_others(self):
        for main_a, branches, poles, outcome in (
            (15.0, 1, 1, "holds"),
            (15.0, 2, 1, "must_fix"),
            (30.0, 2, 1, "holds"),
            (30.0, 2, 2, "must_fix"),
            (30.0, 3, 1, "must_fix"),
            (60.0, 3, 1, "holds"),
            (50.0, 0, 1, "must_fix"),
        ):
            with self.subTest(f"{main_a} A, {branches} circuits of {poles}"):
                self.assertEqual(self.outcome(main_a, branches, poles), outcome)

    def test_whether_there_are_other_circuits_is_asked_where_it_matters(self):
        self.assertEqual(self.outcome(15.0, 1, alone=None), "cannot_tell")
        self.assertEqual(self.outcome(60.0, 1, alone=None), "holds")
        self.assertEqual(self.outcome(15.0, 2, alone=None), "must_fix")

    def test_a_branch_circuit_drawn_as_a_run_counts_as_a_circuit_and_no_feeder(self):
        builder = JobBuilder()
        builder.add("buildings", "barn", name="Barn", use="other")
        builder.service()
        builder.box("panel", "service", building="barn", main_a=15.0, feeder_a=20.0)
        builder.box("pump", "panel", building="barn", main_a=15.0, feeder_a=15.0)
        thing(builder.job, "devices", "panel-to-pump")["role"] = "branch"
        thing(builder.job, "enclosures", "panel")["no_other_circuits"] = True
        self.assertIsNone(finding(builder.report(), "disconnect_floor", "panel"))
        floor = builder.report().panels["panel"].figures["disconnect_floor"]
        self.assertEqual(floor.number, 15)
        thing(builder.job, "devices", "panel-to-pump")["role"] = "feeder"
        self.assertEqual(finding(builder.report(), "disconnect_floor", "panel").outcome, "must_fix")


class WhatIsLeft(unittest.TestCase):
    def service(self, peak_kw=9.6, *, added_va=0.0, **record):
        builder = JobBuilder()
        builder.service(main_a=100.0)
        builder.box("panel", "service")
        builder.load("panel", 12_000.0)
        if added_va:
            builder.load("panel", added_va, standing="added")
        values = {"days": 365.0, "interval_minutes": 15.0, "net_metered": False, **record}
        builder.add("measurements", "record", enclosure_id="service", peak_kw=peak_kw, **values)
        return builder

    def test_spare_is_the_least_rating_less_the_design_load(self):
        figures = self.service().report().capacity["service"].figures
        self.assertEqual((figures["rating"].number, figures["spare"].number), (100, 50))

    def test_the_record_with_the_new_load(self):
        figures = self.service(added_va=11_500.0).report().capacity["service"].figures
        self.assertEqual(figures["measured"].number, 9_600 * 5 / 4 + 11_500)

    def test_just_within_and_just_above_the_rating(self):
        within = self.service(added_va=12_000.0).report()
        self.assertIsNone(finding(within, "measured", "record"))
        above = finding(self.service(added_va=12_001.0).report(), "measured", "record")
        self.assertEqual(above.outcome, "must_fix")

    def test_a_record_that_does_not_serve_is_cannot_tell(self):
        for values in (
            {"net_metered": None},
            {"net_metered": True},
            {"days": 10.0},
            {"interval_minutes": 60.0},
            {"peak_kw": None},
        ):
            with self.subTest(values):
                found = finding(self.service(**values).report(), "measured", "record")
                self.assertEqual(found.outcome, "cannot_tell")

    def test_gaps_are_advice(self):
        found = finding(self.service(missing_percent=3.0).report(), "measured_gaps", "record")
        self.assertEqual(found.outcome, "advice")


class Transformers(unittest.TestCase):
    """A 45 kVA transformer from 208 V to 480Y/277 V behind 150 A, a 60 A main 18 ft beyond it."""

    def test_loads_are_carried_to_the_primary(self):
        levels = through_transformer().report().levels
        self.assertEqual(levels["service"].demand_va.number, 20_000)
        self.assertAlmostEqual(float(levels["beyond"].worst.actual.number), 20_000 / (480 * 1.7320508), places=4)
        self.assertAlmostEqual(float(levels["service"].worst.actual.number), 20_000 / (208 * 1.7320508), places=4)
        self.assertEqual(levels["service"].neutral.number, 0)

    def test_a_load_to_neutral_lies_between_two_lines_of_the_primary(self):
        builder = through_transformer(load={"connection": "L1-N", "volts": 277.0, "three_phase": False})
        legs = {leg.leg: leg.actual.number for leg in builder.report().levels["service"].legs}
        self.assertAlmostEqual(float(legs["L1"]), 20_000 / 208, places=6)
        self.assertEqual((legs["L1"], legs["L3"]), (legs["L2"], 0))

    def test_a_load_between_two_lines_loads_three_lines_of_the_primary(self):
        """20 kVA over the square root of 3 x 208 V is 55.5 A; the line that both windings share carries it twice."""
        builder = through_transformer(load={"connection": "L1-L2", "three_phase": False})
        legs = {leg.leg: float(leg.actual.number) for leg in builder.report().levels["service"].legs}
        each = 20_000 / (208 * 1.7320508)
        for leg, times in (("L1", 1), ("L2", 2), ("L3", 1)):
            self.assertAlmostEqual(legs[leg], times * each, places=6)

    def test_one_load_between_each_pair_of_lines_is_a_balanced_load(self):
        builder = through_transformer(load={"connection": "L1-L2", "three_phase": False})
        for connection in ("L2-L3", "L1-L3"):
            builder.load("beyond", 20_000.0, volts=480.0, connection=connection)
        legs = [float(leg.actual.number) for leg in builder.report().levels["service"].legs]
        self.assertAlmostEqual(min(legs), max(legs))
        self.assertGreater(min(legs), 60_000 / (208 * 1.7320508))

    def test_secondary_conductors_by_the_25_ft_rule(self):
        answer = through_transformer().report().runs["to-beyond"]
        self.assertEqual((answer.kind, answer.size("hots")), ("secondary", "6"))
        self.assertEqual([rule.rule for rule in answer.tap_rules if rule.fits], ["25_ft"])

    def test_too_long_a_secondary_is_a_must_fix(self):
        found = finding(through_transformer(length=30.0).report(), "secondary", "to-beyond")
        self.assertEqual(found.outcome, "must_fix")

    def test_a_main_left_to_be_chosen_beyond_a_transformer_counts_as_known(self):
        report = through_transformer(main_a=None).report()
        self.assertIsNone(finding(report, "bus", "beyond"))
        self.assertIn("device", report.runs["to-beyond"].figures)

    def test_protection_of_the_transformer(self):
        """Rated 124.9 A and 54.1 A: 125 % is 156 A, next 175 A; with the secondary at 70 A, 250 % is 312 A."""
        self.assertIsNone(finding(through_transformer(primary_a=175.0).report(), "transformer", "dry"))
        self.assertIsNone(finding(through_transformer(primary_a=300.0, main_a=70.0).report(), "transformer", "dry"))
        self.assertEqual(
            finding(through_transformer(primary_a=200.0, main_a=80.0).report(), "transformer", "dry").outcome,
            "must_fix",
        )
        self.assertEqual(
            finding(through_transformer(primary_a=350.0, main_a=60.0).report(), "transformer", "dry").outcome,
            "must_fix",
        )

    def test_what_would_protect_the_transformer(self):
        """20 000 VA are 55.5 A ahead of it and 24.1 A beyond; 70 000 VA are 194.3 A and 84.2 A: above 175 A and 70 A."""
        for va, primary_a, main_a, labels in (
            (20_000.0, 200.0, 80.0, ["Feeder: 200 A to 175 A", "beyond main: 80 A to 70 A"]),
            (20_000.0, 350.0, 60.0, ["Feeder: 350 A to 175 A"]),
            (70_000.0, 200.0, 90.0, []),
        ):
            builder = through_transformer(primary_a=primary_a, main_a=main_a)
            thing(builder.job, "devices", "service-to-xfmr")["name"] = "Feeder"
            thing(builder.job, "loads", "load-1")["amount"] = va
            found = finding(builder.report(), "transformer", "dry")
            self.assertEqual([mend.label for mend in found.mends], labels)
            for mend in found.mends:
                after = report_of(mended(builder.job, found._replace(mends=(mend,))))
                left = [item.code for item in after.findings if item.outcome == "must_fix"]
                self.assertEqual(left, ["bond"], mend.label)  # of the derived system, which this site leaves open

    def test_a_primary_device_to_be_chosen_counts_as_known(self):
        report = through_transformer(primary_a=None).report()
        self.assertIsNone(finding(report, "transformer", "dry"))
        self.assertTrue([item for item in report.held if item.code == "transformer"])

    def test_a_load_above_its_rating_is_advice(self):
        self.assertEqual(
            finding(through_transformer(kva=15.0, primary_a=50.0).report(), "transformer_load", "dry").outcome, "advice"
        )
