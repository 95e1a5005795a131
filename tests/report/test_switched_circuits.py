"""Choosing the circuits of a box of switches: which switch takes which, what the set then carries, and what is done on site."""

import unittest

from nelvor.errors import NotFound
from nelvor.model.changes.operations import apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.order_of_work import changes_in_words, order_of_work
from nelvor.report.panel_schedule import panel_named
from nelvor.report.positions_played import positions_out
from nelvor.report.switched_circuits import weighed_switching
from nelvor.report.wire import schedule_of
from tests.support.boxes import with_switch_box
from tests.support.jobs import thing


def checked(value):
    return check(parse_value(value))


def chosen(builder, *circuits):
    """What is told of a choice, and the job with it."""
    plain = parse_value(builder.job).model_dump(mode="json")
    told = weighed_switching(plain, checked, "box-gear", list(circuits))
    return told, apply(plain, told.operations)


def by_name(told):
    return {item.name: "".join(item.switches) for item in told.circuits}


class Choosing(unittest.TestCase):
    def test_each_goes_to_the_line_with_less_and_two_poles_side_by_side(self):
        """The well, 3 600 VA at 240 V, is 15 A on each line; the fridge, 1 200 VA at 120 V, 10 A on L1."""
        told, job = chosen(with_switch_box(), "well", "fridge")
        self.assertEqual(by_name(told), {"Well": "AB", "Fridge": "C", "Left": "", "Right": ""})
        self.assertEqual(told.free, ["D"])
        self.assertEqual([leg.after_a for leg in told.carried.legs], [25.0, 15.0])
        self.assertEqual(told.carried.supply_a, 30.0)
        report = checked(job)
        self.assertEqual([item for item in report.findings if item.outcome == "must_fix"], [])

    def test_a_shared_neutral_takes_both_and_too_many_stay(self):
        told, job = chosen(with_switch_box(), "well", "left", "fridge")
        self.assertEqual(by_name(told), {"Well": "AB", "Left": "C", "Right": "D", "Fridge": ""})
        self.assertEqual(
            next(item.note for item in told.circuits if item.name == "Fridge"), "No switch is free for it. It stays."
        )
        self.assertEqual([leg.after_a for leg in told.carried.legs], [27.5, 27.5])
        self.assertEqual([item for item in checked(job).findings if item.outcome == "must_fix"], [])

    def test_what_is_moved_stays_where_it_is_and_what_is_not_chosen_goes_back(self):
        builder = with_switch_box(well="cd", fridge="a")
        self.assertEqual(chosen(builder, "well", "fridge")[0].operations, [])
        told, job = chosen(builder, "well")
        self.assertEqual((by_name(told)["Well"], told.free), ("CD", ["A", "B"]))
        self.assertIsNone(parse_value(job).circuit_switches[0].proposed.get("device_id", ""))

    def test_no_room_side_by_side_is_told(self):
        builder = with_switch_box(fridge="b", left="d")
        told, _ = chosen(builder, "fridge", "left", "right", "well")
        self.assertIn(
            "No 2 free switches lie side by side", next(item.note for item in told.circuits if item.name == "Well")
        )

    def test_an_unknown_box_is_told(self):
        with self.assertRaises(NotFound):
            weighed_switching(parse_value(with_switch_box().job).model_dump(mode="json"), checked, "no-gear")


class Told(unittest.TestCase):
    def test_in_its_position_the_set_keeps_those_circuits_live_alone(self):
        report = with_switch_box(well="ab", fridge="c").report()
        day, standby = positions_out(report)
        self.assertEqual((day.circuits, "box" in day.live, "leads" in day.runs), ({}, True, True))
        self.assertEqual(standby.name, "Utility away, Box on generator")
        self.assertEqual(standby.circuits, {"panel": ["Well", "Fridge"]})
        self.assertEqual(standby.fed_from, {"box": ["Set"]})
        self.assertNotIn("service", standby.live)

    def test_the_work_is_told_wire_by_wire(self):
        builder = with_switch_box(fridge="c")
        plain = parse_value(builder.job).model_dump(mode="json")
        _, job = chosen(builder, "well")
        steps = changes_in_words(checked(plain), checked(job))
        text = " ".join(steps)
        self.assertIn("Switch A of Box: take the wire of Well (panel space 1) off its breaker", text)
        self.assertIn("Land the wire of Fridge (panel space 2) on its breaker again, without the lead.", text)
        self.assertIn("Switch C of Box: it is free; cap both its leads.", text)
        self.assertNotIn("as calculated", text)

    def test_a_new_box_brings_its_leads_and_its_neutral(self):
        builder = with_switch_box(well="ab")
        own = ("enclosures", "transfers", "throws", "circuit_switches", "bars", "lugs", "runs", "conductors")
        for name in own:
            for item in builder.job[name]:
                if item["id"].startswith(("box", "on-", "leads", "panel-leads", "from-set")):
                    item["standing"] = "added"
        document = parse_value(builder.job)
        stages = order_of_work(check(document, "existing"), check(document)).stages
        text = " ".join(step.text for stage in stages for step in stage.steps)
        self.assertIn(
            "Bring the leads of Box into panel; land and torque its neutral and its grounding conductor", text
        )
        self.assertIn("Switch C of Box: it is free", text)

    def test_schedule_and_door_name_the_switches(self):
        report = with_switch_box(well="ab").report()
        schedule = schedule_of(report, panel_named(report, "panel"))
        self.assertEqual(
            {item.on_the_door for item in schedule.circuits} & {"Well (A/B)", "Fridge"}, {"Well (A/B)", "Fridge"}
        )

    def test_a_feeder_that_is_moved_is_carried_with_all_behind_it(self):
        builder = with_switch_box(well="ab")
        builder.box("shed", "panel", feeder_a=20.0)
        builder.load("shed", 2400.0, category="other").update(continuous=False)
        thing(builder.job, "devices", "panel-to-shed").update(space=5, poles=2)
        for letter in "cd":
            thing(builder.job, "circuit_switches", f"box-{letter}")["device_id"] = "panel-to-shed"
        level = builder.report().levels["box"]
        self.assertEqual([float(leg.actual.number) for leg in level.legs], [25.0, 25.0])
