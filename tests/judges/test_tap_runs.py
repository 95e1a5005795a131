"""Taps as things of the design: judged on the site, sized, drawn where they join."""

import unittest

from tests.support.jobs import JobBuilder, finding, mended, report_of, thing, through_transformer


def tapped(length=20.0, *, end_a=100.0, feeder_a=400.0, load_va=16_000.0, tap=None, run=None):
    """A 400 A feeder to a panel, tapped after 30 ft for a second panel."""
    builder = JobBuilder()
    builder.service(main_a=400.0)
    builder.box("panel", "service", main_a=None, feeder_a=feeder_a, rating_a=400.0)
    builder.box("second", "service", main_a=end_a, feeder_a=None, run={"length_ft": length, **(run or {})})
    feeder = thing(builder.job, "runs", "to-panel")
    second = thing(builder.job, "runs", "to-second")
    device = second["from_part"]
    second["from_part"] = feeder["from_part"]
    builder.job["devices"] = [item for item in builder.job["devices"] if item["id"] != device]
    for conductor in builder.job["conductors"]:
        if conductor["from_part"] == device:
            conductor["from_part"] = feeder["from_part"]
    builder.add(
        "taps",
        "joint",
        run_id="to-panel",
        tap_run_id="to-second",
        at_ft=30.0,
        **{"protected_from_damage": True, "leaves_enclosure": True, **(tap or {})},
    )
    builder.load("panel", 40_000.0)
    builder.load("second", load_va)
    return builder


class TapRuns(unittest.TestCase):
    def found(self, builder):
        return builder.report().runs["to-second"]

    def test_a_tap_of_20_ft_is_sized_for_a_third_of_the_device(self):
        answer = self.found(tapped())
        self.assertEqual(answer.size("hots"), "1/0")
        self.assertEqual([rule.rule for rule in answer.tap_rules if rule.fits], ["25_ft"])
        self.assertEqual(answer.size("ground"), "3")

    def test_no_next_size_up_and_no_whole_dwelling_rule(self):
        self.assertEqual(self.found(tapped(10.0, end_a=125.0, load_va=28_000.0)).size("hots"), "1")

    def test_the_rule_named_on_the_tap_governs(self):
        by_ten = tapped(10.0, end_a=50.0, load_va=9_000.0)
        self.assertEqual(self.found(by_ten).size("hots"), "8")
        by_twenty_five = tapped(10.0, end_a=50.0, load_va=9_000.0, tap={"rule": "25_ft"})
        self.assertEqual(self.found(by_twenty_five).size("hots"), "1/0")

    def test_a_locked_size_below_the_rule_is_a_must_fix_with_a_mend(self):
        builder = tapped(run={"hot_size": "2"})
        wrong = finding(builder.report(), "tap", "to-second")
        self.assertEqual(wrong.outcome, "must_fix")
        self.assertIn("133.3 A are needed", wrong.text)
        self.assertIsNone(finding(report_of(mended(builder.job, wrong)), "tap", "to-second"))

    def test_a_long_tap_fits_no_rule_and_each_reason_is_told(self):
        wrong = finding(tapped(60.0).report(), "tap", "to-second")
        self.assertEqual(wrong.outcome, "cannot_tell")
        self.assertIn("the rule allows 10 ft", wrong.text)
        self.assertIn("outdoors", wrong.text)
        wrong = finding(tapped(60.0, tap={"outdoors_only": False}).report(), "tap", "to-second")
        self.assertEqual(wrong.outcome, "must_fix")

    def test_a_tap_of_a_tap_is_refused(self):
        builder = tapped()
        builder.add("taps", "again", run_id="to-second", tap_run_id="to-panel", at_ft=5.0)
        self.assertEqual(finding(builder.report(), "tap", "to-second").outcome, "must_fix")

    def test_a_tap_that_begins_elsewhere_is_named_and_not_judged(self):
        builder = tapped()
        thing(builder.job, "taps", "joint")["run_id"] = "to-service"
        self.assertEqual(finding(builder.report(), "not_computed", "joint").outcome, "cannot_tell")

    def test_the_feeder_carries_its_tap_as_well(self):
        feeder = tapped().report().runs["to-panel"]
        self.assertAlmostEqual(float(feeder.figures["load"].number), (40_000 + 16_000) / 240, places=6)

    def test_the_drop_begins_at_the_joint(self):
        report = tapped().report()
        feeder, tap = report.runs["to-panel"], report.runs["to-second"]
        before = feeder.figures["total_drop"].number - feeder.figures["drop"].number
        joint = before + feeder.figures["drop"].number * 30 / 50
        self.assertEqual(tap.figures["total_drop"].number - tap.figures["drop"].number, joint)

    def test_it_is_drawn_where_it_joins(self):
        places = {place.id: place for place in tapped().report().places}
        self.assertEqual(places["second"].joins_ft, places["service"].x_ft + 30)
        self.assertEqual(places["second"].x_ft, places["service"].x_ft + 50)
        self.assertNotEqual(places["second"].lane, places["panel"].lane)
        self.assertIsNone(places["panel"].joins_ft)


class AheadOfATransformer(unittest.TestCase):
    """A tap of a 400 A feeder at 208 V to a transformer for 480Y/277 V, with a 60 A main beyond.

    A third of 400 A is 133.3 A; through 208/480 it is 173.3 A, a third of which is 57.8 A, below the 60 A main.
    """

    def builder(self, tap_ft=7.0, **secondary):
        builder = through_transformer(run=secondary)
        builder.box("panel", "service", main_a=None, feeder_a=400.0, rating_a=400.0)
        tap, feeder = (thing(builder.job, "runs", name) for name in ("to-xfmr", "to-panel"))
        device = tap["from_part"]
        for item in [tap, *builder.job["conductors"]]:
            if item["from_part"] == device:
                item["from_part"] = feeder["from_part"]
        builder.job["devices"] = [item for item in builder.job["devices"] if item["id"] != device]
        tap["length_ft"] = tap_ft
        where = {"at_ft": 10.0, "protected_from_damage": True, "leaves_enclosure": True}
        builder.add("taps", "joint", run_id="to-panel", tap_run_id="to-xfmr", **where)
        return builder

    def rules_that_fit(self, builder, run_id):
        return [rule.rule for rule in builder.report().runs[run_id].tap_rules if rule.fits]

    def test_primary_and_secondary_are_both_sized_by_the_rule(self):
        builder = self.builder()
        runs = builder.report().runs
        self.assertEqual((runs["to-xfmr"].size("hots"), runs["to-beyond"].size("hots")), ("1/0", "6"))
        self.assertEqual(self.rules_that_fit(builder, "to-xfmr"), ["transformer"])
        self.assertIn("from_tap", self.rules_that_fit(builder, "to-beyond"))

    def test_26_ft_together_are_too_long(self):
        builder = self.builder(8.0)
        self.assertNotIn("transformer", self.rules_that_fit(builder, "to-xfmr"))
        self.assertNotIn("from_tap", self.rules_that_fit(builder, "to-beyond"))

    def test_locked_secondary_conductors_are_read_with_their_own_ambient(self):
        """6 copper is 65 A; at 50 C 75 x 0.82 = 61.5 A is enough; at 55 C 75 x 0.76 = 57 A is not."""
        for ambient, fits in ((30.0, True), (50.0, True), (55.0, False)):
            builder = self.builder(hot_size="6", ambient_c=ambient)
            self.assertEqual("transformer" in self.rules_that_fit(builder, "to-xfmr"), fits, ambient)

    def test_a_secondary_that_is_not_from_a_tap_has_no_such_rule(self):
        self.assertNotIn("from_tap", self.rules_that_fit(through_transformer(), "to-beyond"))
