"""What the bond matrix says in brackets: things found on site that no letter of a line tells, each with what is said of it.

A *must fix* with a mend is mended, and is gone then, with no other of its kind.
"""

import re
import unittest

from nelvor.report.signs import signs_due
from tests.support.jobs import mended, thing
from tests.validation.test_bond_matrix import EDITIONS, ROWS, arrangement, judged

BRACKETS = re.compile(r"\[([^\]]*)\](?: => (\w+)(?::\w+)?)?")
BY_ID = {row["id"]: row for row in ROWS}


# -- changes ----------------------------------------------------------------------------------------


def as_drawn(job):
    """What is meant lies in the line already."""


def put(list_name, thing_id, **values):
    return lambda job: thing(job, list_name, thing_id).update(values)


def rods(part):
    def drive(job):
        for number in (1, 2):
            rod = {"kind": "rod", "connects_to": part, "length_ft": 8.0, "spacing_ft": 8.0}
            job["electrodes"].append({"id": f"rod{number}", **rod})

    return drive


def wire(run, role, start, end):
    ends = {"from_part": start, "to_part": end}
    return lambda job: job["conductors"].append({"id": f"{run}-extra", "run_id": run, "role": role, **ends})


def landed(run, role, side, part):
    def land(job):
        next(item for item in job["conductors"] if (item["run_id"], item["role"]) == (run, role))[side] = part

    return land


def without(run, role):
    def take(job):
        job["conductors"] = [item for item in job["conductors"] if (item["run_id"], item["role"]) != (run, role)]

    return take


def several(*changes):
    def change(job):
        for each in changes:
            each(job)

    return change


def neutral_bar_bonded(box, run, start):
    def fit(job):
        job["bars"].append({"id": f"{box}-neutral", "enclosure_id": box, "kind": "neutral", "insulated": True})
        bond = {"kind": "screw", "part_a": f"{box}-neutral", "part_b": box, "made": True}
        job["bonds"].append({"id": f"{box}-bond", "enclosure_id": box, **bond})
        wire(run, "neutral", start, f"{box}-neutral")(job)

    return fit


def circuit_with_neutral_in(panel, bar):
    def move(job):
        breaker = {"enclosure_id": panel, "role": "branch", "rating_a": 20.0, "poles": 1, "name": "Well"}
        job["devices"].append({"id": "well", **breaker})
        job.setdefault("circuits", []).append({"id": "well-wires", "device_id": "well", "neutral_bar": bar})

    return move


def multiwire_in(*panels):
    def share(job):
        for number, panel in enumerate(panels):
            breaker = {"enclosure_id": panel, "bus_id": f"{panel}-bus", "role": "branch", "rating_a": 20.0, "poles": 1}
            bus = any(item["id"] == f"{panel}-bus" for item in job["buses"])
            job["devices"].append({"id": f"half{number}", **breaker, "bus_id": f"{panel}-bus" if bus else None})
            word = {"device_id": f"half{number}", "shared_neutral": "counter"}
            job.setdefault("circuits", []).append({"id": f"half{number}-wires", **word})

    return share


def load_of(panel, volts):
    load = {"enclosure_id": panel, "category": "other", "amount": 100.0, "unit": "VA", "volts": volts}
    return lambda job: job["loads"].append({"id": "load", **load})


def new(*ids):
    def come(job):
        for list_name in ("enclosures", "devices", "runs"):
            for item in job[list_name]:
                if item["id"] in ids:
                    item["standing"] = "added"

    return come


def metal(end_a, end_b):
    path = {"id": "metal", "kind": "water_pipe", "end_a": end_a, "end_b": end_b, "continuous": True}
    return lambda job: job["metal_paths"].append(path)


def sized(run, **sizes):
    facts = {"placement": "outdoors", "method": "pvc40", "insulation": "THWN-2", "material": "copper"}
    return put("runs", run, **facts, **sizes)


def farm(job):
    for building in job["buildings"]:
        building["use"] = "farm"


ONLY = {"service_marking": "only_suitable"}
# (row, words) → the change, and the codes of which one tells it; "" where nothing may be told.
TOLD = {
    ("svc_meter_panel", "P screw in the bar but not in the box"): (put("bonds", "p-bond", made=False), "bond"),
    ("svc_meter_panel", "P bond not looked at"): (put("bonds", "p-bond", made=None), "bond"),
    ("svc_main_panel", "P no ground bar"): (
        several(landed("s-to-p", "ground", "to_part", "p"), lambda job: job["bars"].remove(thing(job, "bars", "p-g"))),
        "ground_bar",
    ),
    ("svc_main_panel", "electrode conductor left on P ground bar"): (rods("p-g"), "electrode"),
    ("svc_main_panel_main", "P marked suitable only as service equipment"): (put("enclosures", "p", **ONLY), "marking"),
    ("svc_bare_switch_adjacent", "protection not adjacent"): (
        put("enclosures", "d", protection_adjacent=False),
        "service_protection",
    ),
    ("svc_bare_switch_adjacent", "adjacency not entered"): (
        put("enclosures", "d", protection_adjacent=None),
        "service_protection",
    ),
    ("svc_emergency_meter", "M suitable only as service equipment"): (put("enclosures", "m", **ONLY), "marking"),
    ("svc_emergency_other", "D suitable only as service equipment"): (put("enclosures", "d", **ONLY), "marking"),
    ("svc_emergency_other", "D and P joined by a grounding conductor besides the neutral, both bonded"): (
        wire("d-to-p", "ground", "d-g", "p-g"),
        "parallel_path",
    ),
    ("svc_six_one_box", "new from 2020"): (
        new("s", "m-to-s", *(f"s-{number}" for number in range(6))),
        "service_count",
    ),
    (
        "svc_stack_main_ahead",
        "M1 bonded, immediately beside S, no ground-fault protection, neutral at least Table 250.122",
    ): (several(put("bonds", "m1-bond", made=True), put("enclosures", "m1", beside_service=True, kind="meter")), ""),
    ("svc_wye_line_to_line", "four wires asked to P"): (as_drawn, ""),
    ("svc_pole_main", "no electrode at PB"): (as_drawn, "electrode"),
    ("svc_pole_main", "house taken for the service because it is the bigger panel"): (
        put("bonds", "ph-bond", made=True),
        "bond",
    ),
    ("svc_pole_meter_only", "metal water pipe joins the buildings"): (metal("ph", "pb"), "neutral_current_on_path"),
    ("svc_pole_meter_only", "grounding conductor run from M to PB besides the neutral"): (
        wire("m-to-pb", "ground", "m-g", "pb-g"),
        "parallel_path",
    ),
    ("svc_pole_meter_disc", "M suitable only as service equipment"): (put("enclosures", "m", **ONLY), "marking"),
    ("farm_site_isolating", "grounding conductor smaller than the supply conductors"): (
        several(put("enclosures", "d", site_isolating=True), put("runs", "d-to-pb", hot_size="2", ground_size="8")),
        "site_isolating_ground",
    ),
    ("farm_site_isolating", "animals not entered"): (farm, "livestock"),
    ("sub_chain", "branch neutral on P2 ground bar"): (
        landed("p1-to-p2", "neutral", "to_part", "p2-g"),
        "bond wrong_bar",
    ),
    ("sub_chain", "P1 neutral bar not insulated"): (put("bars", "p1-neutral", insulated=False), "bond"),
    ("sub_chain", "ground wire on P1 neutral bar"): (
        landed("s-to-p1", "ground", "to_part", "p1-neutral"),
        "wrong_bar metal_path",
    ),
    ("sub_no_neutral", "grounding conductor used as neutral for a 120 V control"): (
        load_of("p", 120.0),
        "neutral_missing",
    ),
    ("barn_four_wire", "rods and no grounding conductor, neutral apart"): (
        several(rods("pb-g"), without("s-to-pb", "ground")),
        "ground_missing",
    ),
    ("barn_four_wire", "electrode conductor on PB neutral bar"): (rods("pb-neutral"), "electrode_bar"),
    ("barn_four_wire", "old branch circuit also feeds the barn"): (
        several(
            lambda job: job["devices"].append({"id": "old", "enclosure_id": "s", "role": "branch", "poles": 1}),
            lambda job: job["runs"].append({"id": "again", "from_part": "old", "to_part": "pb-in"}),
        ),
        "second_feed",
    ),
    ("barn_one_circuit", "electrode added"): (rods("db-g"), ""),
    ("barn_chain", "no electrode at PG"): (as_drawn, "electrode"),
    ("barn_old_three_wire", "ground-fault protection ahead"): (
        lambda job: [item.update(ground_fault_protection=True) for item in job["devices"] if item["role"] == "feeder"],
        "ground_missing",
    ),
    ("barn_old_three_wire", "new feed"): (put("runs", "s-to-pb", standing="added"), "ground_missing"),
    ("barn_old_three_wire", "neutral below Table 250.122"): (
        put("runs", "s-to-pb", hot_size="6", neutral_size="12"),
        "ground_missing",
    ),
    ("barn_old_three_wire_unknown", "bond lifted before a grounding conductor is there"): (
        put("bonds", "pb-bond", made=False),
        "bond",
    ),
    ("barn_240_only", "four wires asked"): (as_drawn, ""),
    ("xf_indoor_source", "electrode conductor on P while the bond is in X"): (rods("p-g"), "derived_electrode"),
    ("xf_two_common", "neutrals of P1 and P2 joined"): (
        several(
            lambda job: job["runs"].append({"id": "tie", "from_part": "p1-in", "to_part": "p2-in"}),
            wire("tie", "neutral", "p1-neutral", "p2-neutral"),
        ),
        "second_feed",
    ),
    ("xf_outdoor_one_bond", "no electrode at X"): (as_drawn, "derived_electrode"),
    ("xf_outdoor_device", "bond in D instead of X, electrode conductor in D too"): (
        several(put("bonds", "x-bond", made=False), put("bonds", "d-bond", made=True), rods("d-g")),
        "",
    ),
    ("xf_auto", "taken for a separately derived system"): (put("bonds", "a-bond", made=True), "bond"),
    ("gen_solid.normal", "whether the gear switches the neutral not entered"): (
        put("transfers", "t-gear", switches_neutral=None),
        "bond",
    ),
    ("gen_solid.standby", "generator bond not known"): (put("bonds", "g-bond", made=None), "bond"),
    ("gen_solid.standby", "rod at the generator"): (rods("g-g"), ""),
    ("gen_switched.standby", "no electrode at the outdoor generator"): (as_drawn, "derived_electrode"),
    ("gen_switched.standby", "a transferred circuit's neutral left in S"): (
        circuit_with_neutral_in("p", "s-neutral"),
        "stray_neutral",
    ),
    ("gen_service_rated_solid.normal", "electrode conductor left in P"): (rods("p-g"), "electrode"),
    ("gen_service_rated_solid.standby", "gear not marked suitable as service equipment"): (
        put("enclosures", "t", service_marking="unmarked"),
        "marking",
    ),
    ("gen_interlock_service.normal", "no interlock"): (lambda job: job["interlocks"].clear(), "second_feed"),
    ("gen_interlock_service.standby", "generator bond not known: read its marking"): (
        put("bonds", "g-bond", made=None),
        "bond",
    ),
    ("gen_interlock_service.standby", "back-fed breaker not held down"): (
        put("devices", "p-s", held_down=False, space=2, bus_id="p-bus"),
        "held_down",
    ),
    ("gen_interlock_service.standby", "generator bonded, fed from an outlet without ground-fault interrupter"): (
        put("bonds", "g-bond", made=True),
        "bond",
    ),
    ("gen_portable_bonded_switched.standby", "a transferred circuit's neutral left in P"): (
        circuit_with_neutral_in("p2", "p-neutral"),
        "stray_neutral",
    ),
    ("gen_multi_circuit.standby", "half of a multiwire circuit transferred"): (
        multiwire_in("p", "l"),
        "multiwire_apart",
    ),
    ("gen_barn_old_three_wire.standby", "a metal generator cord path back to the house"): (
        metal("pb", "s"),
        "ground_missing",
    ),
    ("gen_house_and_barn.standby", "barn left on its old three-wire feed"): (
        several(
            without("t-to-pb", "ground"),
            put("bonds", "pb-bond", made=True),
            put("runs", "t-to-pb", complied_when_installed=True),
        ),
        "ground_missing",
    ),
    ("pv_line_to_line", "neutral run and bonded in D"): (neutral_bar_bonded("d", "s-to-d", "s-neutral"), "bond"),
    ("pv_behind_service_disconnect", "neutral run to D2 and bonded"): (
        neutral_bar_bonded("d2", "d1-to-d2", "d1-neutral"),
        "bond",
    ),
    ("offgrid_panel_bond", "bond inside the inverter not known"): (put("bonds", "i-bond", made=None), "bond"),
    ("offgrid_generator_relay.island", "relay disabled"): (put("sources", "i-set", relay="disabled"), "bond"),
    ("hyb_backup_through.island", "relay closes when islanded"): (
        put("sources", "i-set", relay="closes_when_islanded"),
        "bond",
    ),
    ("hyb_backup_through.island", "neutral path or relay not known"): (
        put("sources", "i-set", neutral_path=None),
        "bond",
    ),
    ("hyb_backup_relay.parallel", "relay welded closed"): (put("sources", "i-set", relay="always_closed"), "bond"),
    ("hyb_backup_relay.island", "relay disabled"): (put("sources", "i-set", relay="disabled"), "bond"),
    ("hyb_backup_relay.island", "a backed-up circuit's neutral left in S"): (
        circuit_with_neutral_in("p2", "s-neutral"),
        "stray_neutral",
    ),
    ("hyb_relay_unknown.island", "neutral path or relay assumed"): (as_drawn, "bond"),
    ("hyb_relay_unknown.island", "neutral opens, no relay"): (
        put("sources", "i-set", neutral_path="opens", relay="none"),
        "bond",
    ),
    ("hyb_relay_unknown.island", "neutral passes, relay closes"): (
        put("sources", "i-set", neutral_path="passes", relay="closes_when_islanded"),
        "bond",
    ),
    ("hyb_islanding_at_meter.island", "device suitable only as service equipment"): (
        put("enclosures", "t", **ONLY),
        "marking",
    ),
    ("hyb_generator_port.standby", "neutral path of the generator port not known"): (
        put("sources", "i-set", neutral_path=None),
        "bond",
    ),
    ("src_120_both_legs", "multiwire circuit"): (multiwire_in("p", "p"), "single_120_multiwire"),
    ("src_120_both_legs", "240 V load"): (load_of("p", 240.0), "single_120_load"),
    ("src_120_both_legs", "source rating not below the neutral bar's"): (
        several(put("bars", "p-neutral", rating_a=20.0), put("sources", "i-set", rated_output_a=20.0)),
        "single_120_bar",
    ),
    ("src_240_autotransformer", "device of A opens alone"): (
        lambda job: [item.update(opens_source=False) for item in job["transformers"]],
        "neutral_lost",
    ),
    ("src_240_autotransformer", "A not listed for forming a neutral"): (
        lambda job: [item.update(listed_for_neutral=None) for item in job["transformers"]],
        "neutral_listing",
    ),
    ("farm_pole_transfer.normal", "gear without protection and none adjacent"): (
        several(put("devices", "t-n", kind="switch"), put("enclosures", "t", protection_adjacent=False)),
        "service_protection",
    ),
    ("gen_sole_source", "portable set that is unplugged"): (put("sources", "g-set", portable=True), "source_facts"),
}
# Said by a sign of the words that are right: one that is missing or wrong on site is not drawn.
SIGNS = {
    ("gen_interlock_service.standby", "inlet without the floating-neutral label"): ("q", "FLOATING NEUTRAL ONLY"),
    ("gen_portable_bonded_switched.standby", "inlet labeled floating neutral"): ("q", "BONDED NEUTRAL ONLY"),
    ("src_120_both_legs", "no label"): ("p", "SINGLE 120-VOLT SUPPLY"),
}
# Judged by the tables where the run is complete; the lines of the matrix leave open where it lies.
BY_SIZE = {
    ("xf_outdoor_both", "neutral smaller than the system bonding jumper"),
    ("gen_solid_no_breaker.standby", "jumper sized by Table 250.122"),
}
DRAWN_ELSEWHERE = {
    ("gen_two_gears_switched.standby", "the same with two services"),
    ("src_240_autotransformer", "autotransformer in line between source and first disconnect and the one bond in it"),
    ("range_old_at_service", "new circuit"),
    ("range_old_at_service", "neutral smaller than 10 copper or 8 aluminum"),
    (
        "range_old_after_refeed",
        "2023: bare neutral of SE cable insulated or covered with listed material inside the panel",
    ),
    ("gen_cords_only", "floating as made"),
    ("gen_cords_only", "bond altered without marking"),
    ("gen_cords_only", "rod demanded"),
}


def in_brackets():
    for row in ROWS:
        for words, outcome in BRACKETS.findall(row["wrong"]):
            yield row["id"], words, outcome


class InWords(unittest.TestCase):
    def test_each_is_told_here_or_elsewhere(self):
        left = [
            (row, words)
            for row, words, _ in in_brackets()
            if not any((row, words) in known for known in (TOLD, SIGNS, BY_SIZE, DRAWN_ELSEWHERE))
        ]
        self.assertEqual(left, [])

    def editions(self, row_id):
        return [edition for edition in EDITIONS if BY_ID[row_id][f"nec{edition}"] != "none"]

    def test_what_is_said_of_each_and_its_mend(self):
        for row_id, words, outcome in in_brackets():
            if (row_id, words) not in TOLD:
                continue
            change, codes = TOLD[row_id, words]
            for edition in self.editions(row_id):
                if words == "new from 2020" and edition == "2017":
                    continue
                with self.subTest(f"{row_id} ({edition}): {words}"):
                    job = arrangement(BY_ID[row_id], edition).job
                    before = {(item.code, item.id, item.text) for item in judged(job).findings}
                    change(job)
                    report = judged(job)
                    found = [item for item in report.findings if item.code in codes.split()]
                    if outcome == "holds":
                        wrong = [item.text for item in report.findings if item.outcome == "must_fix"]
                        known = {text for _, _, text in before}
                        self.assertEqual([text for text in wrong if text not in known], [])
                        continue
                    told = [item for item in found if item.outcome == outcome]
                    if change is not as_drawn:
                        told = [item for item in told if (item.code, item.id, item.text) not in before]
                    self.assertTrue(told, [(item.outcome, item.code, item.id) for item in report.findings])
                    self.mended(job, told)

    def mended(self, job, told):
        for wrong in (item for item in told if item.mend is not None):
            after = judged(mended(job, wrong))
            again = [item.text for item in after.findings if (item.code, item.id) == (wrong.code, wrong.id)]
            self.assertNotIn(wrong.text, again)

    def test_the_signs_that_are_right(self):
        for (row_id, words), (box, on_it) in SIGNS.items():
            for edition in self.editions(row_id):
                with self.subTest(f"{row_id} ({edition}): {words}"):
                    job = arrangement(BY_ID[row_id], edition).job
                    for item in job["enclosures"]:
                        if item["id"] == "q":
                            item["kind"] = "inlet"
                    hung = [sign.words for sign in signs_due(judged(job)) if sign.enclosure_id == box]
                    self.assertTrue(any(on_it in text for text in hung), hung)


if __name__ == "__main__":
    unittest.main()
