"""Pull boxes and conduit bodies along runs, against the arithmetic of 314.28 and 314.16."""

import unittest

from tests.judges.test_runs import answer, feeder
from tests.support.jobs import finding

BIG = {"feeder_a": 200.0, "main_a": 200.0, "load_va": 36_000.0}
SMALL = {"feeder_a": 30.0, "main_a": 30.0, "load_va": 6_000.0}


def boxed(run=None, *, pull=None, box=None, **options):
    """Return a feeder that passes through one box at 20 ft."""
    builder = feeder(run, **(options or BIG))
    builder.add("boxes", "box-1", name="Box in the hall", **(box or {}))
    ends = {"at_ft": 20.0, "enters": "left", "leaves": "right", **(pull or {})}
    builder.add("pulls", "pull-1", box_id="box-1", run_id="to-panel", **ends)
    return builder


class PullBoxes(unittest.TestCase):
    """3/0 copper and a grounding conductor of 6 in EMT: 2 in trade size."""

    def test_a_straight_pull_is_eight_times_the_trade_size(self):
        builder = boxed(box={"standing": "added"})
        self.assertEqual((answer(builder).size("hots"), answer(builder).size("raceway")), ("3/0", "2"))
        found = builder.report().boxes["box-1"]
        self.assertEqual({name: figure.number for name, figure in found.figures.items()}, {"width": 16})

    def test_an_angle_pull_is_six_times_both_ways_and_the_entries_apart(self):
        found = boxed(pull={"leaves": "bottom"}).report().boxes["box-1"]
        wanted = {"width": 12, "height": 12, "apart": 12}
        self.assertEqual({name: figure.number for name, figure in found.figures.items()}, wanted)

    def test_parallel_sets_stand_in_one_row(self):
        """Two sets of 2 in: 6 x 2 + 2 = 14 in each way."""
        found = boxed({"sets": 2, "hot_size": "3/0"}, pull={"leaves": "bottom"}, **BIG).report().boxes["box-1"]
        self.assertEqual({found.figures[side].number for side in ("width", "height")}, {14})

    def test_two_runs_share_a_box(self):
        builder = boxed(pull={"leaves": "bottom"})
        builder.box("second", "service", feeder_a=200.0, main_a=200.0)
        builder.load("second", 36_000.0)
        builder.add("pulls", "pull-2", box_id="box-1", run_id="to-second", at_ft=5.0, enters="left", leaves="bottom")
        found = builder.report().boxes["box-1"]
        self.assertEqual((found.figures["width"].number, found.runs), (14, ("to-panel", "to-second")))

    def test_every_entry_of_a_row_counts_small_and_straight_ones_too(self):
        """A turn of 2 in beside 1/2 in of 10 AWG in the row: 6 x 2 + 1/2 = 12.5 in from the left; in another row 12 in."""
        for row, width in ((1, 12.5), (2, 12)):
            builder = boxed(pull={"leaves": "bottom"})
            builder.box("small", "service", feeder_a=30.0, main_a=30.0)
            builder.load("small", 6_000.0)
            ends = {"enters": "left", "leaves": "right", "row": row}
            builder.add("pulls", "pull-2", box_id="box-1", run_id="to-small", **ends)
            found = builder.report().boxes["box-1"].figures
            self.assertEqual((found["width"].number, found["height"].number), (width, 12))

    def test_a_measure_just_below_and_just_enough(self):
        below = finding(boxed(box={"width_in": 15.9}).report(), "box", "box-1")
        self.assertEqual((below.outcome, below.field), ("must_fix", "width_in"))
        self.assertIsNone(finding(boxed(box={"width_in": 16.0}).report(), "box", "box-1"))

    def test_an_unknown_measure_of_a_box_that_stands_is_cannot_tell(self):
        told = finding(boxed().report(), "box", "box-1")
        self.assertEqual((told.outcome, told.field), ("cannot_tell", "width_in"))
        self.assertIsNone(finding(boxed(box={"standing": "added"}).report(), "box", "box-1"))

    def test_what_is_missing_is_named_at_the_passage(self):
        told = finding(boxed(pull={"enters": None}).report(), "box", "pull-1")
        self.assertEqual((told.outcome, told.field), ("cannot_tell", "enters"))

    def test_a_box_beyond_the_run_and_a_box_without_a_run(self):
        self.assertIn("of a run of 50 ft", finding(boxed(pull={"at_ft": 51.0}).report(), "box", "box-1").text)
        builder = boxed()
        builder.job["pulls"].clear()
        self.assertIn("No run", finding(builder.report(), "box", "box-1").text)

    def test_a_cable_is_not_judged(self):
        told = finding(boxed({"insulation": "SER", "method": "cable"}, **BIG).report(), "box", "box-1")
        self.assertIn("raceways alone", told.text)


class SmallConductors(unittest.TestCase):
    """10 copper behind 30 A: three of 10 and a grounding conductor of 10, 2.5 in3 each."""

    def test_the_volume_of_what_passes_through(self):
        """Three pass: 7.5; the grounding conductor 2.5: 10 in3."""
        found = boxed(pull={"spliced": False}, box={"internal_clamps": False}, **SMALL).report().boxes["box-1"]
        self.assertEqual(found.figures["volume"].number, 10)

    def test_spliced_conductors_count_at_each_end(self):
        """Six ends: 15; two grounding conductors together 2.5; clamps 2.5: 20 in3."""
        spliced = boxed(pull={"spliced": True}, box={"internal_clamps": True, "volume_in3": 19.9}, **SMALL)
        self.assertIn("20 in³ needed", finding(spliced.report(), "box", "box-1").text)

    def test_whether_they_are_spliced_must_be_known(self):
        told = finding(boxed(box={"internal_clamps": False}, **SMALL).report(), "box", "pull-1")
        self.assertEqual(told.field, "spliced")
        told = finding(boxed(pull={"spliced": False}, **SMALL).report(), "box", "box-1")
        self.assertEqual(told.field, "internal_clamps")


class ConduitBodies(unittest.TestCase):
    def test_the_length_of_a_turn_and_of_a_straight_body(self):
        body = {"kind": "conduit_body", "standing": "added"}
        turn = boxed(pull={"leaves": "bottom"}, box=body).report().boxes["box-1"]
        straight = boxed(box=body).report().boxes["box-1"]
        self.assertEqual((turn.figures["length"].number, straight.figures["length"].number), (12, 16))

    def test_a_marking_stands_in_for_the_length(self):
        marked = {"kind": "conduit_body", "length_in": 8.0, "marked_size": "3/0", "marked_count": 4}
        self.assertIsNone(finding(boxed(pull={"leaves": "bottom"}, box=marked).report(), "box", "box-1"))
        too_few = {**marked, "marked_count": 3}
        wrong = finding(boxed(pull={"leaves": "bottom"}, box=too_few).report(), "box", "box-1")
        self.assertEqual((wrong.outcome, wrong.field), ("must_fix", "length_in"))

    def test_small_conductors_go_by_the_cross_section(self):
        """1/2 in EMT is 0.304 in2: twice that is 0.608 in2."""
        body = {"kind": "conduit_body", "cross_area_in2": 0.6}
        wrong = finding(boxed(pull={"leaves": "bottom"}, box=body, **SMALL).report(), "box", "box-1")
        self.assertEqual((wrong.outcome, wrong.field), ("must_fix", "cross_area_in2"))

    def test_the_hardest_of_two_runs_counts_whichever_comes_first(self):
        """A tee with 2 in and 1/2 in: 6 x 2 = 12 in long, and twice 0.304 in2 across for the small conductors."""
        for first, second in (("to-panel", "to-small"), ("to-small", "to-panel")):
            builder = boxed(box={"kind": "conduit_body", "standing": "added"}, pull={"leaves": "bottom"})
            builder.box("small", "service", feeder_a=30.0, main_a=30.0)
            builder.load("small", 6_000.0)
            builder.job["pulls"][0]["run_id"] = first
            builder.add("pulls", "pull-2", box_id="box-1", run_id=second, enters="left", leaves="right")
            found = builder.report().boxes["box-1"].figures
            self.assertEqual(
                {name: float(figure.number) for name, figure in found.items()}, {"length": 12, "area": 0.608}
            )

    def test_a_marking_covers_the_conductors_of_all(self):
        marked = {"kind": "conduit_body", "length_in": 8.0, "marked_size": "3/0", "marked_count": 4}
        builder = boxed(pull={"leaves": "bottom"}, box=marked)
        builder.box("second", "service", feeder_a=200.0, main_a=200.0)
        builder.load("second", 36_000.0)
        builder.add("pulls", "pull-2", box_id="box-1", run_id="to-second", enters="left", leaves="bottom")
        self.assertEqual(finding(builder.report(), "box", "box-1").field, "length_in")

    def test_a_stretch_of_another_method_is_read_in_its_own_table(self):
        """Flexible metal 1/2 in is 0.317 in2: twice that is 0.634 in2, where it is as large as the EMT."""
        builder = boxed(
            {"length_ft": 20.0}, box={"kind": "conduit_body", "standing": "added"}, pull={"at_ft": 5.0}, **SMALL
        )
        builder.add("stretches", "s", run_id="to-panel", length_ft=20.0, method="fmc")
        area = builder.report().boxes["box-1"].figures["area"].number
        rules = builder.report().rules
        size = builder.report().runs["to-panel"].size("raceway:s")
        self.assertEqual(area, 2 * rules.cell("raceway", ("FMC", size), "area_in2"))
