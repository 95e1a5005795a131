"""Branch circuits as runs: their sections, the next size up, one hot conductor, drop."""

import unittest

from tests.judges.test_runs import answer, feeder
from tests.support.jobs import JobBuilder, finding, mended, report_of, thing


def branch(run=None, *, device_a=45.0, load_va=9_600.0, legs=None, load=None, **options):
    """Return a builder whose run to ``panel`` leaves a branch device; its loads are as given."""
    builder = feeder(run, feeder_a=device_a, main_a=device_a, load_va=load_va, **options)
    thing(builder.job, "devices", "service-to-panel")["role"] = "branch"
    builder.job["loads"][0].update(load or {})
    if legs is not None:
        builder.job["conductors"] = [
            item
            for item in builder.job["conductors"]
            if item["run_id"] != "to-panel" or not item["role"].startswith("L") or item["role"] in legs
        ]
    return builder


class NextSizeUp(unittest.TestCase):
    """1/0 aluminum is 120 A, no standard rating; 110 A of load behind 125 A."""

    BIG = {"device_a": 125.0, "load_va": 26_400.0}

    def found(self, several, **load):
        return branch({"material": "aluminum", "several_receptacles": several}, load=load or None, **self.BIG)

    def test_allowed_where_there_are_not_several_receptacles(self):
        self.assertEqual(answer(self.found(False)).size("hots"), "1/0")

    def test_not_allowed_where_there_are(self):
        self.assertEqual(answer(self.found(True)).size("hots"), "2/0")

    def test_unknown_is_told_with_both_sizes_and_the_larger_stands(self):
        builder = self.found(None)
        self.assertEqual(answer(builder).size("hots"), "2/0")
        told = finding(builder.report(), "several_receptacles", "to-panel")
        self.assertEqual((told.outcome, told.field), ("cannot_tell", "several_receptacles"))
        self.assertIn("1/0 is enough", told.text)

    def test_unknown_is_not_told_where_nothing_hangs_on_it(self):
        builder = branch({"several_receptacles": None}, device_a=50.0)
        self.assertIsNone(finding(builder.report(), "several_receptacles", "to-panel"))

    def test_receptacle_loads_say_it_themselves(self):
        builder = self.found(None, category="receptacles")
        self.assertEqual(answer(builder).size("hots"), "2/0")
        self.assertIsNone(finding(builder.report(), "several_receptacles", "to-panel"))

    def test_a_locked_size_below_it_is_mended(self):
        builder = self.found(True)
        thing(builder.job, "runs", "to-panel")["hot_size"] = "1/0"
        wrong = finding(builder.report(), "hots_size", "to-panel")
        self.assertIn("several receptacles", wrong.text)
        self.assertIsNone(finding(report_of(mended(builder.job, wrong)), "hots_size", "to-panel"))

    def test_a_feeder_is_not_asked(self):
        run = {"material": "aluminum", "several_receptacles": True}
        self.assertEqual(answer(feeder(run, feeder_a=125.0, main_a=125.0, load_va=26_400.0)).size("hots"), "1/0")


class RatingsOfSeveralOutlets(unittest.TestCase):
    """15, 20, 30, 40 and 50 A; 20 A of load at 240 V."""

    def outcome(self, device_a, several=True):
        builder = branch({"several_receptacles": several}, device_a=device_a, load_va=4_800.0)
        return finding(builder.report(), "outlets_rating", "to-panel"), builder

    def test_only_some_ratings_may_supply_several(self):
        for rating in (20.0, 30.0, 50.0):
            self.assertIsNone(self.outcome(rating)[0], rating)
        for rating in (25.0, 35.0, 60.0):
            self.assertEqual(self.outcome(rating)[0].outcome, "must_fix", rating)
        self.assertIsNone(self.outcome(25.0, several=False)[0])

    def test_the_mend_is_the_smallest_that_carries_the_load(self):
        wrong, builder = self.outcome(25.0)
        self.assertEqual(wrong.mend.label, "Breaker of service: 25 A to 20 A")
        self.assertIsNone(finding(report_of(mended(builder.job, wrong)), "outlets_rating", "to-panel"))

    def test_a_device_below_the_load_is_mended_to_one_of_them_or_not_at_all(self):
        for load_va, label in ((5_280.0, "Breaker of service: 20 A to 30 A"), (14_400.0, None)):
            builder = branch({"several_receptacles": True}, device_a=20.0, load_va=load_va)
            wrong = finding(builder.report(), "device_load", "to-panel")
            self.assertEqual(wrong.mend and wrong.mend.label, label)
            if wrong.mend:
                after = report_of(mended(builder.job, wrong))
                self.assertIsNone(finding(after, "device_load", "to-panel"))
                self.assertIsNone(finding(after, "outlets_rating", "to-panel"))

    def test_a_free_device_is_chosen_among_them_or_told_to_be_split(self):
        free = {"device_a": None, "run": {"several_receptacles": True}}
        self.assertEqual(answer(branch(load_va=5_280.0, **free)).figures["device"].number, 30)
        self.assertEqual(
            answer(branch(load_va=5_280.0, device_a=None, run={"several_receptacles": False})).figures["device"].number,
            25,
        )
        self.assertIn("50 A at most", answer(branch(load_va=14_400.0, **free)).gaps["device"].reason)


class Sections(unittest.TestCase):
    def test_the_device_and_conductors_cite_the_branch_sections(self):
        found = answer(branch({"several_receptacles": False}))
        sections = {step.section for step in found.working.steps}
        self.assertLessEqual({"210.20(A)", "210.19(A)(1)"}, sections)
        self.assertFalse({"215.3", "215.2(A)(1)"} & sections)

    def test_no_whole_dwelling_rule_on_a_branch_circuit(self):
        builder = branch(device_a=100.0, load_va=12_000.0)
        builder.add("dwelling_units", "unit", name="Unit")
        builder.job["loads"][0]["dwelling_unit_id"] = "unit"
        self.assertEqual(answer(builder).size("hots"), "3")
        thing(builder.job, "devices", "service-to-panel")["role"] = "feeder"
        self.assertEqual(answer(builder).size("hots"), "4")

    def test_a_smaller_neutral_has_no_floor_by_the_device(self):
        run = {"neutral_as_calculated": True, "several_receptacles": False}
        self.assertEqual(answer(branch(run, device_a=100.0)).size("neutral"), "14")

    def test_the_drop_is_held_against_the_limit_of_the_whole_way(self):
        long = {"length_ft": 180.0, "several_receptacles": False, "method": "pvc40"}
        short = branch(long)
        thing(short.job, "runs", "to-panel")["standing"] = "added"
        self.assertIsNone(finding(short.report(), "drop", "to-panel"))
        builder = feeder(long, feeder_a=45.0, main_a=45.0, load_va=9_600.0)
        self.assertEqual(finding(builder.report(), "drop", "to-panel").outcome, "advice")


class OneHotConductor(unittest.TestCase):
    """1440 VA at 120 V are 12 A in the one hot and in the neutral."""

    def builder(self, **load):
        return branch(device_a=20.0, load_va=1_440.0, legs={"L1"}, load={"volts": 120.0, **load})

    def test_all_of_the_load_flows_in_it(self):
        found = answer(self.builder())
        self.assertEqual((found.figures["load"].number, found.size("hots")), (12, "12"))

    def test_its_neutral_counts_as_current_carrying(self):
        found = answer(
            branch({"other_current_carrying": 2}, device_a=20.0, legs={"L1"}, load_va=1_440.0, load={"volts": 120.0})
        )
        self.assertIn("Bundling percentage", {step.label for step in found.working.steps})

    def test_its_drop_is_of_both_conductors(self):
        """12 A x 2 x 50 ft of 12 copper at 2.0 ohm (and 0.068) for 1000 ft and power factor 0.85, of 120 V."""
        percent = float(answer(self.builder()).figures["drop"].number)
        ohms = 2.0 * 0.85 + 0.068 * (1 - 0.85**2) ** 0.5
        self.assertAlmostEqual(percent, 12 * 2 * 0.050 * ohms / 120 * 100, places=6)

    def test_a_load_between_lines_is_refused(self):
        found = answer(self.builder(volts=240.0))
        self.assertIn("which has L1", found.gaps["load"].reason)

    def test_all_above_see_it_on_that_leg(self):
        legs = {leg.leg: leg.actual.number for leg in self.builder().report().levels["service"].legs}
        self.assertEqual(legs, {"L1": 12, "L2": 0})


class TwoHotsOfAWye(unittest.TestCase):
    def builder(self, **load):
        builder = JobBuilder(system="wye_208_120")
        builder.service(main_a=200.0)
        builder.box("panel", "service")
        builder.job["conductors"] = [
            item for item in builder.job["conductors"] if (item["run_id"], item["role"]) != ("to-panel", "L3")
        ]
        builder.load("panel", 6_000.0, volts=208.0, **load)
        return builder

    def test_a_load_between_the_two_is_computed(self):
        for connection in ("L1-L2", None):
            found = answer(self.builder(connection=connection))
            self.assertAlmostEqual(float(found.figures["load"].number), 6_000 / 208, places=6)

    def test_a_load_to_neutral_is_split_over_the_two_here_and_above(self):
        """6000 VA at 120 V: 25 A on each of two legs, none on the third, and 25 A in the neutral."""
        report = self.builder_at_120_v().report()
        self.assertEqual(report.runs["to-panel"].figures["load"].number, 25)
        for place in ("panel", "service"):
            legs = {leg.leg: leg.actual.number for leg in report.levels[place].legs}
            self.assertEqual(legs, {"L1": 25, "L2": 25, "L3": 0}, place)
        self.assertEqual(report.levels["panel"].neutral.number, 25)

    def builder_at_120_v(self):
        builder = self.builder()
        builder.job["loads"][0]["volts"] = 120.0
        return builder

    def test_general_lighting_of_a_dwelling_is_split_over_the_two(self):
        """2000 ft2: 6000 VA, by demand 3000 + 35 % of 3000 = 4050 VA; over 240 V of two legs 16.875 A each."""
        builder = self.builder()
        builder.add("dwelling_units", "flat", name="Flat")
        area = {
            "category": "lighting_area",
            "unit": "ft2",
            "amount": 2_000.0,
            "volts": None,
            "dwelling_unit_id": "flat",
        }
        builder.job["loads"][0].update(area)
        legs = [float(leg.actual.number) for leg in builder.report().levels["panel"].legs]
        self.assertEqual(legs, [16.875, 16.875, 0])

    def test_loads_on_legs_that_are_not_brought_are_cannot_tell(self):
        for connection in ("three_phase", "L2-L3", "L3-N"):
            found = answer(self.builder(connection=connection))
            self.assertIn("which has L1 and L2", found.gaps["load"].reason)

    def test_what_hangs_on_the_panel_has_no_more_legs_than_it(self):
        builder = self.builder(connection="L1-L2")
        builder.box("beyond", "panel")
        builder.load("beyond", 2_400.0, volts=120.0)
        legs = {leg.leg: leg.actual.number for leg in builder.report().levels["beyond"].legs}
        self.assertEqual(legs, {"L1": 10, "L2": 10, "L3": 0})


class ShallowCover(unittest.TestCase):
    """PVC in open ground: 18 in; a protected residential branch circuit of 120 V and 20 A: 12 in."""

    def outcome(self, protection, cover=12.0, *, unit=True, device_a=20.0):
        buried = {"placement": "underground", "method": "pvc40", "burial_location": "general", "cover_in": cover}
        builder = branch(buried, device_a=device_a, load_va=1_440.0, legs={"L1"}, load={"volts": 120.0})
        thing(builder.job, "devices", "service-to-panel")["ground_fault_protection"] = protection
        if unit:
            builder.add("dwelling_units", "unit", name="Unit")
            builder.job["loads"][0]["dwelling_unit_id"] = "unit"
        found = finding(builder.report(), "cover", "to-panel")
        return found and found.outcome

    def test_with_protection_12_in_are_enough(self):
        self.assertIsNone(self.outcome(True))
        self.assertEqual(self.outcome(True, 11.9), "must_fix")

    def test_without_it_or_above_20_a_or_outside_a_dwelling_they_are_not(self):
        self.assertEqual(self.outcome(False), "must_fix")
        self.assertEqual(self.outcome(True, device_a=25.0), "must_fix")
        self.assertEqual(self.outcome(True, unit=False), "must_fix")

    def test_unknown_protection_is_cannot_tell_where_it_matters(self):
        self.assertEqual(self.outcome(None), "cannot_tell")
        self.assertEqual(self.outcome(None, 11.0), "must_fix")
        self.assertIsNone(self.outcome(None, 18.0))

    def test_a_feeder_never_lies_so_shallow(self):
        buried = {"placement": "underground", "method": "pvc40", "burial_location": "general", "cover_in": 12.0}
        self.assertEqual(finding(feeder(buried).report(), "cover", "to-panel").outcome, "must_fix")


class MotorAtTheEnd(unittest.TestCase):
    """5 hp at 240 V: 28 A; wires 35 A: 10 AWG at 75 C; device 250 %: 70 A; a general circuit behind 60 A: 6 AWG."""

    def motor(self, protected=True, device_a=60.0, run=None):
        load = {"amount": 5.0, "unit": "hp", "category": "motor", "overload_protected": protected}
        return branch({"several_receptacles": False, **(run or {})}, device_a=device_a, load=load)

    def test_wires_go_by_the_motor_where_it_guards_them(self):
        self.assertEqual(answer(self.motor(False)).size("hots"), "6")
        self.assertEqual(answer(self.motor()).size("hots"), "10")

    def test_unknown_is_asked_for_and_the_larger_stands(self):
        builder = self.motor(None)
        self.assertEqual(answer(builder).size("hots"), "6")
        told = finding(builder.report(), "motor_overload", "load-1")
        self.assertEqual((told.outcome, told.field), ("cannot_tell", "overload_protected"))
        self.assertIn("10 is enough", told.text)

    def test_a_locked_size_between_the_two_hangs_on_the_answer(self):
        self.assertIsNone(finding(self.motor(None, run={"hot_size": "10"}).report(), "hots_size", "to-panel"))
        self.assertIsNone(finding(self.motor(True, run={"hot_size": "10"}).report(), "hots_size", "to-panel"))
        wrong = finding(self.motor(False, run={"hot_size": "10"}).report(), "hots_size", "to-panel")
        self.assertEqual(wrong.outcome, "must_fix")
        self.assertIsNotNone(finding(self.motor(None, run={"hot_size": "12"}).report(), "hots_size", "to-panel"))

    def test_the_device_has_its_limit(self):
        self.assertIsNone(finding(self.motor(device_a=70.0).report(), "motor_device", "to-panel"))
        wrong = finding(self.motor(device_a=80.0).report(), "motor_device", "to-panel")
        self.assertEqual((wrong.outcome, wrong.section), ("must_fix", "430.52(C)(1)"))

    def test_a_second_load_makes_it_a_general_circuit(self):
        builder = self.motor()
        builder.load("panel", 100.0)
        self.assertEqual(answer(builder).size("hots"), "6")
