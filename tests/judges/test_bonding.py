import unittest

from nelvor.model.changes.operations import apply
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from tests.support.jobs import JobBuilder, finding, mended, report_of, thing


def outbuilding(**building):
    """A service and an old three-wire feed to a detached building with a bonded panel."""
    builder = JobBuilder()
    builder.add("buildings", "barn", name="Barn", use="farm", livestock=False, **building)
    builder.service()
    builder.box(
        "panel",
        "service",
        building="barn",
        ground=False,
        bond=True,
        main_a=60.0,
        feeder_a=60.0,
        run={"complied_when_installed": True},
    )
    builder.job["bars"] = [bar for bar in builder.job["bars"] if bar["id"] != "panel-g"]
    thing(builder.job, "devices", "service-to-panel")["ground_fault_protection"] = False
    for number in (1, 2):
        builder.add("electrodes", f"rod{number}", connects_to="panel-n", building_id="barn")
    return builder


class OldThreeWireFeeds(unittest.TestCase):
    def test_it_may_stay_when_every_condition_holds(self):
        report = outbuilding(metal_path_to_supply=False).report()
        self.assertEqual(report.bonds["panel"].decision, "existing_three_wire")
        self.assertEqual(finding(report, "ground_missing", "panel").outcome, "advice")

    def test_an_unknown_condition_cannot_be_told(self):
        for builder in (outbuilding(), self.without_compliance()):
            report = builder.report()
            self.assertEqual(finding(report, "ground_missing", "panel").outcome, "cannot_tell")
            self.assertEqual(report.bonds["panel"].decision, "unknown")

    def without_compliance(self):
        builder = outbuilding(metal_path_to_supply=False)
        thing(builder.job, "runs", "to-panel")["complied_when_installed"] = None
        return builder

    def test_a_metal_path_between_ends_it_and_the_conductor_comes_before_the_bond_goes(self):
        builder = outbuilding(metal_path_to_supply=True)
        found = finding(builder.report(), "ground_missing", "panel")
        self.assertEqual(found.outcome, "must_fix")
        lists = [operation.list for operation in found.mend.operations]
        self.assertLess(lists.index("conductors"), lists.index("bonds"))
        after = report_of(mended(builder.job, found))
        self.assertEqual(after.bonds["panel"].decision, "apart")
        self.assertEqual([item for item in after.findings if item.id == "panel" and item.outcome == "must_fix"], [])

    def test_a_lifted_bond_without_a_grounding_conductor_is_worse_and_must_be_restored(self):
        builder = outbuilding(metal_path_to_supply=False)
        thing(builder.job, "bonds", "panel-bond")["made"] = False
        found = finding(builder.report(), "bond", "panel")
        self.assertIn("only fault path", found.text)
        self.assertIsNone(finding(report_of(mended(builder.job, found)), "bond", "panel"))

    def test_new_work_never_has_three_wires(self):
        builder = outbuilding(metal_path_to_supply=False)
        thing(builder.job, "runs", "to-panel")["standing"] = "added"
        for item in builder.job["conductors"]:
            if item["run_id"] == "to-panel":
                item["standing"] = "added"
        self.assertEqual(finding(builder.report(), "ground_missing", "panel").outcome, "must_fix")

    def test_a_sub_panel_in_the_same_building_is_no_outbuilding(self):
        builder = outbuilding(metal_path_to_supply=False)
        thing(builder.job, "enclosures", "panel")["building_id"] = None
        found = finding(builder.report(), "ground_missing", "panel")
        self.assertEqual((found.outcome, found.section), ("must_fix", "215.6"))

    def test_a_metal_raceway_may_be_the_grounding_conductor(self):
        builder = outbuilding(metal_path_to_supply=True)
        thing(builder.job, "runs", "to-panel")["ground_by_raceway"] = True
        self.assertIsNone(finding(builder.report(), "ground_missing", "panel"))
        thing(builder.job, "runs", "to-panel")["method"] = "pvc40"
        self.assertIsNotNone(finding(builder.report(), "ground_missing", "panel"))


class PartsAndMarkings(unittest.TestCase):
    def site(self, **box):
        builder = JobBuilder()
        builder.service()
        builder.box("panel", "service", **box)
        builder.load("panel", 2_000.0)
        return builder

    def test_conductors_on_the_wrong_bar_are_found_and_moved(self):
        builder = self.site()
        thing(builder.job, "conductors", "to-panel-neutral")["to_part"] = "panel-g"
        found = finding(builder.report(), "wrong_bar", "panel")
        self.assertEqual(found.outcome, "must_fix")
        self.assertIsNone(finding(report_of(mended(builder.job, found)), "wrong_bar", "panel"))

    def test_at_the_service_neutrals_and_grounds_may_share_a_bar(self):
        builder = self.site()
        thing(builder.job, "conductors", "to-panel-ground")["from_part"] = "service-n"
        self.assertIsNone(finding(builder.report(), "wrong_bar", "service"))

    def test_a_missing_ground_bar_is_fitted(self):
        builder = self.site()
        builder.job["bars"] = [bar for bar in builder.job["bars"] if bar["id"] != "panel-g"]
        thing(builder.job, "conductors", "to-panel-ground")["to_part"] = "panel"
        found = finding(builder.report(), "ground_bar", "panel")
        self.assertIsNone(finding(report_of(mended(builder.job, found)), "ground_bar", "panel"))

    def test_a_ground_bar_that_stands_off_from_the_metal(self):
        builder = self.site()
        thing(builder.job, "bars", "panel-g")["insulated"] = True
        found = finding(builder.report(), "ground_bar", "panel")
        self.assertEqual((found.outcome, found.section), ("must_fix", "408.40"))
        self.assertIsNone(finding(report_of(mended(builder.job, found)), "ground_bar", "panel"))
        wire = {"enclosure_id": "panel", "kind": "wire", "part_a": "panel-g", "part_b": "panel", "made": True}
        builder.add("bonds", "panel-wire", **wire)
        self.assertIsNone(finding(builder.report(), "ground_bar", "panel"))

    def test_suitable_only_as_service_equipment_can_be_no_sub_panel(self):
        found = finding(self.site(service_marking="only_suitable").report(), "marking", "panel")
        self.assertEqual(found.outcome, "must_fix")

    def test_suitable_only_as_service_equipment_cannot_be_marked_as_something_else(self):
        builder = self.site()
        thing(builder.job, "enclosures", "service").update(
            service_marking="only_suitable", emergency_marking="meter_disconnect"
        )
        self.assertEqual(finding(builder.report(), "marking", "service").outcome, "must_fix")

    def test_a_bare_switch_as_service_disconnect_asks_for_protection_beside_it(self):
        builder = self.site()
        thing(builder.job, "devices", "service-main")["kind"] = "switch"
        outcomes = {}
        for adjacent in (None, True, False):
            thing(builder.job, "enclosures", "service")["protection_adjacent"] = adjacent
            found = finding(builder.report(), "service_protection", "service")
            outcomes[adjacent] = found.outcome if found else "holds"
        self.assertEqual(outcomes, {None: "cannot_tell", True: "holds", False: "must_fix"})

    def test_the_panel_next_to_a_passed_over_disconnect_is_the_service(self):
        builder = self.site(bond=True, ground=False)
        thing(builder.job, "enclosures", "service")["emergency_marking"] = "not_service_equipment"
        report = builder.report()
        self.assertEqual((report.bonds["service"].decision, report.bonds["panel"].decision), ("supply_side", "bond"))

    def test_nothing_fed_is_not_judged(self):
        builder = self.site()
        builder.job["runs"].clear()
        builder.job["conductors"].clear()
        self.assertEqual(builder.report().bonds["panel"].decision, "unknown")


class Electrodes(unittest.TestCase):
    def site(self, *rods, **amendment):
        builder = JobBuilder()
        builder.add("buildings", "barn", name="Barn", use="other")
        builder.service()
        builder.box("panel", "service", building="barn")
        builder.load("panel", 2_000.0)
        for number, rod in enumerate(rods):
            builder.add("electrodes", f"rod{number}", **{"connects_to": "panel-g", "building_id": "barn", **rod})
        if amendment:
            builder.add("amendments", "rods", **amendment)
        return builder

    def outcome(self, builder, code="electrode"):
        found = finding(builder.report(), code, "panel")
        return found.outcome if found else "holds"

    def test_a_fed_building_needs_an_electrode(self):
        builder = self.site()
        found = finding(builder.report(), "electrode", "panel")
        self.assertEqual(found.outcome, "must_fix")
        self.assertEqual(self.outcome(JobBuilderWith(mended(builder.job, found))), "holds")

    def test_those_that_land_behind_it_come_back_with_what_is_missing_beside_them(self):
        three = {"key": "electrode_rods", "action": "at_least", "value": 3.0}
        for electrodes, amendment, rods in (
            (({},), {}, 2),
            (({}, {}), {}, 2),
            (({"kind": "water_pipe"},), {}, 2),
            (({"kind": "concrete_encased"},), {}, 0),
            (({},), three, 3),
        ):
            with self.subTest(electrodes=electrodes, amendment=amendment):
                builder = self.site(*({"connects_to": "sub-g", **item} for item in electrodes), **amendment)
                builder.box("sub", "panel", building="barn")
                found = finding(builder.report(), "electrode", "panel")
                self.assertIn("lands in sub, behind the bond", found.text)
                job = mended(builder.job, found)
                self.assertEqual(self.outcome(JobBuilderWith(job)), "holds")
                at_panel = [item for item in job["electrodes"] if not item["id"].startswith("service")]
                self.assertEqual(sum(item["kind"] == "rod" for item in at_panel), rods)

    def test_one_rod_needs_a_second_unless_25_ohm_is_shown(self):
        self.assertEqual(self.outcome(self.site({})), "must_fix")
        self.assertEqual(self.outcome(self.site({"resistance_ohm": 25.0})), "holds")
        self.assertEqual(self.outcome(self.site({"resistance_ohm": 25.1})), "must_fix")
        self.assertEqual(self.outcome(self.site({}, {})), "holds")
        self.assertEqual(self.outcome(self.site({"kind": "concrete_encased"})), "holds")

    def test_a_local_rule_may_ask_for_two_rods_always(self):
        rule = {"key": "electrode_rods", "action": "at_least", "value": 2.0}
        self.assertEqual(self.outcome(self.site({"resistance_ohm": 5.0}, **rule)), "must_fix")
        self.assertEqual(self.outcome(self.site({}, {}, **rule)), "holds")

    def test_the_local_rule_stands_in_the_working_with_where_it_is_written(self):
        rule = {"key": "electrode_rods", "action": "at_least", "value": 2.0, "source_note": "Memo 4"}
        found = self.site({"resistance_ohm": 5.0}, **rule).report().electrodes["panel"]
        self.assertEqual(found.figures["rods"].number, 2)
        self.assertIn("Memo 4", {step.source for step in found.working.steps})
        self.assertIn("Memo 4", next(item.text for item in found.verdicts if item.code == "electrode"))

    def test_rods_are_8_ft_long_and_6_ft_apart(self):
        self.assertEqual(self.outcome(self.site({"length_ft": 7.9}, {}), "rod"), "must_fix")
        self.assertEqual(self.outcome(self.site({"spacing_ft": 5.9}, {}), "rod"), "must_fix")
        self.assertEqual(self.outcome(self.site({"length_ft": 8.0, "spacing_ft": 6.0}, {}), "rod"), "holds")

    def test_the_conductor_to_rods_and_to_concrete_has_limits(self):
        self.assertEqual(self.outcome(self.site({"conductor_size": "10"}, {}), "electrode_conductor"), "must_fix")
        self.assertEqual(self.outcome(self.site({"conductor_size": "8"}, {}), "electrode_conductor"), "holds")

    def test_a_sub_panel_in_the_same_building_needs_none(self):
        builder = self.site({}, {})
        builder.box("inner", "panel", building="barn")
        self.assertNotIn("inner", builder.report().electrodes)


class JobBuilderWith:
    """A job that was changed after building, with the same way to its report."""

    def __init__(self, job):
        self.job = job

    def report(self):
        return report_of(self.job)


class Panels(unittest.TestCase):
    def site(self, **box):
        builder = JobBuilder()
        builder.add("buildings", "house", name="House", use="dwelling")
        builder.service()
        builder.box("panel", "service", **box)
        builder.load("panel", 10_000.0)
        return builder

    def test_bus_below_its_protection(self):
        builder = self.site(rating_a=90.0)
        found = finding(builder.report(), "bus", "panel")
        self.assertEqual(found.outcome, "must_fix")
        self.assertIsNone(finding(report_of(mended(builder.job, found)), "bus", "panel"))

    def test_what_protects_more_than_the_panel_is_not_lowered_for_it(self):
        """The main of the service ahead, a device below the load, and a building's main below the floor stay as they are."""
        builder = self.site(rating_a=90.0, feeder_a=None)
        thing(builder.job, "devices", "service-to-panel")["rating_a"] = 100.0
        larger = "Bus of panel: 90 A to 100 A, another panel"
        self.assertEqual(self.ways(builder), ["panel main: 100 A to 90 A", larger])
        builder.load("panel", 15_000.0)
        self.assertEqual(self.ways(builder), [larger])
        small = self.site(rating_a=90.0, main_a=100.0, feeder_a=100.0, building="house")
        self.assertEqual(self.ways(small), [larger])

    def test_a_feed_of_the_whole_unit_is_not_lowered_below_the_feeders_that_lean_on_it(self):
        """A feeder of 125 A behind one of 200 A that carries the whole unit may have conductors no larger than that one's."""
        builder = self.site(rating_a=100.0, main_a=None, feeder_a=200.0)
        self.assertIn("Feeder breaker of service: 200 A to 100 A", self.ways(builder))
        builder.add("dwelling_units", "unit", name="Unit")
        thing(builder.job, "loads", "load-1")["dwelling_unit_id"] = "unit"
        builder.box("wing", "panel", feeder_a=125.0)
        self.assertNotIn("Feeder breaker of service: 200 A to 100 A", self.ways(builder))

    def ways(self, builder):
        return [mend.label for mend in finding(builder.report(), "bus", "panel").mends]

    def test_a_panel_with_lugs_may_have_a_main_of_its_own_instead(self):
        """One breaker ahead of two panels: it is no panel's own, so the main goes into the panel with the small bus."""
        builder = self.site(rating_a=90.0, feeder_a=100.0)
        main = thing(builder.job, "devices", "panel-main")
        builder.job["devices"].remove(main)
        builder.add("lugs", "panel-main", enclosure_id="panel")
        ways = {mend.label: mend for mend in finding(builder.report(), "bus", "panel").mends}
        own = ways["Fit a main of 90 A in panel, in place of its lugs"]
        after = check(parse_value(apply(builder.job, list(own.operations))))
        self.assertIsNone(finding(after, "bus", "panel"))
        self.assertEqual(after.site.main_of("panel").rating_a, 90.0)
        self.assertEqual(after.runs["to-panel"].figures["device"].number, 100)

    def test_a_service_main_left_to_be_chosen_reaches_its_floor_and_counts_as_known(self):
        builder = JobBuilder()
        builder.add("buildings", "house", name="House", use="dwelling")
        builder.service(main_a=None)
        thing(builder.job, "enclosures", "service")["building_id"] = "house"
        builder.load("service", 5_000.0)
        report = builder.report()
        self.assertEqual(report.runs["to-service"].figures["device"].number, 100)
        self.assertIsNone(finding(report, "disconnect_floor", "service"))
        builder.load("service", 30_000.0)
        self.assertGreater(builder.report().runs["to-service"].figures["device"].number, 100)

    def test_service_conductors_behind_several_disconnects_have_a_floor_and_need_a_load(self):
        """230.42(B): by a load of 20.8 A they would be 10; the floor of 60 A asks 4 at 60 or 6 at 75 C."""
        builder = JobBuilder("2017")
        builder.service()
        builder.job["devices"] = [item for item in builder.job["devices"] if item["id"] != "service-main"]
        builder.add("lugs", "service-main", enclosure_id="service")
        for number in (1, 2):
            builder.add("devices", f"switch-{number}", enclosure_id="service", role="feeder", rating_a=60.0)
        run = builder.report().runs["to-service"]
        self.assertIn("No load", run.gaps["device"].reason)
        self.assertNotIn("hots", run.figures)
        builder.load("service", 5_000.0)
        run = builder.report().runs["to-service"]
        self.assertEqual(run.figures["device"].number, 60)
        self.assertGreaterEqual(run.figures["ampacity"].number, 60)

    def test_bus_above_its_feeder_is_fine(self):
        self.assertIsNone(finding(self.site(rating_a=400.0).report(), "bus", "panel"))

    def test_the_main_or_the_device_ahead_protects(self):
        self.assertIsNone(finding(self.site(rating_a=125.0, main_a=100.0, feeder_a=200.0).report(), "bus", "panel"))
        self.assertIsNone(finding(self.site(rating_a=125.0, main_a=200.0, feeder_a=100.0).report(), "bus", "panel"))

    def test_a_missing_label_cannot_be_told(self):
        self.assertEqual(finding(self.site(rating_a=None).report(), "bus", "panel-bus").outcome, "cannot_tell")

    def test_a_load_above_the_bus(self):
        builder = self.site(rating_a=100.0)
        builder.load("panel", 20_000.0)
        self.assertEqual(finding(builder.report(), "bus_load", "panel").outcome, "must_fix")

    def test_floors_of_the_disconnect(self):
        dwelling = self.site(building="house", main_a=90.0, feeder_a=90.0)
        self.assertEqual(finding(dwelling.report(), "disconnect_floor", "panel").outcome, "must_fix")
        thing(dwelling.job, "buildings", "house")["use"] = "other"
        self.assertIsNone(finding(dwelling.report(), "disconnect_floor", "panel"))
        small = self.site(building="house", main_a=50.0, feeder_a=90.0)
        thing(small.job, "buildings", "house")["use"] = "other"
        self.assertEqual(finding(small.report(), "disconnect_floor", "panel").outcome, "must_fix")

    def test_it_is_the_switch_that_has_the_floor_not_its_fuses(self):
        builder = self.site(building="house", main_a=30.0, feeder_a=60.0, rating_a=60.0)
        thing(builder.job, "buildings", "house")["use"] = "other"
        thing(builder.job, "devices", "panel-main").update(kind="fuses", frame_a=60.0)
        self.assertIsNone(finding(builder.report(), "disconnect_floor", "panel"))

    def test_two_supplies_on_one_bus(self):
        builder = self.site()
        builder.add("sources", "second", system="split_120_240", kind="utility")
        builder.add("devices", "panel-second", enclosure_id="panel", role="source", rating_a=60.0)
        builder.add("runs", "second-run", from_part="second", to_part="panel-second", length_ft=10.0)
        self.assertEqual(finding(builder.report(), "second_feed", "panel").outcome, "must_fix")
        thing(builder.job, "sources", "second").update(kind="inverter", interactive=True)
        self.assertIsNone(finding(builder.report(), "second_feed", "panel"))
