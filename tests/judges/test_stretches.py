"""Runs whose parts are laid in different ways: ampacity, types, trade sizes, cover, drop."""

import unittest
from fractions import Fraction

from hypothesis import given, settings
from hypothesis import strategies as st

from nelvor.clauses.mixed_locations import Portion, governing_ampacity
from nelvor.rulebook.rules import rulebook
from nelvor.working import Recorder
from tests.judges.test_runs import answer, feeder
from tests.support.jobs import finding, mended, report_of

BURIED = {"placement": "underground", "method": "pvc40", "burial_location": "general", "cover_in": 18.0}


def with_stretch(run=None, *, builder=None, **stretch):
    """Return a feeder of 50 ft with one stretch that lies otherwise."""
    builder = builder or feeder(run)
    number = len(builder.job.get("stretches", [])) + 1
    builder.add("stretches", f"stretch-{number}", run_id="to-panel", **{"length_ft": 20.0, **stretch})
    return builder


class Ampacity(unittest.TestCase):
    def test_a_long_hot_stretch_governs_and_a_short_one_does_not(self):
        """3 copper: 115 A x 0.76 = 87.4 A at 50 C; 5 ft are a tenth of 50 ft, and above a tenth of 45 ft."""
        self.assertEqual(answer(with_stretch(ambient_c=50.0)).size("hots"), "3")
        self.assertEqual(answer(with_stretch(ambient_c=60.0)).size("hots"), "2")
        self.assertEqual(answer(with_stretch(ambient_c=60.0, length_ft=5.0)).size("hots"), "3")
        builder = with_stretch(ambient_c=60.0, length_ft=5.0)
        builder.job["settings"]["edition"] = "2017"
        self.assertEqual(answer(builder).size("hots"), "2")

    def test_bundling_along_a_stretch(self):
        """Nine together: 3 copper 115 x 0.7 = 80.5 A, no 100 A device; 2 copper 130 x 0.7 = 91 A, next size up."""
        self.assertEqual(answer(with_stretch(other_current_carrying=7)).size("hots"), "2")
        self.assertEqual(answer(with_stretch(other_current_carrying=7, length_ft=4.0)).size("hots"), "3")

    def test_a_stretch_on_the_roof_is_heated(self):
        """30 + 33 = 63 C, factor 0.65: 2 copper 130 x 0.65 = 84.5 A, 1 copper 145 x 0.65 = 94.25 A."""
        roof = {"placement": "rooftop", "roof_clearance_in": 0.5}
        self.assertEqual(answer(with_stretch(**roof)).size("hots"), "1")
        self.assertEqual(answer(with_stretch(**{**roof, "roof_clearance_in": 1.0})).size("hots"), "3")

    def test_stretches_that_fill_the_run_stand_alone(self):
        builder = with_stretch(length_ft=30.0, ambient_c=60.0)
        self.assertEqual(answer(with_stretch(builder=builder, length_ft=20.0, ambient_c=40.0)).size("hots"), "2")

    def test_lengths_that_do_not_fit_are_told(self):
        found = answer(with_stretch(length_ft=51.0))
        self.assertIn("more than its length", found.gaps["hots"].reason)
        found = finding(with_stretch(length_ft=None).report(), "run_hots", "to-panel")
        self.assertEqual(found.outcome, "cannot_tell")

    @settings(max_examples=40, deadline=None)
    @given(
        st.lists(
            st.tuples(st.integers(10, 300), st.integers(1, 200)),
            min_size=1,
            max_size=5,
        )
    )
    def test_the_governing_ampacity_lies_between_the_lowest_and_the_highest(self, parts):
        recorder = Recorder(rulebook().resolve("2023"))
        portions = [Portion(recorder.given("part", amperes, "A", "case"), Fraction(feet)) for amperes, feet in parts]
        found = governing_ampacity(recorder, "4", portions).number
        self.assertIn(found, {amperes for amperes, _ in parts})
        lower = sum(feet for amperes, feet in parts if amperes < found)
        whole = sum(feet for _, feet in parts)
        self.assertTrue(lower == 0 or lower <= min(10, Fraction(whole, 10)))


class WhereItRuns(unittest.TestCase):
    def test_a_type_that_may_not_run_along_a_stretch_is_told_there_with_a_mend(self):
        builder = with_stretch({"insulation": "THHN"}, placement="outdoors")
        wrong = finding(builder.report(), "run_wiring", "stretch-1")
        self.assertEqual(wrong.outcome, "must_fix")
        self.assertIsNone(finding(report_of(mended(builder.job, wrong)), "run_wiring", "stretch-1"))
        self.assertIsNone(finding(with_stretch(placement="outdoors").report(), "run_wiring", "stretch-1"))

    def test_a_method_is_mended_on_the_stretch(self):
        builder = with_stretch(placement="outdoors", method="fmc")
        wrong = finding(builder.report(), "run_wiring", "stretch-1")
        job = mended(builder.job, wrong)
        self.assertEqual(job["stretches"][0]["proposed"], {"method": "lfmc"})
        self.assertIsNone(finding(report_of(job), "run_wiring", "stretch-1"))

    def test_each_raceway_has_a_trade_size_of_its_own(self):
        """3 copper THWN-2, three hots and neutral with 8: 1 in EMT; in PVC schedule 80 it takes 1-1/4 in."""
        found = answer(with_stretch(placement="outdoors", method="pvc80"))
        self.assertEqual((found.size("raceway"), found.size("raceway:stretch-1")), ("1", "1-1/4"))

    def test_a_locked_trade_size_of_a_stretch_is_checked(self):
        builder = with_stretch(placement="outdoors", method="pvc80", raceway_size="1")
        wrong = finding(builder.report(), "raceway_fill", "stretch-1")
        self.assertEqual(wrong.outcome, "must_fix")
        self.assertIsNone(finding(report_of(mended(builder.job, wrong)), "raceway_fill", "stretch-1"))

    def test_cover_is_judged_along_each_buried_part(self):
        builder = with_stretch(BURIED, placement="underground", burial_location="street_road_alley_driveway_parking")
        self.assertIn("cover_in", finding(builder.report(), "run_cover", "stretch-1").field)
        builder.job["stretches"][0]["cover_in"] = 18.0
        wrong = finding(builder.report(), "cover", "stretch-1")
        self.assertIn("24 in needed", wrong.text)
        self.assertIsNone(finding(report_of(mended(builder.job, wrong)), "cover", "stretch-1"))
        self.assertIsNone(finding(builder.report(), "cover", "to-panel"))

    def test_a_stretch_in_the_same_place_has_the_cover_of_the_run(self):
        self.assertIsNone(finding(with_stretch(BURIED, ambient_c=20.0).report(), "run_cover", "stretch-1"))

    def test_seals_and_ribbon_of_a_buried_stretch_are_listed_once(self):
        names = [item.name for item in answer(with_stretch(BURIED, ambient_c=20.0)).to_fit]
        self.assertEqual(names.count("ribbon"), 1)
        self.assertNotIn("ribbon", [item.name for item in answer(feeder()).to_fit])

    def test_plastic_in_between_breaks_the_metal_path(self):
        run = {"ground_by_raceway": True}
        builder = feeder(run, ground=False)
        self.assertIsNone(finding(builder.report(), "ground_missing", "panel"))
        with_stretch(builder=builder, method="pvc40")
        self.assertEqual(finding(builder.report(), "ground_missing", "panel").outcome, "must_fix")

    def test_flexible_parts_count_together(self):
        options = {"ground": False, "feeder_a": 20.0, "main_a": 20.0, "load_va": 3_000.0}
        builder = feeder({"ground_by_raceway": True}, **options)
        with_stretch(builder=builder, method="fmc", length_ft=3.0)
        self.assertIsNone(finding(builder.report(), "flexible_ground", "to-panel"))
        with_stretch(builder=builder, method="fmc", length_ft=3.5)
        self.assertEqual(finding(builder.report(), "flexible_ground", "to-panel").outcome, "must_fix")


class Drop(unittest.TestCase):
    def test_the_drop_is_that_of_the_parts(self):
        """3 copper: steel 0.25 and 0.059 ohm, plastic 0.25 and 0.047 ohm per 1000 ft; 20 of 50 ft are plastic."""
        steel = answer(feeder()).figures["drop"].number
        plastic = answer(feeder({"method": "pvc40"})).figures["drop"].number
        mixed = answer(with_stretch(method="pvc40")).figures["drop"].number
        self.assertEqual(mixed, steel * Fraction(30, 50) + plastic * Fraction(20, 50))
        self.assertLess(plastic, steel)
