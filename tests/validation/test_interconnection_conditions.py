"""The rules of pushing power in that hang on no expression: each entered as it must be, as it must not, missing, and not asked for.

A row is a fact that is entered, a sign that hangs, something that the drawing itself tells, or it has a test elsewhere.
"""

import unittest
from dataclasses import dataclass
from typing import Any

from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.signs import signs_due
from tests.judges.test_pushed_back import inverter
from tests.support.arrangements import Arrangement
from tests.support.jobs import JobBuilder, changed, report_of, thing
from tests.validation.test_interconnection_rules import ROWS

BY_KEY = {(row["key"], row["edition"]): row for row in ROWS}
WITHOUT_EXPRESSION = sorted({row["key"] for row in ROWS} - {row["key"] for row in ROWS if row["expression"]})
EDITIONS = ("2017", "2020", "2023")


# -- sites ------------------------------------------------------------------------------------------


def solar(edition, **source):
    """An inverter of 32 A behind a breaker of 40 A of a hall panel, in a building for trade."""
    builder = JobBuilder(edition)
    builder.service()
    builder.box("hall", "service", main_a=100.0, feeder_a=100.0)
    thing(builder.job, "buses", "hall-bus").update(spaces=20, main_end="top", rating_a=200.0)
    builder.add(
        "devices", "pv", enclosure_id="hall", bus_id="hall-bus", name="PV", role="source", rating_a=40.0, space=17
    )
    inverter(builder, "hall")
    thing(builder.job, "sources", "roof").update(source)
    thing(builder.job, "runs", "to-roof")["from_part"] = "pv"
    for wire in builder.job["conductors"]:
        if wire["run_id"] == "to-roof" and wire["from_part"] == "hall-main":
            wire["from_part"] = "pv"
    builder.add("buildings", "works", name="Works", use="commercial")
    for box in ("hall", "roof-box", "service"):
        thing(builder.job, "enclosures", box)["building_id"] = "works"
    return builder.job


def dwelling(job):
    return changed(job, lambda it: thing(it, "buildings", "works").update(use="dwelling"))


def arranged(line, edition, **source):
    job = Arrangement(line, edition).job
    thing(job, "sources", next(item["id"] for item in job["sources"] if item["kind"] != "utility")).update(source)
    return job


def hybrid(edition):
    return arranged("U -hn- S(main) -hng- I.g(interactive,through,norelay) ; I.o -hng- P2(backup)", edition)


def fixed_set(edition, **source):
    """An outdoor set in its own yard, through gear, for a building."""
    job = arranged(
        "U -hn- M -hn- S@house(main) -hng- T.n@house(solid) ; G(fixed,brk,out) -hng- T.s ; T.l -hng- P@house", edition
    )
    thing(job, "sources", "g-set").update({"rated_kva": 20.0, "interactive": False, "portable": False, **source})
    thing(job, "enclosures", "g")["placement"] = "outdoors"
    for building in job["buildings"]:
        building["use"] = "dwelling"
    return job


def portable_set(edition, **source):
    job = arranged(
        "U -hn- S(main) -hng- T.n(solid) ; G(portable,floating) -hng- Q(inlet) -hng- T.s ; T.l -hng- P", edition
    )
    thing(job, "sources", "g-set").update({"rated_kva": 7.0, "interactive": False, "portable": True, **source})
    thing(job, "enclosures", "q")["kind"] = "inlet"
    return job


def interlocked(edition):
    job = arranged("U -hn- M -hn- P.n(main,interlock) ; G(portable,floating) -hng- Q(inlet) -hng- P.s", edition)
    thing(job, "devices", "p-s").update(space=2, bus_id="p-bus", name="Inlet breaker", held_down=None)
    return job


@dataclass(frozen=True)
class Entered:
    """A fact: the site, where it is entered, what is right, and a site in which nobody asks for it."""

    site: Any
    at: tuple[str, str, str]
    not_asked: Any
    right: Any = True
    wrong: Any = False


def with_gfp(edition):
    job = solar(edition)
    thing(job, "devices", "hall-main")["ground_fault_protection"] = True
    return job


def meter_mounted(edition):
    job = arranged("U -hn- T.n(solid) ; G(portable,floating) -hng- T.s ; T.l -hn- S(main)", edition)
    thing(job, "transfers", "t-gear")["meter_mounted"] = True
    thing(job, "sources", "g-set").update(interactive=False, marking="floating_neutral")
    return job


def large_inlet(edition, rating_a=100.0):
    job = portable_set(edition, rated_kva=24.0)
    job["devices"].append({"id": "g-main", "enclosure_id": "g", "role": "main", "rating_a": rating_a, "name": "Set"})
    run = next(item for item in job["runs"] if item["to_part"].startswith("q"))
    old, run["from_part"] = run["from_part"], "g-main"
    for wire in job["conductors"]:
        if wire["run_id"] == run["id"] and wire["role"].startswith("L") and wire["from_part"] == old:
            wire["from_part"] = "g-main"
    return job


def step_up(edition, secondary="wye_480_277"):
    builder = JobBuilder(edition, "wye_208_120")
    builder.service()
    builder.box("step", "service", kind="transformer", feeder_a=60.0)
    for end in ("in", "out"):
        builder.add("lugs", f"step-{end}", enclosure_id="step")
    ends = {"primary_part": "step-in", "secondary_part": "step-out"}
    builder.add(
        "transformers", "core", enclosure_id="step", kva=15.0, secondary_system=secondary, isolating=True, **ends
    )
    return builder.job


def joined_ahead(edition):
    from tests.judges.test_supply_side import AheadOfTheService

    case = AheadOfTheService()
    case.site(edition)
    return case.job


def derived(edition, own=True):
    """A set whose neutral the gear switches, a system of its own; or one whose neutral is that of the service."""
    line = "U -hn- S(main) -hng- T.n({}) ; G(fixed,brk) -hng- T.s ; T.l -hng- P"
    return arranged(line.format("switched" if own else "solid"), edition, interactive=False, portable=False)


def without_sun(job_of):
    return lambda edition: changed(job_of(edition), lambda job: thing(job, "sources", "roof").update(interactive=False))


FACTS = {
    "source_equipment_disconnect": Entered(solar, ("sources", "roof", "isolated_for_work"), fixed_set),
    "source_disconnect": Entered(solar, ("sources", "roof", "disconnect_in_reach"), without_sun(solar)),
    "source_backfeed_breaker_suitable": Entered(
        solar, ("devices", "pv", "line_load_marked"), without_sun(solar), right=False, wrong=True
    ),
    "backfed_breaker_fastened": Entered(interlocked, ("devices", "p-s", "held_down"), solar),
    "loss_of_primary": Entered(
        lambda edition: solar(edition, kind="generator", portable=False), ("sources", "roof", "leaves_dead_grid"), solar
    ),
    "microgrid_device": Entered(hybrid, ("sources", "i-set", "island_device_listed"), solar),
    "microgrid_device_protection": Entered(hybrid, ("sources", "i-set", "island_device_protected"), solar),
    "microgrid_reconnect": Entered(hybrid, ("sources", "i-set", "rejoins_in_step"), solar),
    "supply_side_interconnect": Entered(joined_ahead, ("sources", "roof", "utility_agrees"), solar),
    "supply_side_joint": Entered(joined_ahead, ("sources", "roof", "joint_listed"), solar),
    "source_and_ground_fault_protection": Entered(with_gfp, ("devices", "hall-main", "ground_fault_both_ways"), solar),
    "standby_meter_mounted": Entered(meter_mounted, ("transfers", "t-gear", "utility_agrees"), fixed_set),
    "inlet_100a": Entered(
        large_inlet, ("enclosures", "q", "inlet_interlocked"), lambda edition: large_inlet(edition, rating_a=90.0)
    ),
    "generator_outdoor_disconnect": Entered(
        fixed_set,
        ("sources", "g-set", "disconnect_within_sight"),
        lambda edition: portable_set(edition, rated_kva=15.0),
    ),
    "generator_disconnect": Entered(fixed_set, ("sources", "g-set", "disconnect_in_reach"), portable_set),
    "generator_stop": Entered(fixed_set, ("sources", "g-set", "emergency_stop"), portable_set),
    "generator_stop_dwelling": Entered(
        fixed_set,
        ("sources", "g-set", "stop_outdoors"),
        lambda edition: changed(fixed_set(edition), lambda job: job["buildings"][0].update(use="commercial")),
    ),
    "generator_gfci_floating": Entered(
        lambda edition: portable_set(edition, marking="floating_neutral"),
        ("sources", "g-set", "outlet_with_interrupter"),
        lambda edition: portable_set(edition, rated_kva=15.1),
    ),
    "generator_gfci_bonded": Entered(
        lambda edition: portable_set(edition, marking="bonded_neutral"),
        ("sources", "g-set", "outlet_with_interrupter"),
        fixed_set,
    ),
    "pv_rapid_shutdown": Entered(
        solar, ("sources", "roof", "rapid_shutdown"), fixed_set, right="not_needed", wrong="missing"
    ),
    "pv_rapid_shutdown_switch": Entered(
        lambda edition: dwelling(solar(edition, rapid_shutdown="provided")),
        ("sources", "roof", "shutdown_switch_outdoors"),
        lambda edition: solar(edition, rapid_shutdown="provided"),
    ),
    "ess_disconnect": Entered(
        lambda edition: solar(edition, kind="battery"), ("sources", "roof", "storage_disconnect"), solar
    ),
    "sds_pipes": Entered(
        derived,
        ("sources", "g-set", "area_metal"),
        lambda edition: derived(edition, own=False),
        right="bonded",
        wrong="not_bonded",
    ),
    "transformer_reverse_feed": Entered(
        step_up, ("transformers", "core", "fed_as_marked"), lambda edition: step_up(edition, "wye_208_120")
    ),
}


class AreaMetal(unittest.TestCase):
    """What is its electrode already, or is not there at all, is not asked for of a system of its own."""

    def asked(self, electrode=None, **building):
        job = derived("2023")
        job["buildings"].append({"id": "hall", "name": "Hall", "use": "commercial", **building})
        thing(job, "enclosures", "g")["building_id"] = "hall"
        if electrode:
            job["electrodes"].append({"id": "pipe", "kind": electrode, "connects_to": "g-g"})
        report = report_of(job)
        return any(("g-set", "area_metal") in item.asks for item in report.findings)

    def test_where_there_may_be_any(self):
        self.assertTrue(self.asked())
        self.assertTrue(self.asked(water_piping="absent"))
        self.assertFalse(self.asked(water_piping="absent", steel_frame="absent"))
        self.assertTrue(self.asked("water_pipe"))
        self.assertFalse(self.asked("water_pipe", steel_frame="absent"))


class Facts(unittest.TestCase):
    def ending(self, job, list_name, thing_id, field):
        report = report_of(job)
        for verdict in (*report.findings, *report.held):
            if verdict.id == thing_id and verdict.code == field:
                return verdict.outcome, verdict.section
            if (thing_id, field) in verdict.asks and verdict.code == "source_facts":
                return "cannot_tell", ""
        return None, ""

    def test_entered_missing_and_not_asked_for(self):
        for key, case in FACTS.items():
            for edition in EDITIONS:
                section = BY_KEY[key, edition]["section"]
                list_name, thing_id, field = case.at
                with self.subTest(f"{key} ({edition})"):
                    job = case.site(edition)
                    for value, outcome in ((case.right, "holds"), (case.wrong, "must_fix"), (None, "cannot_tell")):
                        thing(job, list_name, thing_id)[field] = value
                        found, cited = self.ending(job, list_name, thing_id, field)
                        if section == "none":
                            self.assertIn(found, (None, "cannot_tell"), value)
                            continue
                        self.assertEqual(found, outcome, value)
                        if cited:
                            self.assertEqual(cited, section)
                    self.assertIsNone(self.ending(case.not_asked(edition), list_name, thing_id, field)[0])


# -- signs ------------------------------------------------------------------------------------------


def with_control(edition):
    job = solar(edition)
    thing(job, "buses", "hall-bus").update(control_setting_a=60.0, control_listed=True)
    return job


def few_breakers(edition):
    """A bus of 100 A behind 100 A, on which no other breakers stand than the source's 40 A, beside the main."""
    job = solar(edition)
    thing(job, "buses", "hall-bus")["rating_a"] = 100.0
    thing(job, "enclosures", "hall")["no_other_circuits"] = True
    thing(job, "devices", "pv")["space"] = 1
    return job


def commercial_set(edition):
    return changed(fixed_set(edition), lambda job: [item.update(use="commercial") for item in job["buildings"]])


def fed_dwelling(edition, marking="not_service_equipment"):
    builder = JobBuilder(edition)
    builder.service()
    builder.add("buildings", "cottage", name="Cottage", use="dwelling")
    builder.box("outside", "service", kind="disconnect", building="cottage", emergency_marking=marking)
    return builder.job


# Each sign: a site where it hangs, the box, a part of its words, and a site where it does not.
SIGNS = {
    "label_source_output": (solar, "hall", "RATED OUTPUT 32 A AT 240 V", fixed_set),
    "label_pv_disconnect": (solar, "hall", "SOLAR DISCONNECT OF ROOF", hybrid),
    "label_all_sources": (solar, "hall", "FED FROM: ITS MAIN, ROOF", fixed_set),
    "label_rapid_shutdown": (
        lambda edition: solar(edition, rapid_shutdown="provided"),
        "service",
        "RAPID SHUTDOWN",
        lambda edition: solar(edition, rapid_shutdown="not_needed"),
    ),
    "label_ess": (lambda edition: solar(edition, kind="battery"), "roof-box", "STORAGE DISCONNECT", solar),
    "label_control_setting": (with_control, "hall", "HELD TO 60 A", solar),
    "label_transfer_fault_rating": (commercial_set, "t", "FAULT RATING OF THIS TRANSFER GEAR", fixed_set),
    "label_source_of_supply": (solar, "hall", "FED FROM SERVICE", lambda edition: dwelling(solar(edition))),
    "label_building_supplies": (fixed_set, "t", "OTHER SUPPLIES, TOO", portable_set),
    "label_breaker_sum": (few_breakers, "hall", "ALL BREAKERS BUT THE MAIN TOGETHER", solar),
    "source_directory": (solar, "service", "SEVERAL SOURCES", fixed_set),
    "label_inlet": (portable_set, "q", "FLOATING NEUTRAL ONLY", derived),
    "label_standby_source": (fixed_set, "s", "STANDBY SOURCE", solar),
    "label_emergency_disconnect": (
        lambda edition: changed(
            solar(edition),
            lambda job: thing(job, "enclosures", "service").update(emergency_marking="service_disconnect"),
        ),
        "service",
        "EMERGENCY DISCONNECT, SERVICE DISCONNECT",
        solar,
    ),
    "label_emergency_disconnect_fed": (
        fed_dwelling,
        "outside",
        "EMERGENCY DISCONNECT, NOT SERVICE EQUIPMENT",
        lambda edition: fed_dwelling(edition, "none"),
    ),
}


class Signs(unittest.TestCase):
    def hung(self, job, section):
        return [
            (sign.enclosure_id, sign.words) for sign in signs_due(check(parse_value(job))) if sign.section == section
        ]

    def test_each_hangs_where_it_is_due_and_nowhere_else(self):
        for key, (site, at, words, without) in SIGNS.items():
            for edition in EDITIONS:
                section = BY_KEY[key, edition]["section"]
                with self.subTest(f"{key} ({edition})"):
                    due = [words in text for box, text in self.hung(site(edition), section) if box == at]
                    self.assertEqual(due.count(True), 0 if section == "none" else 1)
                    self.assertFalse([text for _, text in self.hung(without(edition), section) if words in text])


# -- what the drawing tells -------------------------------------------------------------------------


class Drawn(unittest.TestCase):
    """What is right, wrong or open by the way it is drawn."""

    def found(self, job, code, *at):
        report = report_of(job)
        return [
            (item.outcome, item.section)
            for item in (*report.findings, *report.held)
            if item.code == code and (not at or item.id in at)
        ]

    def each(self, key):
        sections = {edition: BY_KEY[key, edition]["section"] for edition in EDITIONS}
        return [(edition, "" if section == "none" else section) for edition, section in sections.items()]

    def test_dedicated_device(self):
        for edition, section in self.each("dedicated_device"):
            job = solar(edition)
            self.assertEqual(self.found(job, "dedicated_device"), [("holds", section)])
            load = {"enclosure_id": "hall", "category": "other", "amount": 100.0, "unit": "VA", "volts": 240.0}
            job["loads"].append({"id": "beside", "device_id": "pv", **load})
            self.assertEqual(self.found(job, "dedicated_device"), [("must_fix", section)])
            job = solar(edition)
            job["lugs"].append({"id": "bare", "enclosure_id": "hall", "bus_id": "hall-bus"})
            thing(job, "runs", "to-roof")["from_part"] = "bare"
            for wire in job["conductors"]:
                if wire["from_part"] == "pv":
                    wire["from_part"] = "bare"
            self.assertEqual(self.found(job, "dedicated_device"), [("must_fix", section)])
            self.assertEqual(self.found(fixed_set(edition), "dedicated_device"), [])

    def test_supply_side_disconnect(self):
        for edition, _ in self.each("supply_side_disconnect"):
            job = joined_ahead(edition)
            self.assertEqual(self.found(job, "dedicated_device")[0][0], "holds")
            thing(job, "enclosures", "switch")["service_marking"] = "unmarked"
            self.assertEqual([outcome for outcome, _ in self.found(job, "marking", "switch")], ["must_fix"])
            thing(job, "devices", "switch-main")["kind"] = "switch"  # without fuses in it
            self.assertEqual(self.found(job, "dedicated_device")[0][0], "must_fix")

    def test_bus_listed_and_bus_engineered_and_load_side_interconnect(self):
        for key, combining in (("bus_listed", "listed"), ("bus_engineered", "engineered")):
            for edition, section in self.each(key):
                job = solar(edition)
                thing(job, "buses", "hall-bus").update(rating_a=100.0)
                thing(job, "enclosures", "hall")["no_other_circuits"] = True
                breaker = {"enclosure_id": "hall", "bus_id": "hall-bus", "role": "branch", "name": "Range"}
                job["devices"].append({"id": "range", "rating_a": 90.0, "space": 1, **breaker})
                self.assertEqual([outcome for outcome, _ in self.found(job, "bus_source", "hall")], ["must_fix"])
                thing(job, "buses", "hall-bus")["combining"] = combining
                expected = (
                    [("holds", section)]
                    if section
                    else [("must_fix", BY_KEY["load_side_interconnect", edition]["section"])]
                )
                self.assertEqual(self.found(job, "bus_source", "hall"), expected)

    def test_bus_rating_known(self):
        for edition, _ in self.each("bus_rating_known"):
            job = solar(edition)
            thing(job, "buses", "hall-bus")["rating_a"] = None
            self.assertIn("cannot_tell", {outcome for outcome, _ in self.found(job, "bus_source")})

    def test_source_fastener_interactive(self):
        for edition, _ in self.each("source_fastener_interactive"):
            self.assertEqual(self.found(solar(edition), "held_down"), [])
            asked = self.found(interlocked(edition), "source_facts", "p-s")
            self.assertEqual(asked, [("cannot_tell", BY_KEY["backfed_breaker_fastened", edition]["section"])])

    def test_standalone_fastener(self):
        for edition, section in self.each("standalone_fastener"):
            job = hybrid(edition)
            job["lugs"] = [item for item in job["lugs"] if item["id"] != "p2-in"]
            main = {"enclosure_id": "p2", "bus_id": "p2-bus", "role": "main", "rating_a": 40.0, "space": 1}
            job["devices"].append({"id": "p2-in", **main})
            self.assertEqual(self.found(job, "source_facts", "p2-in"), [("cannot_tell", section)])
            for held_down, outcome in ((True, "holds"), (False, "must_fix")):
                thing(job, "devices", "p2-in")["held_down"] = held_down
                self.assertEqual(self.found(job, "held_down", "p2-in"), [(outcome, section)])

    def test_standby_parallel(self):
        for edition, section in self.each("standby_parallel"):
            job = fixed_set(edition)
            gear, source = thing(job, "transfers", "t-gear"), thing(job, "sources", "g-set")
            self.assertEqual(self.found(job, "interactive"), [])
            gear["break_before_make"] = False
            self.assertEqual(self.found(job, "interactive", "g-set"), [("must_fix", section)])
            gear.update(break_before_make=None, may_run_parallel=True)
            source["interactive"] = True
            self.assertEqual([outcome for outcome, _ in self.found(job, "source_facts", "t-gear")], ["cannot_tell"])
            gear["break_before_make"] = True
            self.assertEqual(self.found(job, "interactive", "g-set"), [("holds", section)])

    def test_optional_standby_transfer_and_standby_temporary(self):
        for edition, section in self.each("optional_standby_transfer"):
            job = interlocked(edition)
            self.assertEqual(self.found(job, "interlock"), [("holds", section)])
            for listed, outcome in ((False, "must_fix"), (None, "cannot_tell")):
                job["interlocks"][0]["listed"] = listed
                self.assertEqual([found for found, _ in self.found(job, "interlock")], [outcome])
            job["interlocks"].clear()  # nothing keeps the two apart
            self.assertIn("must_fix", {outcome for outcome, _ in self.found(job, "second_feed")})

    def test_second_supply_to_building(self):
        for edition, _ in self.each("second_supply_to_building"):
            self.assertEqual(self.found(fixed_set(edition), "second_feed"), [])
            builder = JobBuilder(edition)
            builder.service()
            builder.box("one", "service")
            builder.box("two", "one")
            again = {"from_part": "service-to-one", "to_part": "two-main", "length_ft": 10.0}
            builder.add("runs", "again", **again)
            self.assertIn("must_fix", {outcome for outcome, _ in self.found(builder.job, "second_feed")})

    def test_transformer_two_sources(self):
        for edition, section in self.each("transformer_two_sources"):
            for device, kva, outcome in ((True, 10.0, "holds"), (False, 10.0, "holds"), (False, 7.0, "must_fix")):
                job = behind_a_transformer(edition, device, kva)
                self.assertEqual(self.found(job, "transformer_two_sources"), [(outcome, section)])
            job = behind_a_transformer(edition, False, None)
            self.assertEqual(self.found(job, "transformer_two_sources"), [("cannot_tell", section)])


def behind_a_transformer(edition, device, kva):
    """An inverter of 32 A at 240 V, 7.68 kVA, on the secondary of a transformer, with or without a main there."""
    builder = JobBuilder(edition)
    builder.service()
    builder.box("step", "service", kind="transformer", feeder_a=60.0)
    for end in ("in", "out"):
        builder.add("lugs", f"step-{end}", enclosure_id="step")
    run = thing(builder.job, "runs", "to-step")
    for item in (
        run,
        *(wire for wire in builder.job["conductors"] if wire["run_id"] == "to-step" and wire["role"] in ("L1", "L2")),
    ):
        item["to_part"] = "step-in"
    ends = {"primary_part": "step-in", "secondary_part": "step-out"}
    builder.add(
        "transformers", "core", enclosure_id="step", kva=kva, secondary_system="split_120_240", isolating=True, **ends
    )
    builder.box("behind", "step", kind="panel", main_a=40.0, rating_a=100.0)
    thing(builder.job, "runs", "to-behind")["from_part"] = "step-out"
    for wire in builder.job["conductors"]:
        if wire["run_id"] == "to-behind" and wire["role"] in ("L1", "L2"):
            wire["from_part"] = "step-out"
    builder.job["devices"] = [item for item in builder.job["devices"] if item["id"] != "step-to-behind"]
    if not device:
        thing(builder.job, "devices", "behind-main")["kind"] = "switch"
    builder.add("devices", "pv", enclosure_id="behind", bus_id="behind-bus", role="source", rating_a=40.0, name="PV")
    inverter(builder, "behind")
    thing(builder.job, "sources", "roof")["rated_kva"] = None
    thing(builder.job, "runs", "to-roof")["from_part"] = "pv"
    for wire in builder.job["conductors"]:
        if wire["run_id"] == "to-roof" and wire["from_part"] == "behind-main":
            wire["from_part"] = "pv"
    return builder.job


# -- all rows ---------------------------------------------------------------------------------------

JUDGES, MATRIX = "tests.judges.test_", "tests.validation.test_bond_matrix."
ARRANGED = f"{MATRIX}BondMatrix.test_every_decision_and_no_finding_where_all_is_right"
ELSEWHERE = {
    "autotransformer_feeder": f"{JUDGES}autotransformers.Bonds.test_in_a_feeder_it_keeps_the_neutral_of_its_supply",
    "generator_fixed_derived": ARRANGED,
    "generator_neutral_marking": f"{MATRIX}OnCords.test_a_bond_changed_without_marking_it",
    "interconnect_feeder_far_end": f"{JUDGES}pushed_back.BackThroughAFeeder.test_the_feeder_breaker_carries_125_percent_of_the_output",
    "label_do_not_move": "tests.report.test_signs.OfASourceOnABus.test_the_breaker_at_the_far_end_is_not_to_be_moved",
    "label_single_120": f"{JUDGES}island_supplies.Single120Supply.test_the_panel_is_marked",
    "label_stand_alone": "tests.report.test_signs.OffTheGrid.test_a_plaque_names_the_source_and_where_it_stands",
    "label_standby_bond": (
        "tests.report.test_signs.OfStandbySets.test_where_the_set_has_no_bond_the_service_warns_of_lifting_its_own"
    ),
    "portable_derived_electrode": ARRANGED,
    "portable_generator_bond": ARRANGED,
    "portable_generator_frame": f"{MATRIX}OnCords.test_as_made_it_holds_and_needs_no_electrode",
    "portable_not_derived_ground": ARRANGED,
    "power_control_access": f"{JUDGES}interconnection.PowerControl.test_what_is_not_told_of_it_is_asked_for",
    "power_control_failure": f"{JUDGES}interconnection.PowerControl.test_what_the_bus_would_carry_without_it_is_said",
    "sds_bond": ARRANGED,
    "sds_bond_both_ends": ARRANGED,
    "sds_outdoor_electrode": ARRANGED,
    "supply_side_bond": f"{JUDGES}supply_side.AheadOfTheService.test_it_is_bonded_as_a_service_disconnect",
}
# One that is entered with another row, and what only allows: taps behind a set are judged like any others (tests.judges.test_tap_runs).
WITH_ANOTHER = {
    "pv_disconnect_location": "source_disconnect",
    "generator_portable_no_disconnect": "generator_outdoor_disconnect",
    "source_protected_from_all": "dedicated_device",
}
ONLY_ALLOWS = {"generator_taps"}


class AllRows(unittest.TestCase):
    def test_every_row_without_an_expression_is_a_case(self):
        drawn = [name for name in dir(Drawn) if name.startswith("test_")]
        known = FACTS.keys() | SIGNS.keys() | ELSEWHERE.keys() | WITH_ANOTHER.keys() | ONLY_ALLOWS
        left = [key for key in WITHOUT_EXPRESSION if key not in known and not any(key in name for name in drawn)]
        self.assertEqual(left, [])

    def test_those_elsewhere_are_there(self):
        for key, name in ELSEWHERE.items():
            with self.subTest(key):
                suite = unittest.defaultTestLoader.loadTestsFromName(name)
                self.assertEqual([type(test).__name__ for test in suite if "_FailedTest" in repr(test)], [])


if __name__ == "__main__":
    unittest.main()
