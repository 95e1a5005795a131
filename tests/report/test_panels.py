"""The schedule, the balance and the room of a panel as they are read."""

import unittest
from fractions import Fraction

from nelvor.errors import CannotCompute, NotFound
from nelvor.model.changes.operations import apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.order_of_work import order_of_work, steps_text
from nelvor.report.panel_balance import panel_balance
from nelvor.report.panel_schedule import panel_named
from nelvor.report.room_to_grow import room_to_grow
from nelvor.report.take_over import take_over
from nelvor.report.wire import report_out, schedule_of
from nelvor.spaces.bus_spaces import Spot
from tests.support.jobs import JobBuilder, changed, orchard, report_of, thing


class Schedules(unittest.TestCase):
    def schedule(self, change=lambda job: None, state="proposed"):
        report = report_of(changed(orchard(), change), state)
        return schedule_of(report, report.schedules["house-panel-bus"])

    def test_it_is_sent_where_it_is_looked_at_and_nowhere_else(self):
        report = report_of(orchard())
        self.assertEqual(report_out(report).schedules, {})
        self.assertEqual(set(report_out(report, ["house-panel"]).schedules), {"house-panel-bus"})
        self.assertEqual(set(report_out(report, ["h13"]).schedules), {"house-panel-bus"})

    def test_every_space_and_every_breaker_is_in_it(self):
        schedule = self.schedule()
        self.assertEqual([space.number for space in schedule.spaces], list(range(1, 31)))
        self.assertEqual((schedule.rows, schedule.columns, schedule.free_spaces), (15, 2, 0))
        dryer = next(item for item in schedule.circuits if item.name == "Dryer")
        self.assertEqual(
            ([spot.space for spot in dryer.spots], dryer.legs, dryer.wire), ([2, 4], ["L1", "L2"], "10 NM-B")
        )
        # 5.5 kW at 240 V
        self.assertEqual(dryer.poles_a, ["22.9", "22.9"])
        self.assertEqual(schedule.without_circuit, ["h-area", "h-charger", "h-garage"])

    def test_a_panel_that_hangs_upside_down_has_its_first_space_at_the_bottom_right(self):
        turned = self.schedule(lambda job: thing(job, "buses", "house-panel-bus").update(numbering="inverted"))
        first = turned.spaces[0]
        self.assertEqual((first.number, first.row, first.column, first.leg), (1, 14, 1, "L1"))

    def test_a_removed_circuit_leaves_its_load_in_sight(self):
        def remove(job):
            thing(job, "devices", "h13")["standing"] = "removed"
            thing(job, "loads", "h-dish")["proposed"] = {"device_id": None}

        schedule = self.schedule(remove)
        self.assertIn("h-dish", schedule.without_circuit)
        self.assertEqual(schedule.free_spaces, 1)

    def test_panels_go_by_name_and_id(self):
        report = report_of(orchard())
        for name in ("House panel", "house-panel", "house-panel-bus"):
            self.assertEqual(panel_named(report, name).bus.id, "house-panel-bus")
        with self.assertRaises(NotFound):
            panel_named(report, "Attic panel")


class Balance(unittest.TestCase):
    def found(self, within, change=lambda job: None):
        return panel_balance(report_of(changed(orchard(), change)), "house-panel-bus", Fraction(within))

    def test_the_house_takes_two_moves(self):
        # L1 168.67 A, L2 176.5 A: microwave 12.5 A and dishwasher 10 A change places, 171.17 and 174
        found = self.found(5)
        self.assertEqual(
            sorted((move.name, move.to_space) for move in found.moves), [("Dishwasher", 15), ("Microwave", 13)]
        )
        self.assertEqual([(leg.before, leg.after) for leg in found.legs], [("168.7", "171.2"), ("176.5", "174")])
        self.assertTrue(found.reached and found.proven)

    def test_what_shares_a_neutral_and_what_a_source_feeds_stays(self):
        found = self.found(0, lambda job: thing(job, "devices", "h15").update(role="source"))
        self.assertEqual(set(found.stay), {"Counter left", "Counter right", "Microwave"})
        self.assertFalse({"h10", "h12", "h15"} & {move.device_id for move in found.moves})

    def test_a_panel_that_cannot_stand_is_not_balanced(self):
        with self.assertRaises(CannotCompute):
            self.found(5, lambda job: thing(job, "devices", "h15").update(space=13))
        with self.assertRaises(NotFound):
            panel_balance(report_of(orchard()), "no-bus", Fraction(5))


class Room(unittest.TestCase):
    def setUp(self):
        self.builder = JobBuilder()
        self.builder.service()
        self.builder.box("panel", "service")
        thing(self.builder.job, "buses", "panel-bus")["spaces"] = 4
        for run in self.builder.job["runs"]:
            run["standing"] = "added"

    def plan(self, *loads):
        for number, load in enumerate(loads, 1):
            values = {"unit": "VA", "volts": 240.0, "name": f"Plan {number}", **load}
            self.builder.add("planned_loads", f"plan-{number}", enclosure_id="panel", **values)
        document = parse_value(self.builder.job)
        return room_to_grow(check(document), document, "panel-bus")

    def test_one_after_another_until_there_is_no_space(self):
        found = self.plan({"amount": 4_800.0}, {"amount": 1_200.0, "volts": 120.0}, {"amount": 2_400.0})
        self.assertEqual([plan.fits for plan in found.plans], [True, True, False])
        # 20 A on two poles; 10 A on one; 10 A on two
        self.assertEqual([plan.breaker for plan in found.plans], ["20 A, 2 poles", "15 A, 1 pole", "15 A, 2 poles"])
        self.assertEqual([plan.space for plan in found.plans], [1, 2, None])
        self.assertIn("sub-panel", found.plans[2].first[0])

    def test_a_load_above_the_feeder_names_every_level_that_is_too_small(self):
        found = self.plan({"amount": 30_000.0})
        (plan,) = found.plans
        self.assertFalse(plan.fits)
        self.assertTrue(any("panel would carry 125 A of 100 A" in text for text in plan.first), plan.first)

    def test_continuous_load_needs_the_larger_breaker(self):
        # 32 A x 1.25 = 40 A
        (plan,) = self.plan({"amount": 32.0, "unit": "A", "continuous": True}).plans
        self.assertEqual(plan.breaker, "40 A, 2 poles")

    def test_half_size_breakers_where_the_panel_is_marked(self):
        thing(self.builder.job, "buses", "panel-bus").update(half_size_spaces=True)
        for space in (1, 2, 3, 4):
            self.builder.add(
                "devices",
                f"b{space}",
                enclosure_id="panel",
                bus_id="panel-bus",
                role="branch",
                name=f"Room {space}",
                rating_a=20.0,
                poles=1,
                space=space,
            )
        (plan,) = self.plan({"amount": 1_200.0, "volts": 120.0}).plans
        self.assertIn("half-size", plan.first[0])

    def test_what_is_not_told_is_asked_for(self):
        (plan,) = self.plan({"amount": None}).plans
        self.assertIsNone(plan.fits)
        self.assertIn("amount", plan.first[0])

    def test_planning_changes_no_answer(self):
        before = check(parse_value(self.builder.job)).levels["panel"].demand_va.number
        self.plan({"amount": 4_800.0})
        self.assertEqual(check(parse_value(self.builder.job)).levels["panel"].demand_va.number, before)


class TakingOver(unittest.TestCase):
    def job(self, **values):
        job = orchard()
        thing(job, "buses", "green-panel-bus").update(spaces=40, **values)
        return job

    def found(self, job, distance=None):
        return take_over(report_of(job), "house-panel-bus", "green-panel-bus", distance)

    def test_each_circuit_keeps_its_number_where_that_is_free(self):
        found = self.found(self.job())
        self.assertEqual([item for item in found.circuits if item.to_space != item.from_space], [])
        self.assertEqual(len(found.circuits), 25)

    def test_carried_out_the_circuits_are_there_with_their_loads_and_wires(self):
        job = self.job()
        before = report_of(job)
        found = self.found(job)
        document = parse_value(apply(job, list(found.operations)))
        after = check(document)
        self.assertEqual(after.schedules["house-panel-bus"].circuits, ())
        moved = {item.device.name: item for item in after.schedules["green-panel-bus"].circuits}
        self.assertEqual(moved["Range"].spots, (Spot(1), Spot(3)))
        self.assertEqual([load.id for load in moved["Dishwasher"].loads], ["h-dish"])
        self.assertEqual(len(after.site.circuits_of[moved["Dishwasher"].device.id]), 1)
        self.assertEqual(after.levels["meter"].connected_va.number, before.levels["meter"].connected_va.number)
        steps = steps_text(order_of_work(check(document, "existing"), after))
        self.assertIn(
            "Move the wires of Dishwasher (House panel space 13) to Dishwasher (Greenhouse panel space 13)", steps
        )
        self.assertIn("Take Dishwasher out of House panel and close its space.", steps)

    def test_what_shares_a_neutral_stays_together_and_what_finds_no_room_stays_behind(self):
        found = self.found(self.job() | {})
        by_id = {item.device_id: item for item in found.circuits}
        self.assertEqual((by_id["h10"].to_space, by_id["h12"].to_space), (10, 12))
        small = self.found(changed(self.job(), lambda job: thing(job, "buses", "green-panel-bus").update(spaces=8)))
        stays = [item for item in small.circuits if item.to_space is None]
        self.assertTrue(stays and all("stays" in item.note for item in stays))

    def test_of_chosen_circuits_only_these_go_and_what_shares_a_neutral_with_one(self):
        found = take_over(report_of(self.job()), "house-panel-bus", "green-panel-bus", None, ["h10", "h13"])
        goes = {item.device_id for item in found.circuits if item.to_space is not None}
        self.assertEqual(goes, {"h10", "h12", "h13"})
        self.assertEqual({item.note for item in found.circuits if item.device_id not in goes}, {"Not chosen."})
        none = take_over(report_of(self.job()), "house-panel-bus", "green-panel-bus", None, [])
        self.assertEqual(none.operations, [])

    def test_a_cable_that_is_too_short_is_told(self):
        job = self.job()
        thing(job, "circuits", "h13-wires")["reach_ft"] = 8.0
        thing(job, "circuits", "h14-wires")["reach_ft"] = 12.0
        notes = {item.device_id: item.note for item in self.found(job, 12.0).circuits}
        self.assertIn("4 ft too short", notes["h13"])
        self.assertEqual(notes["h14"], "")
        self.assertIn("Measure", notes["h15"])

    def test_it_takes_two_panels_that_are_told(self):
        with self.assertRaises(CannotCompute):
            take_over(report_of(orchard()), "house-panel-bus", "house-panel-bus")
        with self.assertRaises(NotFound):
            take_over(report_of(orchard()), "house-panel-bus", "no-bus")
