"""Boxes of switches for single circuits: all lines of a circuit or none, the wire protected on either supply."""

import unittest

from tests.support.boxes import with_switch_box
from tests.support.jobs import finding, mended, report_of, thing

CODES = (
    "switch_reach",
    "switch_poles",
    "switch_leg",
    "switch_tie",
    "switch_rating",
    "switch_protection",
    "multiwire_apart",
)


def said(report):
    return {(item.code, item.outcome) for item in (*report.findings, *report.held) if item.code in CODES}


class Circuits(unittest.TestCase):
    """Switches A, B, C, D on L1, L2, L1, L2 with breakers of 20 A; well (two poles), fridge, two counters on one neutral."""

    def wrong(self, code, thing_id, **moved):
        """The must-fix of a code, its mend tried: it clears the finding and brings no other."""
        builder = with_switch_box(**moved)
        report = builder.report()
        found = finding(report, code, thing_id)
        self.assertIsNotNone(found, [item.code for item in report.findings])
        self.assertEqual(found.outcome, "must_fix")
        return builder, found

    def assert_mended(self, builder, found):
        before, after = builder.report(), report_of(mended(builder.job, found))
        wrong = [
            {(item.code, item.id) for item in each.findings if item.outcome == "must_fix"} for each in (before, after)
        ]
        self.assertNotIn((found.code, found.id), wrong[1])
        self.assertLessEqual(wrong[1], wrong[0])

    def test_each_circuit_on_its_switch_holds(self):
        report = with_switch_box(well="ab", fridge="c").report()
        self.assertEqual(said(report), {("switch_poles", "holds"), ("switch_tie", "holds"), ("switch_rating", "holds")})
        self.assertEqual([item for item in report.findings if item.outcome == "must_fix"], [])

    def test_a_line_that_stays_behind_is_found(self):
        builder, found = self.wrong("switch_poles", "box-a", well="a")
        self.assertIn("has 2 poles and 1 of the switches", found.text)
        self.assert_mended(builder, found)

    def test_lines_of_one_circuit_go_together_and_to_different_lines(self):
        builder, found = self.wrong("switch_tie", "box-b", well="bc")
        self.assert_mended(builder, found)
        self.assertEqual(found.mend.label, "Well: tie the handles of Switches B and C")
        _, found = self.wrong("switch_leg", "box-a", well="ac")
        self.assertIn("the same line L1", found.text)

    def test_a_line_that_is_not_read_is_asked_for(self):
        builder = with_switch_box(well="ab")
        thing(builder.job, "circuit_switches", "box-b")["leg"] = None
        found = finding(builder.report(), "switch_leg", "box-b")
        self.assertEqual((found.outcome, found.field), ("cannot_tell", "leg"))

    def test_circuits_that_share_a_neutral_go_together(self):
        builder, found = self.wrong("multiwire_apart", "box-a", left="a")
        self.assertIn("Left and Right share a neutral, and Box moves Left alone", found.text)
        self.assert_mended(builder, found)
        report = with_switch_box(left="a", right="b").report()
        self.assertIn(("switch_tie", "holds"), said(report))
        self.assertIsNone(finding(report, "multiwire_apart", "box-a"))
        _, found = self.wrong("switch_leg", "box-a", left="a", right="c")
        self.assertIn("same line L1", found.text)

    def test_the_wire_is_protected_on_the_set(self):
        """A 15 A circuit on a switch of 20 A: its wire is protected at 15 A by day, at 20 A on the set."""
        builder = with_switch_box(fridge="c")
        thing(builder.job, "devices", "fridge")["rating_a"] = 15.0
        found = finding(builder.report(), "switch_rating", "box-c")
        self.assertEqual((found.outcome, found.section), ("must_fix", "240.4(D)"))
        self.assertEqual(found.mend.label, "Switch C: 15 A")
        self.assert_mended(builder, found)
        thing(builder.job, "circuit_switches", "box-c")["rating_a"] = None
        self.assertEqual(finding(builder.report(), "switch_rating", "box-c").outcome, "cannot_tell")

    def test_without_breakers_of_its_own_the_sets_breaker_protects_the_wire(self):
        for set_a, outcome in ((30.0, "must_fix"), (20.0, "holds")):
            builder = with_switch_box(fridge="c")
            thing(builder.job, "transfers", "box-gear")["switches_protected"] = False
            thing(builder.job, "devices", "set-breaker")["rating_a"] = set_a
            self.assertIn(("switch_rating", outcome), said(builder.report()))
        thing(builder.job, "transfers", "box-gear")["switches_protected"] = None
        self.assertEqual(said(builder.report()) - {("switch_poles", "holds")}, {("switch_protection", "cannot_tell")})

    def test_protection_that_stays_behind_does_not_act(self):
        builder = with_switch_box(fridge="c")
        thing(builder.job, "devices", "fridge")["protection"] = "both"
        found = finding(builder.report(), "switch_not_acting", "fridge")
        self.assertEqual(found.outcome, "advice")
        self.assertIn("arc- and ground-fault protection", found.text)

    def test_a_set_of_120_volts_takes_neither_two_poles_nor_a_shared_neutral(self):
        for moved in ({"well": "ab"}, {"left": "a", "right": "b"}):
            builder = with_switch_box(**moved)
            thing(builder.job, "sources", "set-source")["output"] = "two_wire_120"
            found = finding(builder.report(), "switch_volts", "box-a")
            self.assertEqual(found.outcome, "must_fix")
            self.assert_mended(builder, found)
        builder = with_switch_box(fridge="a")
        thing(builder.job, "sources", "set-source")["output"] = "two_wire_120"
        self.assertIsNone(finding(builder.report(), "switch_volts", "box-a"))

    def test_a_circuit_is_left_to_one_box(self):
        builder = with_switch_box(fridge="a")
        builder.add("lugs", "other-load", enclosure_id="box")
        builder.add("transfers", "other", enclosure_id="box", load_part="other-load", lines_only=True)
        builder.add("throws", "other-on", transfer_id="other", part="panel-bus")
        builder.add("circuit_switches", "other-a", transfer_id="other", name="A", device_id="fridge", rating_a=20.0)
        found = finding(builder.report(), "switch_twice", "box-a")
        self.assertEqual(found.outcome, "must_fix")
        self.assert_mended(builder, found)

    def test_a_source_behind_a_moved_feeder_would_push_into_the_set(self):
        builder = with_switch_box(well="ab")
        builder.box("shed", "panel", feeder_a=20.0)
        for letter in "cd":
            thing(builder.job, "circuit_switches", f"box-{letter}")["device_id"] = "panel-to-shed"
        self.assertIsNone(finding(builder.report(), "switch_source", "box-c"))
        plate = {"kind": "inverter", "system": "split_120_240", "interactive": True, "rated_output_a": 8.0}
        builder.add("sources", "sun", name="Sun", **plate)
        builder.add("devices", "sun-breaker", enclosure_id="shed", role="source", rating_a=15.0)
        builder.add("runs", "sun-run", from_part="sun", to_part="sun-breaker", length_ft=10.0)
        found = finding(builder.report(), "switch_source", "box-c")
        self.assertIn("it would push into the set", found.text)
        self.assert_mended(builder, found)

    def test_a_breaker_of_another_panel_is_out_of_reach(self):
        builder = with_switch_box()
        thing(builder.job, "circuit_switches", "box-a")["device_id"] = "service-main"
        found = finding(builder.report(), "switch_reach", "box-a")
        self.assertIn("which is no circuit of panel", found.text)
        self.assert_mended(builder, found)


class Neutral(unittest.TestCase):
    def test_the_neutral_goes_with_the_leads_to_that_of_the_panel(self):
        builder = with_switch_box(well="ab")
        report = builder.report()
        decisions = {key: report.bonds[key].decision for key in ("service", "panel", "box", "set")}
        self.assertEqual(decisions, {"service": "bond", "panel": "apart", "box": "apart", "set": "floating"})

    def test_without_it_the_set_has_no_bond(self):
        builder = with_switch_box(well="ab")
        builder.job["conductors"] = [item for item in builder.job["conductors"] if item["id"] != "leads-neutral"]
        found = [item for item in builder.report().findings if item.outcome == "must_fix"]
        self.assertTrue(found, "the set's neutral is joined to nothing")

    def test_leads_are_no_second_supply_and_no_feed(self):
        report = with_switch_box(well="ab").report()
        self.assertIsNone(finding(report, "second_feed", "panel"))
        self.assertEqual(report.site.feeding_run("panel").id, "to-panel")
        self.assertEqual(report.runs["leads"].kind, "leads")
