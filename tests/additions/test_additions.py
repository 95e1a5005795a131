"""What is added in one act: drawn whole, the bond at its one right place, what follows from it carried out."""

import unittest

from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from nelvor.additions.kinds import ADDITIONS
from nelvor.errors import BadInput, CannotCompute
from nelvor.model.changes.operations import apply
from nelvor.model.parse import parse_value
from nelvor.model.source_plates import SourcePlate
from nelvor.report.check import check
from nelvor.report.order_of_work import order_of_work
from nelvor.report.positions_played import positions_out
from nelvor.report.take_over import weighed_take_over
from nelvor.report.weighed_addition import weigh_addition
from tests.support.jobs import JobBuilder, finding, orchard, thing
from tests.support.sites import sites

SET = {"rated_kva": 24.0, "breaker_a": 100.0}
PLATES = {
    "disconnect_ahead": {},
    "meter_main": {},
    "second_panel": {},
    "transformer_ahead": {},
    "inverter": {"output_a": 32.0},
}


def weighed(job, kind, at, **options):
    return weigh_addition(job, lambda value: check(parse_value(value)), kind, at, options)


def taken(job, kind, at, **options):
    """The report of a job with an addition, and what was told of it."""
    plain = parse_value(job).model_dump(mode="json")
    told = weighed(plain, kind, at, **options)
    document = apply(plain, told.operations)
    return check(parse_value(document)), told, document


def house():
    """A service disconnect with two rods, feeding a panel with 20 spaces, its main at the top."""
    builder = JobBuilder()
    builder.service(main_a=200.0)
    builder.box("panel", "service", main_a=200.0, feeder_a=200.0)
    thing(builder.job, "buses", "panel-bus").update(spaces=20, main_end="top")
    load = {"enclosure_id": "panel", "category": "other", "amount": 12000.0, "unit": "VA", "volts": 240.0}
    builder.add("loads", "heat", name="Heat", continuous=False, **load)
    return builder


def must_fix(report):
    return {(item.code, item.id) for item in report.findings if item.outcome == "must_fix"}


def decisions(report):
    return {report.site.enclosures[key].name or key: bond.decision for key, bond in report.bonds.items()}


class ByAPlate(unittest.TestCase):
    """What a plate says of the source that comes stands in the design, but for what the addition decides itself."""

    PLATE = SourcePlate(
        name="Set 24",
        kind="generator",
        rated_kva=18.0,
        fault_contribution_a=600.0,
        power_factor=0.8,
        portable=True,
        marking="floating_neutral",
    )

    def source(self, kind, plate, **options):
        document = parse_value(house().job).model_dump(mode="json")
        told = weigh_addition(document, lambda value: check(parse_value(value)), kind, "panel", options, plate)
        return next(item.thing for item in told.operations if item.op == "insert" and item.list == "sources")

    def test_its_facts_come_along_and_options_go_before_them(self):
        made = self.source("transfer_gear", self.PLATE, **SET)
        self.assertEqual((made["fault_contribution_a"], made["power_factor"]), (600.0, 0.8))
        self.assertEqual((made["rated_kva"], made["portable"]), (24.0, False))

    def test_without_one_nothing_is_added(self):
        self.assertIsNone(self.source("transfer_gear", None, **SET).get("fault_contribution_a"))


class DisconnectAhead(unittest.TestCase):
    def test_ahead_of_the_service_it_takes_the_bond_and_the_electrodes(self):
        report, told, job = taken(orchard(), "disconnect_ahead", "disc-house")
        self.assertEqual(decisions(report)["Outdoor disconnect"], "bond")
        self.assertEqual(decisions(report)["House disconnect"], "apart")
        self.assertEqual(told.follows, ["House disconnect: add the grounding conductor, then part neutral and ground"])
        moved = [item for item in job["electrodes"] if "connects_to" in item.get("proposed", {})]
        self.assertEqual({item["proposed"]["connects_to"] for item in moved}, {"disc-house-ahead-n"})

    def test_the_new_path_comes_before_the_old_bond_goes(self):
        _, told, _ = taken(orchard(), "disconnect_ahead", "disc-house")
        stages = [stage.stage for stage in told.work.stages]
        self.assertEqual(stages, ["off", "place", "bond", "unbond", "measure", "on"])
        steps = {stage.stage: " ".join(step.text for step in stage.steps) for stage in told.work.stages}
        self.assertIn("Add the grounding conductor", steps["place"])
        self.assertIn("Fit the bonding screw at Outdoor disconnect", steps["bond"])
        self.assertIn("Take the bonding screw out at House disconnect", steps["unbond"])
        self.assertIn("move its start, all conductors, from Load lugs of Meter to Disconnect main", steps["place"])

    def test_the_rating_is_that_of_the_main_unless_another_is_asked_for(self):
        for asked, rating in ((None, 200.0), (150.0, 150.0)):
            with self.subTest(asked=asked):
                _, _, job = taken(house().job, "disconnect_ahead", "service", rating_a=asked)
                self.assertEqual(thing(job, "devices", "service-ahead-main")["rating_a"], rating)

    def test_near_the_panel_of_another_building_the_standing_wire_ends_in_it(self):
        _, _, job = taken(orchard(), "disconnect_ahead", "barn-panel")
        new = next(item for item in job["enclosures"] if item["name"] == "Outdoor disconnect")
        self.assertEqual(new["building_id"], thing(job, "enclosures", "barn-panel")["building_id"])
        run = next(item for item in job["runs"] if item["id"] == "to-barn")
        self.assertEqual((run.get("proposed") or {}).get("to_part") or run["to_part"], f"{new['id']}-main")
        _, _, job = taken(orchard(), "disconnect_ahead", "barn-panel", near="supply")
        run = next(item for item in job["runs"] if item["id"] == "to-barn")
        self.assertEqual((run.get("proposed") or {}).get("from_part") or run["from_part"], f"{new['id']}-main")


class MeterMain(unittest.TestCase):
    def test_it_takes_the_place_of_the_meter_and_holds_the_bond(self):
        report, told, job = taken(house().job, "meter_main", "service")
        self.assertEqual(thing(job, "enclosures", "meter")["standing"], "removed")
        self.assertEqual(decisions(report), {"Meter-main": "bond", "service": "apart", "panel": "apart"})
        self.assertEqual(report.site.upstream_of(report.site.feeding_run("service")), "meter-main")
        self.assertIn("service: add the grounding conductor, then part neutral and ground", told.follows)
        self.assertEqual(must_fix(report), set())
        moved = {item["proposed"]["connects_to"] for item in job["electrodes"] if item.get("proposed")}
        self.assertEqual(moved, {"meter-main-n"})

    def test_all_that_the_meter_fed_is_behind_it(self):
        report, _, _ = taken(orchard(), "meter_main", "disc-house")
        found = decisions(report)
        self.assertEqual(
            (found["Meter-main"], found["Barn disconnect"], found["House disconnect"]), ("bond", "apart", "apart")
        )
        self.assertNotIn("Meter", found)

    def test_only_ahead_of_a_service_disconnect_that_a_meter_feeds(self):
        with self.assertRaisesRegex(CannotCompute, "no service disconnect that a meter feeds"):
            weighed(orchard(), "meter_main", "barn-panel")


class SecondPanel(unittest.TestCase):
    def test_it_is_apart_and_its_feeder_stands_farthest_from_the_main(self):
        report, told, job = taken(house().job, "second_panel", "panel", feeder_a=100.0, bus_a=125.0)
        self.assertEqual((decisions(report)["Second panel"], must_fix(report), told.follows), ("apart", set(), []))
        self.assertEqual(thing(job, "devices", "panel-second")["space"], 17)
        self.assertEqual(thing(job, "buses", "second-panel-bus")["spaces"], 20)


class TransformerAhead(unittest.TestCase):
    def bakery_like(self):
        builder = JobBuilder(system="wye_208_120")
        builder.service(main_a=200.0)
        builder.box("panel", "service", main_a=100.0, feeder_a=100.0)
        return builder.job

    def test_what_is_behind_it_is_a_system_of_its_own(self):
        report, told, job = taken(
            self.bakery_like(), "transformer_ahead", "panel", secondary_system="wye_480_277", kva=45.0
        )
        self.assertEqual((decisions(report)["Transformer"], decisions(report)["panel"]), ("derived_bond", "apart"))
        self.assertEqual(report.site.system_at("panel"), "wye_480_277")
        wires = {item["role"] for item in job["conductors"] if item["run_id"] == "to-new-box"}
        self.assertEqual(wires, {"L1", "L2", "L3", "ground"})  # the primary takes no neutral
        told_of = {item.code for item in report.findings if item.id.startswith("panel-ahead")}
        self.assertTrue({"derived_electrode", "source_facts"} <= told_of)

    def test_a_secondary_of_other_lines_and_a_service_are_refused(self):
        with self.assertRaisesRegex(CannotCompute, "3 lines lead to panel, and that secondary has 2"):
            weighed(self.bakery_like(), "transformer_ahead", "panel")
        with self.assertRaisesRegex(CannotCompute, "holds the service disconnect"):
            weighed(house().job, "transformer_ahead", "service")


class TransferGear(unittest.TestCase):
    def test_ahead_of_the_service_it_is_the_service_disconnect(self):
        report, _, job = taken(orchard(), "transfer_gear", "disc-house", **SET)
        self.assertEqual(decisions(report)["Transfer switch"], "bond")
        self.assertEqual(decisions(report)["Standby generator"], "floating")
        self.assertTrue(thing(job, "transfers", "transfer-switch-gear")["service_rated"])

    def test_the_neutral_of_the_gear_decides_where_the_set_is_bonded(self):
        for neutral, decision, rods in (("stays", "floating", 0), ("switched", "bond_in_source", 2)):
            for portable in (False, True):
                with self.subTest(neutral=neutral, portable=portable):
                    report, _, job = taken(
                        house().job, "transfer_gear", "panel", neutral=neutral, portable=portable, **SET
                    )
                    self.assertEqual(report.bonds["generator"].decision, decision)
                    self.assertEqual(decisions(report)["service"], "bond")
                    self.assertEqual(decisions(report)["Transfer switch"], "apart")
                    at_set = [item for item in job["electrodes"] if item["connects_to"] == "generator-g"]
                    self.assertEqual(len(at_set), rods)
                    self.assertEqual(must_fix(report), set())

    def test_a_set_bonded_behind_gear_that_leaves_the_neutral_is_found(self):
        report, told, _ = taken(house().job, "transfer_gear", "panel", marking="bonded_neutral", **SET)
        self.assertIn("Standby generator: open the bond in it", told.follows)
        self.assertEqual(report.bonds["generator"].found, "apart")

    def test_what_is_known_already_is_not_mended_along_with_it(self):
        _, told, _ = taken(orchard(), "transfer_gear", "disc-house", **SET)
        self.assertFalse([words for words in told.follows if "House panel" in words or "Greenhouse" in words])


class Interlock(unittest.TestCase):
    def test_its_breaker_stands_beside_the_main_and_what_stood_there_moves(self):
        builder = house()
        for space, poles in ((1, 1), (2, 2), (5, 1)):
            device = {"enclosure_id": "panel", "bus_id": "panel-bus", "role": "branch", "rating_a": 20.0}
            builder.add("devices", f"c{space}", name=f"Circuit {space}", poles=poles, space=space, **device)
        report, _, job = taken(builder.job, "interlock", "panel", rated_kva=7.2, breaker_a=30.0)
        breaker = thing(job, "devices", "panel-generator")
        self.assertEqual((breaker["space"], breaker["role"], breaker["held_down"]), (2, "source", True))
        self.assertEqual(thing(job, "devices", "c2")["proposed"], {"space": 6})
        self.assertEqual(thing(job, "devices", "c1").get("proposed", {}), {})
        self.assertEqual(must_fix(report), set())
        self.assertEqual(report.bonds["generator"].decision, "floating")

    def test_a_full_panel_and_one_without_a_main_are_told(self):
        builder = house()
        device = {"enclosure_id": "panel", "bus_id": "panel-bus", "role": "branch", "rating_a": 20.0, "poles": 1}
        for space in range(1, 21):
            builder.add("devices", f"c{space}", name=f"Circuit {space}", space=space, **device)
        with self.assertRaisesRegex(CannotCompute, "beside the main are taken"):
            weighed(builder.job, "interlock", "panel", **SET)
        with self.assertRaisesRegex(CannotCompute, "no main breaker of its own"):
            weighed(orchard(), "interlock", "barn-panel", **SET)


class CircuitTransfer(unittest.TestCase):
    """A set of 7.2 kVA (30 A) on a cord; what of the house is to stay on with it goes into a panel of its own."""

    OPTIONS = {"rated_kva": 7.2, "breaker_a": 30.0, "feeder_a": 60.0, "gear_a": 60.0}

    def house(self, *circuits):
        builder = house()
        own = {"enclosure_id": "panel", "bus_id": "panel-bus", "role": "branch", "rating_a": 20.0}
        for number, (name, va) in enumerate(circuits, 1):
            builder.add("devices", name, name=name.title(), poles=2, space=4 * number - 3, **own)
            load = {"enclosure_id": "panel", "category": "other", "amount": va, "unit": "VA", "volts": 240.0}
            builder.add("loads", f"{name}-load", device_id=name, continuous=False, **load)
            builder.add("circuits", f"{name}-wires", device_id=name)
        return builder.job

    def test_the_set_makes_no_bond_and_its_neutral_goes_to_the_panel(self):
        for portable in (True, False):
            with self.subTest(portable=portable):
                report, told, job = taken(house().job, "circuit_transfer", "panel", portable=portable, **self.OPTIONS)
                self.assertEqual(must_fix(report), set())
                self.assertEqual((report.bonds["generator"].decision, told.follows), ("floating", []))
                self.assertEqual(report.bonds["transfer-panel"].decision, "apart")
                gear = thing(job, "transfers", "transfer-panel-gear")
                self.assertEqual((gear["lines_only"], gear["automatic"], gear["poles"]), (True, False, 2))
                ends = [item for item in job["conductors"] if item["role"] == "neutral"]
                self.assertIn(("panel-n", "transfer-panel-n"), {(item["from_part"], item["to_part"]) for item in ends})

    def test_in_its_position_the_set_feeds_it_alone(self):
        report, _, _ = taken(house().job, "circuit_transfer", "panel", **self.OPTIONS)
        by_name = {item.name: item.live for item in positions_out(report)}
        self.assertEqual(
            sorted(by_name["Utility away, Transfer panel on generator"]), ["generator", "inlet", "transfer-panel"]
        )

    def test_its_circuits_are_chosen_against_what_the_set_gives(self):
        """3 600 VA and 4 800 VA at 240 V are 15 A and 20 A: the one of them goes on 30 A, both together are 35 A."""
        before = self.house(("well", 3600.0), ("stove", 4800.0))
        _, _, job = taken(before, "circuit_transfer", "panel", **self.OPTIONS)
        for chosen, amperes, outcome in ((["well"], 15.0, "all of it"), (["well", "stove"], 35.0, "its user chooses")):
            with self.subTest(chosen=chosen):
                checked = lambda value: check(parse_value(value))  # noqa: E731
                told = weighed_take_over(job, checked, "panel-bus", "transfer-panel-bus", None, chosen)
                self.assertEqual([item.device_id for item in told.circuits if item.to_space], chosen)
                self.assertEqual([leg.after_a for leg in told.carried.legs], [amperes, amperes])
                self.assertEqual((told.carried.supply_a, outcome in told.carried.text), (30.0, True))
                after = checked(apply(job, told.operations))
                self.assertEqual({item.id for item in after.findings if item.outcome == "must_fix"}, set())
                steps = order_of_work(checked(job), after)
                text = " ".join(step.text for stage in steps.stages for step in stage.steps)
                self.assertEqual(text.count("neutral and ground stay where they land"), len(chosen))

    def test_without_a_bus_there_is_nowhere_to_feed_it_from(self):
        with self.assertRaisesRegex(CannotCompute, "no bus to feed it from"):
            weighed(orchard(), "circuit_transfer", "disc-house", **self.OPTIONS)


class SunBehindASet(unittest.TestCase):
    def test_what_runs_beside_the_utility_would_push_into_a_set_that_it_stands_behind(self):
        _, _, with_sun = taken(house().job, "inverter", "panel", output_a=32.0, largest_device_a=40.0)
        for kind in ("transfer_gear", "interlock"):
            with self.subTest(kind=kind):
                report, _, _ = taken(with_sun, kind, "panel", **SET)
                (found,) = [item for item in report.findings if item.code == "standby_pushed_into"]
                self.assertEqual(found.outcome, "advice")
                self.assertIn("Inverter behind", found.text)
                without, _, _ = taken(house().job, kind, "panel", **SET)
                self.assertNotIn("standby_pushed_into", [item.code for item in without.findings])


class SwitchBox(unittest.TestCase):
    """A box of six switches on a set of 7.2 kVA (30 A); the breakers of its circuits stay in the panel."""

    OPTIONS = {"rated_kva": 7.2, "breaker_a": 30.0, "gear_a": 60.0}

    def test_its_neutral_goes_with_the_leads_and_the_set_makes_no_bond(self):
        for portable in (True, False):
            with self.subTest(portable=portable):
                report, told, job = taken(house().job, "switch_box", "panel", portable=portable, **self.OPTIONS)
                self.assertEqual((must_fix(report), told.follows), (set(), []))
                wanted = {"generator": "floating", "switch-box": "apart", "panel": "apart"}
                self.assertEqual({key: report.bonds[key].decision for key in wanted}, wanted)
                ends = {(item["from_part"], item["to_part"]) for item in job["conductors"] if item["role"] == "neutral"}
                self.assertIn(("switch-box-n", "panel-n"), ends)

    def test_its_switches_lie_on_the_lines_in_turn_and_the_utility_side_is_the_panels_bus(self):
        _, _, job = taken(house().job, "switch_box", "panel", switches=3, **self.OPTIONS)
        self.assertEqual(
            [(item["name"], item["leg"]) for item in job["circuit_switches"]], [("A", "L1"), ("B", "L2"), ("C", "L1")]
        )
        self.assertEqual(thing(job, "throws", "switch-box-on-utility")["part"], "panel-bus")

    def test_a_panel_without_a_bus_has_no_breakers_to_move(self):
        with self.assertRaisesRegex(CannotCompute, "no breakers to move"):
            weighed(orchard(), "switch_box", "disc-house", **self.OPTIONS)

    def test_more_switches_than_a_box_has_are_refused(self):
        with self.assertRaises(BadInput):
            weighed(house().job, "switch_box", "panel", switches=40, **self.OPTIONS)


class Backup(unittest.TestCase):
    PLATE = {"rated_kva": 8.0, "breaker_a": 50.0}

    def test_its_breaker_stands_farthest_from_the_main_and_the_bus_is_judged(self):
        builder = house()
        device = {"enclosure_id": "panel", "bus_id": "panel-bus", "role": "branch", "rating_a": 20.0}
        builder.add("devices", "last", name="Last", poles=1, space=20, **device)
        report, _, job = taken(builder.job, "backup", "panel", neutral_path="passes", relay="none", **self.PLATE)
        self.assertEqual(thing(job, "devices", "panel-backup")["space"], 17)
        self.assertIn("bus_120 total", report.panels["panel"].figures)

    def test_neutral_path_and_relay_decide_its_bond(self):
        for path, relay, decision in (
            ("passes", "none", "floating"),
            ("opens", "closes_when_islanded", "bond_in_source"),
        ):
            with self.subTest(path=path):
                report, _, _ = taken(house().job, "backup", "panel", neutral_path=path, relay=relay, **self.PLATE)
                self.assertEqual(report.bonds["backup-inverter"].decision, decision)
                self.assertEqual(report.bonds["backup-panel"].decision, "apart")
                self.assertEqual(must_fix(report), set())

    def test_what_it_backs_up_is_held_against_it_by_leg_and_by_piece(self):
        """8 kVA at 240 V are 33 1/3 A. A cooker of 8.4 kVA is more; one of 6 kVA with a dryer of 5 kVA is 45.8 A together."""
        _, _, job = taken(house().job, "backup", "panel", neutral_path="passes", relay="none", **self.PLATE)
        load = {"enclosure_id": "backup-panel", "category": "other", "unit": "VA", "volts": 240.0, "continuous": False}
        for amounts, piece, all_of_it in (
            ((8400.0,), "must_fix", "advice"),
            ((6000.0, 5000.0), "holds", "advice"),
            ((6000.0, 2000.0), "holds", "holds"),
        ):
            with self.subTest(amounts=amounts):
                loads = [{"id": f"kept-{at}", "amount": va, **load} for at, va in enumerate(amounts)]
                report = check(parse_value({**job, "loads": [*job["loads"], *loads]}))
                every = {(item.code, item.id): item.outcome for item in (*report.findings, *report.held)}
                self.assertEqual(every["island_capacity", "backup-inverter-source"], piece)
                self.assertEqual(every["standby_capacity", "backup-inverter"], all_of_it)

    def test_what_was_not_read_in_its_manual_is_asked_for(self):
        report, _, _ = taken(house().job, "backup", "panel", **self.PLATE)
        asked = next(item for item in report.findings if (item.code, item.id) == ("bond", "backup-inverter"))
        self.assertEqual((asked.outcome, asked.field), ("cannot_tell", "neutral_path"))


class Inverter(unittest.TestCase):
    def test_its_breaker_is_chosen_and_stands_at_the_far_end(self):
        report, _, job = taken(house().job, "inverter", "panel", output_a=20.0)
        breaker = thing(job, "devices", "panel-solar")
        self.assertEqual(
            (breaker["rating_a"], breaker["space"]), (25.0, 18)
        )  # 125 % of 20 A; the last of 20 is 18 and 20
        self.assertEqual(must_fix(report), set())
        self.assertEqual(decisions(report)["Inverter"], "no_neutral")

    def test_several_small_ones_on_a_branch_give_their_sum(self):
        report, _, job = taken(house().job, "inverter", "panel", output_a=1.2, units=13)
        source = next(item for item in job["sources"] if item["kind"] == "inverter")
        self.assertEqual((source["rated_output_a"], source["name"]), (15.6, "13 x Inverter"))
        self.assertEqual(thing(job, "devices", "panel-solar")["rating_a"], 20.0)  # 125 % of 15.6 A
        self.assertEqual(must_fix(report), set())

    def test_storage_is_asked_for_its_own_facts(self):
        report, _, job = taken(house().job, "inverter", "panel", output_a=20.0, of="storage")
        source = next(item for item in job["sources"] if item["kind"] == "battery")
        asks = next(item.asks for item in report.findings if item.code == "source_facts" and item.id == source["id"])
        self.assertIn((source["id"], "storage_disconnect"), asks)
        self.assertEqual(decisions(report)["Storage"], "no_neutral")

    def test_the_breaker_of_storage_is_for_what_it_gives_and_what_it_takes(self):
        # 125 % of 20 A and of 30 A; two of them of 16 A each
        for options, rating in (
            ({"output_a": 20.0}, 25.0),
            ({"output_a": 20.0, "charging_a": 30.0}, 40.0),
            ({"output_a": 10.0, "charging_a": 16.0, "units": 2}, 40.0),
        ):
            report, _, job = taken(house().job, "inverter", "panel", of="storage", **options)
            self.assertEqual(thing(job, "devices", "panel-solar")["rating_a"], rating)
            self.assertIsNone(finding(report, "source_device", "panel-solar"))
        source = next(item for item in job["sources"] if item["kind"] == "battery")
        self.assertEqual(source["charging_a"], 32.0)
        sun = taken(house().job, "inverter", "panel", output_a=20.0, charging_a=30.0)[2]
        self.assertEqual([item.get("charging_a") for item in sun["sources"]], [None, None])

    def test_what_stands_at_the_far_end_moves(self):
        builder = house()
        last = {"enclosure_id": "panel", "bus_id": "panel-bus", "role": "branch", "rating_a": 20.0}
        for space in (19, 20):
            builder.add("devices", f"b{space}", name=f"B{space}", poles=1, space=space, **last)
        _, _, job = taken(builder.job, "inverter", "panel", output_a=20.0)
        self.assertEqual(thing(job, "devices", "panel-solar")["space"], 18)
        self.assertEqual(thing(job, "devices", "b20")["proposed"]["space"], 1)

    def test_upside_down_it_still_stands_away_from_the_main(self):
        builder = house()
        thing(builder.job, "buses", "panel-bus").update(numbering="inverted")
        report, _, _ = taken(builder.job, "inverter", "panel", output_a=20.0)
        rule = next(item for item in report.panels["panel"].bus_rules if item.key == "bus_120")
        self.assertTrue(rule.place)

    def test_a_bus_that_cannot_take_it_is_left_for_its_owner_to_choose_a_way(self):
        builder = house()
        for number in range(4):
            breaker = {"bus_id": "panel-bus", "role": "branch", "rating_a": 50.0, "poles": 2, "space": 1 + 4 * number}
            builder.add("devices", f"b{number}", enclosure_id="panel", name=f"B{number}", **breaker)
        report, told, _ = taken(builder.job, "inverter", "panel", output_a=40.0)
        self.assertEqual(told.follows, [])
        self.assertIn(("bus_source", "panel"), must_fix(report))


class Refused(unittest.TestCase):
    def test_places_where_nothing_can_be_added(self):
        for at, words in (("meter", "ahead of the service"), ("nowhere", "not part of the design")):
            for kind in ADDITIONS:
                with self.subTest(at=at, kind=kind), self.assertRaisesRegex(CannotCompute, words):
                    weighed(orchard(), kind, at)

    def test_options_out_of_limits_name_their_field(self):
        for options, path in (({"rated_kva": -1}, "rated_kva"), ({"neutral": "cut"}, "neutral"), ({"x": 1}, "x")):
            with self.subTest(options=options), self.assertRaises(BadInput) as caught:
                weighed(orchard(), "transfer_gear", "disc-house", **options)
            self.assertEqual(caught.exception.issues[0].path, path)


class Laws(unittest.TestCase):
    @settings(deadline=None, max_examples=25, suppress_health_check=list(HealthCheck), derandomize=True)
    @given(sites(), st.sampled_from(list(ADDITIONS)), st.integers(0, 9))
    def test_an_addition_leaves_a_valid_document_with_no_bond_wrong_that_was_right(self, job, kind, number):
        before = check(parse_value(job))
        at = sorted(before.site.enclosures)[number % len(before.site.enclosures)]
        try:
            after, _, _ = taken(job, kind, at, **PLATES.get(kind, SET))
        except CannotCompute:
            assume(False)
        wrong = {item for item in must_fix(after) - must_fix(before) if item[0] in ("bond", "second_bond", "no_bond")}
        self.assertEqual(wrong, set())


if __name__ == "__main__":
    unittest.main()
