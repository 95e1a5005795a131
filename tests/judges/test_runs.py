import unittest
from fractions import Fraction

from hypothesis import given, settings
from hypothesis import strategies as st

from nelvor.clauses.wiring_methods import insulation_temperature
from nelvor.errors import CannotCompute
from nelvor.model.vocabulary import SIZES
from nelvor.rulebook.rules import rulebook
from tests.support.jobs import JobBuilder, finding, mended, report_of, thing


def feeder(run=None, *, edition="2023", load_va=12_000.0, main_a=100.0, feeder_a=100.0, **box):
    """Return a builder with one feeder from the service to ``panel``."""
    builder = JobBuilder(edition)
    builder.service(main_a=200.0)
    builder.box("panel", "service", main_a=main_a, feeder_a=feeder_a, run=run, **box)
    builder.load("panel", load_va)
    return builder


def answer(builder):
    return builder.report().runs["to-panel"]


class WhatIsChosen(unittest.TestCase):
    def test_device_hots_neutral_ground_and_raceway_follow_each_other(self):
        found = answer(feeder())
        sizes = {part: found.size(part) for part in ("hots", "neutral", "ground", "raceway")}
        self.assertEqual(sizes, {"hots": "3", "neutral": "3", "ground": "8", "raceway": "1"})

    def test_a_free_device_is_the_next_standard_rating(self):
        found = answer(feeder(feeder_a=None, main_a=None, load_va=12_960.0))
        self.assertEqual(found.figures["device"].text, "60")

    def test_without_load_a_free_device_cannot_be_chosen(self):
        builder = feeder(feeder_a=None, main_a=None)
        builder.job["loads"].clear()
        self.assertIn("device", answer(builder).gaps)

    def test_with_a_load_that_cannot_be_told_it_cannot_either(self):
        builder = feeder(feeder_a=None, main_a=None, neutral=False)
        builder.job["sources"][0]["system"] = "delta_240"
        found = answer(builder)
        self.assertEqual(found.gaps["device"], found.gaps["load"])

    def test_a_smaller_neutral_goes_by_its_load_and_never_below_the_grounding_conductor(self):
        found = answer(feeder({"neutral_as_calculated": True}))
        self.assertEqual(found.size("neutral"), "8")

    def test_the_service_neutral_has_a_floor_of_its_own(self):
        builder = feeder()
        thing(builder.job, "runs", "to-service")["neutral_as_calculated"] = True
        self.assertEqual(builder.report().runs["to-service"].size("neutral"), "4")

    def test_a_240_v_building_needs_no_neutral(self):
        builder = feeder(neutral=False)
        found = answer(builder)
        self.assertNotIn("neutral", found.figures)
        self.assertNotIn("neutral", found.gaps)

    def test_parallel_sets_have_full_size_grounding_conductors(self):
        found = answer(feeder({"sets": 2}, feeder_a=400.0, main_a=400.0, load_va=60_000.0, rating_a=400.0))
        self.assertEqual((found.size("hots"), found.size("ground")), ("3/0", "3"))

    def test_three_phase_legs_count_three_hots(self):
        builder = JobBuilder(system="wye_208_120")
        builder.service()
        builder.box("panel", "service")
        builder.load("panel", 20_000.0, volts=208.0, three_phase=True)
        found = builder.report().runs["to-panel"]
        self.assertAlmostEqual(float(found.figures["load"].number), 20_000 / (1.7320508 * 208), places=4)
        self.assertEqual(found.size("raceway"), "1-1/4")

    def test_two_legs_of_a_wye_make_the_neutral_count(self):
        builder = JobBuilder(system="wye_208_120")
        builder.service()
        builder.legs = ("L1", "L2")
        builder.box("panel", "service", run={"other_current_carrying": 1})
        builder.load("panel", 4_000.0, volts=120.0, connection="L1-N")
        builder.report()
        steps = builder.report().runs["to-panel"].working.steps
        counted = next(step.value for step in steps if step.label.startswith("Current-carrying"))
        self.assertEqual(counted, 4)


class MotorsInTheHeat(unittest.TestCase):
    def hots(self, category):
        """80 A in 50 °C behind 100 A: 3 copper carries 115 x 0.82 = 94.3 A there, 2 copper 106.6 A."""
        builder = feeder(
            {"ambient_c": 50.0, "insulation": "THHN", "placement": "indoors", "method": "emt"}, load_va=0.0
        )
        builder.load("panel", 80.0, unit="A", volts=240.0, category=category)
        return answer(builder).size("hots")

    def test_the_adjusted_ampacity_carries_the_motor_adder_too(self):
        self.assertEqual((self.hots("other"), self.hots("motor")), ("3", "2"))


class NeutralsAndSharedDevices(unittest.TestCase):
    def test_loads_that_use_a_neutral_ask_for_one(self):
        builder = feeder(neutral=False)
        builder.load("panel", 1_000.0, volts=120.0)
        found = finding(builder.report(), "neutral_missing", "to-panel")
        self.assertEqual(found.outcome, "must_fix")
        after = report_of(mended(builder.job, found))
        self.assertEqual(after.runs["to-panel"].size("neutral"), "3")

    def test_a_service_always_brings_its_neutral(self):
        builder = feeder()
        builder.job["conductors"] = [item for item in builder.job["conductors"] if item["id"] != "to-service-neutral"]
        found = finding(builder.report(), "neutral_missing", "to-service")
        self.assertIsNone(finding(report_of(mended(builder.job, found)), "neutral_missing", "to-service"))

    def test_a_device_to_be_chosen_carries_all_that_it_feeds(self):
        builder = JobBuilder()
        builder.service()
        builder.box("first", "service", main_a=None, feeder_a=None)
        builder.job["runs"][-1]["to_part"] = builder.add("lugs", "first-lugs", enclosure_id="first")["id"]
        builder.job["devices"] = [item for item in builder.job["devices"] if item["id"] != "first-main"]
        thing(builder.job, "buses", "first-bus")["fed_by"] = "first-lugs"
        for item in builder.job["conductors"]:
            item["to_part"] = item["to_part"].replace("first-main", "first-lugs")
        builder.box("second", "first")
        builder.add("lugs", "first-through", enclosure_id="first", feed_through=True)
        for item in [thing(builder.job, "runs", "to-second"), *builder.job["conductors"]]:
            item["from_part"] = item["from_part"].replace("first-to-second", "first-through")
        builder.load("first", 12_000.0)
        builder.load("second", 2_400.0)
        runs = builder.report().runs
        self.assertEqual([runs[name].figures["device"].text for name in ("to-first", "to-second")], ["60", "60"])
        self.assertEqual(runs["to-second"].size("hots"), runs["to-first"].size("hots"))

    def test_a_main_to_be_chosen_is_the_same_for_all_that_leaves_it(self):
        builder = JobBuilder()
        builder.service(main_a=200.0)
        thing(builder.job, "devices", "service-main")["rating_a"] = None
        for name in ("one", "two"):
            builder.box(name, "service")
            builder.load(name, 12_000.0)
            for item in [thing(builder.job, "runs", f"to-{name}"), *builder.job["conductors"]]:
                item["from_part"] = item["from_part"].replace(f"service-to-{name}", "service-main")
        runs = builder.report().runs
        self.assertEqual(
            [runs[name].figures["device"].text for name in ("to-service", "to-one", "to-two")], ["100"] * 3
        )


class OtherWiring(unittest.TestCase):
    def test_conductors_laid_in_earth(self):
        found = answer(
            feeder(
                {
                    "insulation": "USE-2",
                    "method": "earth",
                    "placement": "underground",
                    "burial_location": "general",
                    "cover_in": 24.0,
                    "material": "aluminum",
                }
            )
        )
        self.assertEqual((found.size("hots"), found.size("ground"), found.figures["cover"].text), ("1", "6", "24"))
        self.assertNotIn("raceway", found.figures)

    def test_service_entrance_cable_indoors(self):
        found = answer(feeder({"insulation": "SER", "method": "cable", "material": "aluminum"}))
        self.assertEqual((found.size("hots"), found.size("ground")), ("1", "6"))
        self.assertNotIn("raceway", found.gaps)

    def test_a_wet_place_asks_for_a_wet_rating(self):
        rules = rulebook().resolve("2023")
        known = {
            ("XHHW", False): 90,
            ("XHHW", True): 75,
            ("XHHW-2", True): 90,
            ("THWN-2", True): 90,
            ("UF-B", True): 60,
            ("NM-B", False): 90,
        }
        for (kind, wet), degrees in known.items():
            self.assertEqual(insulation_temperature(kind, wet, rules), degrees)
        with self.assertRaises(CannotCompute):
            insulation_temperature("THHN", True, rules)


class WhatIsLocked(unittest.TestCase):
    def must_fix(self, run, code, **options):
        builder = feeder(run, **options)
        found = finding(builder.report(), code, "to-panel")
        self.assertIsNotNone(found, [item.code for item in builder.report().findings])
        self.assertEqual(found.outcome, "must_fix")
        after = report_of(mended(builder.job, found))
        self.assertIsNone(finding(after, code, "to-panel"), "the mend clears it")
        return found

    def test_hots_too_small(self):
        found = self.must_fix({"hot_size": "4"}, "hots_size")
        self.assertIn("85 A", found.text)

    def test_neutral_too_small(self):
        self.must_fix({"neutral_size": "10"}, "neutral_size")

    def test_ground_too_small_for_the_device(self):
        self.assertEqual(self.must_fix({"ground_size": "10"}, "ground_size").section, "250.122(A)")

    def test_ground_not_raised_with_the_hots(self):
        self.assertEqual(self.must_fix({"hot_size": "1", "ground_size": "8"}, "ground_size").section, "250.122(B)")

    def test_raceway_too_small(self):
        self.must_fix({"raceway_size": "3/4"}, "raceway_fill")

    def test_device_below_the_load(self):
        self.must_fix(None, "device_load", load_va=26_000.0)

    def test_cover_too_shallow(self):
        self.must_fix(
            {"placement": "underground", "method": "pvc40", "burial_location": "general", "cover_in": 17.9}, "cover"
        )

    def test_cover_just_enough_holds(self):
        report = feeder(
            {"placement": "underground", "method": "pvc40", "burial_location": "general", "cover_in": 18.0}
        ).report()
        self.assertIsNone(finding(report, "cover", "to-panel"))

    def test_a_larger_grounding_conductor_from_the_van_holds(self):
        self.assertIsNone(finding(feeder({"ground_size": "6"}).report(), "ground_size", "to-panel"))

    def test_service_entrance_cable_underground(self):
        self.must_fix(
            {
                "insulation": "SER",
                "method": "cable",
                "placement": "underground",
                "burial_location": "general",
                "cover_in": 24.0,
            },
            "run_wiring",
        )

    def test_use_cable_indoors(self):
        self.must_fix({"insulation": "USE-2", "method": "earth"}, "run_wiring")


class WhatCannotBeTold(unittest.TestCase):
    def told(self, run, field=None, **options):
        found = [
            item
            for item in feeder(run, **options).report().findings
            if item.id == "to-panel" and item.outcome == "cannot_tell"
        ]
        self.assertTrue(found)
        if field:
            self.assertIn(field, {item.field for item in found})
        return found

    def test_empty_fields_are_named(self):
        for field in ("length_ft", "material", "insulation", "method", "placement"):
            with self.subTest(field):
                self.told({field: None}, field)

    def test_types_not_computed_are_named(self):
        for insulation, method in (("PV wire", "pvc40"), ("THWN-2", "cable"), ("XHHW-2", "free_air")):
            with self.subTest(insulation):
                self.assertIn("not computed", self.told({"insulation": insulation, "method": method})[0].text)

    def test_a_roof_is_named(self):
        self.told({"placement": "rooftop"})

    def test_unknown_lugs_matter_only_where_the_size_would_differ(self):
        builder = feeder()
        thing(builder.job, "enclosures", "panel")["termination_c"] = None
        found = finding(builder.report(), "terminations", "to-panel")
        self.assertEqual(found.outcome, "cannot_tell")
        self.assertIn("60 °C: 2; with both ends marked 75 °C it would be 3", found.text)

    def test_emt_in_the_earth_has_no_cover_figure(self):
        self.told({"placement": "underground", "burial_location": "general", "cover_in": 18.0})

    def test_a_load_that_is_not_filled_in_is_told_once_at_its_panel(self):
        builder = feeder()
        builder.box("beyond", "panel")
        builder.load("beyond", None)
        report = builder.report()
        self.assertEqual(
            [(item.code, item.id) for item in report.findings if "load" in item.code], [("load", "beyond")]
        )
        self.assertIn("load", report.runs["to-service"].gaps)

    def test_one_missing_part_does_not_hide_the_others(self):
        found = answer(feeder({"length_ft": None}))
        self.assertEqual(found.size("hots"), "3")
        self.assertEqual(set(found.gaps), {"raceway", "drop"})


class EntireDwelling(unittest.TestCase):
    """The 83 % rule: the service or a feeder that carries the whole load of one dwelling unit."""

    def builder(self, **options):
        builder = JobBuilder()
        builder.add("buildings", "house", name="House", use="dwelling")
        builder.add("dwelling_units", "unit", building_id="house")
        builder.service()
        builder.box("panel", "service", building="house", main_a=200.0, feeder_a=200.0, **options)
        builder.load("panel", 30_000.0, dwelling_unit_id="unit", category="other")
        return builder

    def test_it_holds_for_the_whole_unit(self):
        self.assertEqual(answer(self.builder()).size("hots"), "2/0")

    def test_another_load_behind_the_same_feeder_ends_it(self):
        builder = self.builder()
        builder.load("panel", 1_000.0)
        self.assertEqual(answer(builder).size("hots"), "3/0")

    def split(self):
        builder = self.builder()
        builder.box("second", "service", building="house", main_a=100.0)
        builder.load("second", 1_000.0, dwelling_unit_id="unit", category="other")
        return builder

    def test_two_feeders_behind_a_service_that_feeds_more_may_not(self):
        builder = self.split()
        builder.load("service", 1_000.0)
        self.assertEqual(answer(builder).size("hots"), "3/0")

    def test_a_feeder_of_the_unit_need_not_be_larger_than_its_service(self):
        found = answer(self.split())
        self.assertEqual(found.size("hots"), "2/0")
        self.assertFalse(found.whole_dwelling)
        self.assertIn("3/0 by the table", found.figures["hots"].refused)

    def test_a_locked_size_below_the_service_stays_a_must_fix(self):
        builder = self.split()
        thing(builder.job, "runs", "to-panel")["hot_size"] = "1/0"
        self.assertEqual(finding(builder.report(), "hots_size", "to-panel").outcome, "must_fix")

    def test_a_device_above_the_services_goes_by_the_table(self):
        builder = self.split()
        for device_id in ("service-to-panel", "panel-main"):
            thing(builder.job, "devices", device_id)["rating_a"] = 225.0
        self.assertEqual(answer(builder).size("hots"), "4/0")

    def test_another_metal_than_the_services_goes_by_the_table(self):
        builder = self.split()
        thing(builder.job, "runs", "to-panel")["material"] = "aluminum"
        self.assertEqual(answer(builder).size("hots"), "4/0")

    def test_it_begins_at_100_a(self):
        builder = self.builder()
        for device_id in ("service-to-panel", "panel-main"):
            thing(builder.job, "devices", device_id)["rating_a"] = 90.0
        builder.job["loads"][0]["amount"] = 15_000.0
        thing(builder.job, "runs", "to-panel")["material"] = "aluminum"
        self.assertEqual(answer(builder).size("hots"), "2")

    def test_three_phase_does_not_know_it(self):
        builder = self.builder()
        builder.job["sources"][0]["system"] = "wye_208_120"
        for run_id in ("to-panel",):
            builder.add(
                "conductors",
                f"{run_id}-l3",
                run_id=run_id,
                role="L3",
                from_part="service-to-panel",
                to_part="panel-main",
            )
        self.assertEqual(answer(builder).size("hots"), "3/0")


class Amendments(unittest.TestCase):
    def test_deeper_cover_is_asked_and_named_in_the_working(self):
        builder = feeder(
            {"placement": "underground", "method": "pvc40", "burial_location": "general", "cover_in": 18.0}
        )
        builder.add(
            "amendments",
            "deep",
            key="burial_cover_in",
            action="at_least",
            value=24.0,
            unit="in",
            source_note="Notice 7",
        )
        report = builder.report()
        self.assertEqual(finding(report, "cover", "to-panel").outcome, "must_fix")
        sources = {step.source for step in report.runs["to-panel"].working.steps}
        self.assertIn("Notice 7", sources)

    def test_no_aluminum(self):
        builder = feeder({"material": "aluminum", "hot_size": "1"})
        builder.add("amendments", "copper-only", key="material_aluminum", action="forbid", source_note="Notice 9")
        found = finding(builder.report(), "material", "to-panel")
        self.assertIn("Notice 9", found.text)
        after = report_of(mended(builder.job, found))
        self.assertEqual((after.runs["to-panel"].material, after.runs["to-panel"].size("hots")), ("copper", "3"))

    def test_an_amendment_of_the_proposal_leaves_what_stands(self):
        builder = feeder({"material": "aluminum"})
        builder.add("amendments", "copper-only", key="material_aluminum", action="forbid", standing="added")
        self.assertIsNone(finding(builder.report("existing"), "material", "to-panel"))
        self.assertIsNotNone(finding(builder.report("proposed"), "material", "to-panel"))

    def test_one_not_understood_is_told_and_applied_nowhere(self):
        builder = feeder()
        builder.add("amendments", "odd", key="burial_cover_in", action="forbid")
        self.assertEqual(finding(builder.report(), "amendment", "odd").outcome, "cannot_tell")


class Drop(unittest.TestCase):
    def test_it_accumulates_from_the_service_point(self):
        builder = feeder({"length_ft": 100.0})
        builder.box("far", "panel", run={"length_ft": 100.0})
        builder.load("far", 6_000.0)
        runs = builder.report().runs
        parts = [runs[name].figures["drop"].number for name in ("to-service", "to-panel", "to-far")]
        self.assertEqual(runs["to-far"].figures["total_drop"].number, sum(parts))

    def test_above_the_limit_is_advice_with_a_size_that_meets_it(self):
        builder = feeder({"length_ft": 300.0})
        found = finding(builder.report(), "drop", "to-panel")
        self.assertEqual(found.outcome, "advice")
        after = report_of(mended(builder.job, found))
        self.assertIsNone(finding(after, "drop", "to-panel"))

    def test_a_drop_no_size_mends_says_so_by_having_no_mend(self):
        found = finding(feeder({"length_ft": 9_000.0}).report(), "drop", "to-panel")
        self.assertIsNone(found.mend)

    @settings(max_examples=25, deadline=None)
    @given(st.floats(1, 5_000), st.floats(0.1, 2_000))
    def test_a_longer_run_never_drops_less(self, feet: float, more: float):
        drops = [
            answer(feeder({"length_ft": length, "hot_size": "3"})).figures["drop"].number
            for length in (feet, feet + more)
        ]
        self.assertLess(drops[0], drops[1])

    @settings(max_examples=25, deadline=None)
    @given(st.floats(100, 40_000), st.floats(1, 20_000))
    def test_a_bigger_load_never_gets_a_smaller_conductor(self, va: float, more: float):
        sizes = [answer(feeder(feeder_a=None, main_a=None, load_va=load)).size("hots") for load in (va, va + more)]
        self.assertLessEqual(SIZES.index(sizes[0]), SIZES.index(sizes[1]))

    @settings(max_examples=25, deadline=None)
    @given(st.sampled_from(SIZES[5:20]), st.sampled_from(["copper", "aluminum"]))
    def test_larger_hots_never_get_a_smaller_grounding_conductor(self, size: str, material: str):
        found = answer(feeder({"hot_size": size, "material": material}, load_va=5_000.0, feeder_a=60.0, main_a=60.0))
        base = answer(feeder({"material": material}, load_va=5_000.0, feeder_a=60.0, main_a=60.0))
        if size in SIZES[SIZES.index(base.size("hots")) :]:
            self.assertGreaterEqual(SIZES.index(found.size("ground")), SIZES.index(base.size("ground")))


class ExactComparisons(unittest.TestCase):
    def test_a_load_exactly_at_the_device_holds_and_a_hair_above_does_not(self):
        at = finding(feeder(load_va=24_000.0).report(), "device_load", "to-panel")
        above = finding(feeder(load_va=24_000.001).report(), "device_load", "to-panel")
        self.assertIsNone(at)
        self.assertEqual(above.outcome, "must_fix")

    def test_decimal_input_is_taken_as_written(self):
        found = answer(feeder({"length_ft": 0.1}))
        lengths = [step.value for step in found.working.steps if step.label == "Length" and step.unit == "kft"]
        self.assertEqual(lengths, [Fraction(1, 10_000)])
