"""The words that the terminal, the paper and the screen share."""

from __future__ import annotations

import re
from typing import Any

from nelvor.clauses.calculated_load import Group
from nelvor.clauses.wiring_methods import METHOD_WORDS
from nelvor.judges.answer import Answer
from nelvor.judges.boxes import BoxAnswer
from nelvor.judges.run import RunAnswer
from nelvor.report.check import Report
from nelvor.topology.names import thing_name

OUTCOME_WORDS = {"must_fix": "must fix", "advice": "advice", "cannot_tell": "cannot tell", "holds": "hold"}
DECISION_WORDS = {
    "bond": "Bond here",
    "apart": "Keep apart",
    "supply_side": "Supply side, bonded to the neutral",
    "existing_three_wire": "Old three-wire feed, bond stays",
    "derived_bond": "Bond here: a system of its own",
    "bond_in_source": "Bond in the source",
    "floating": "Floating: no bond in it",
    "no_neutral": "No neutral",
    "unknown": "Cannot tell",
}
SHORT_DECISION_WORDS = {
    **DECISION_WORDS,
    "supply_side": "Supply side",
    "existing_three_wire": "Old three-wire",
    "derived_bond": "Bond here",
    "bond_in_source": "Bond inside",
    "floating": "No bond in it",
}
"""The decisions in as few words as a drawing has room for."""

FOUND_WORDS = {"bonded": "joined", "apart": "apart", "unknown": "not known", "no_neutral": "no neutral bar"}
SYSTEM_WORDS = {
    "split_120_240": "120/240 V, one-phase, three wires",
    "wye_208_120": "208Y/120 V, three-phase, four wires",
    "wye_480_277": "480Y/277 V, three-phase, four wires",
    "delta_240": "240 V, three-phase, three wires",
    "delta_240_high_leg": "240/120 V, three-phase, four wires, high leg",
    "single_240": "240 V, two wires",
    "single_120": "120 V, two wires",
}
MATERIAL_WORDS = {"copper": "Cu", "aluminum": "Al"}
CAUTIONS = (
    "Nelvor computes; it does not license. Local code and the authority having jurisdiction govern; permits and inspection apply.",
    "Work on or near energized parts is for qualified persons. Test for absence of voltage on a proven meter before touching.",
    "Line-side lugs stay live with the main off. Never back-feed without an interlock or transfer equipment.",
    "Do not lift an existing bond before the replacement path is in place.",
)


MEASURES = {
    "width": "{} in wide",
    "height": "{} in high",
    "apart": "entries {} in apart",
    "length": "{} in long",
    "area": "{} in² across",
    "volume": "{} in³",
}


METHOD_OF_LOADS = {
    "standard": "dwelling, standard method",
    "optional": "dwelling, optional method",
    "existing": "existing dwelling, optional method",
    "multifamily": "dwelling units together, optional method",
    "connected": "connected load",
    "demand_factors": "with demand factors",
    "farm": "farm loads, by building",
    "two_units": "two dwelling units, as three by the optional method",
}


def shared_words() -> dict[str, Any]:
    """Return the words that the interface takes from here."""
    return {
        "outcomes": OUTCOME_WORDS,
        "outcomes_by_severity": list(OUTCOME_WORDS),
        "decisions": DECISION_WORDS,
        "decisions_short": SHORT_DECISION_WORDS,
        "found": FOUND_WORDS,
        "methods_of_loads": METHOD_OF_LOADS,
        "cautions": list(CAUTIONS),
    }


def group_name(report: Report, group: Group) -> str:
    """Return the name of a group of loads: its dwelling units, or other loads."""
    names = {item.id: item.name for item in report.site.document.dwelling_units}
    return ", ".join(names.get(unit) or unit for unit in group.units) or "Other loads"


def thing_words(report: Report, thing_id: str) -> str:
    """Return the name by which a finding speaks of a thing."""
    return thing_name(report.site, thing_id)


UNIT_ENDING = re.compile(r"_(ft|in|in3|a|v|c|kva|va|percent)$")
FIELD_WORDS = {
    "length_ft": "Length",
    "rating_a": "Rating",
    "hot_size": "Hots",
    "material": "Metal",
    "raceway_size": "Raceway",
    "water_piping": "Metal water pipe",
    "gas_piping": "Metal gas pipe",
    "steel_frame": "Steel frame",
    "charging_a": "Charging",
    "limiters": "Limiters",
    "livestock": "Livestock",
    "equipotential_plane": "Equipotential plane",
    "supply_near": "Other supply near",
    "neutral_isolator": "Neutral isolator",
    "volts_to_earth": "Volts to earth",
    "place_as_required": "All as required",
    "storage_place_as_required": "Place as required",
    "emergency_stop": "Can be stopped",
    "stop_outdoors": "Stop outdoors",
    "unbalance_accepted": "Within 3 %",
    "disconnect_in_reach": "Disconnect",
    "joint_listed": "Joint listed",
    "isolated_for_work": "Isolated for work",
    "leaves_dead_grid": "Leaves dead lines",
    "island_device_listed": "Parting listed",
    "island_device_protected": "Parting protected",
    "rejoins_in_step": "Rejoins in step",
    "disconnect_within_sight": "Within sight",
    "outlet_with_interrupter": "Outlets interrupted",
    "rapid_shutdown": "Rapid shutdown",
    "shutdown_switch_outdoors": "Switch outdoors",
    "array_bonded": "Array metal",
    "storage_disconnect": "Cuts storage off",
    "inlet_interlocked": "Interlocked",
    "held_down": "Fastened",
    "line_load_marked": "Line, load marked",
    "ground_fault_both_ways": "Sees both ways",
    "break_before_make": "Breaks first",
    "utility_agrees": "Utility agrees",
    "interactive": "Runs with utility",
    "area_metal": "Pipes and steel",
    "inlet_a": "Inlet rated",
    "always_this_set": "Always this set",
    "neutral_bar": "Neutral lands in",
    "fed_as_marked": "Fed as marked",
    "termination_c": "Lugs marked",
    "cover_in": "Cover",
    "kva": "Rating",
    "rated_kva": "Rated output",
    "rated_output_a": "Rated output",
    "impedance_percent": "Impedance",
    "volume_in3": "Volume",
    "service_marking": "Marking",
    "metal_path_to_supply": "Metal path between",
    "intersystem_terminal": "Bonding terminal",
    "surge_protection": "Surge device",
    "handle_height_in": "Highest handle",
    "working_depth_in": "Clear depth",
    "working_width_in": "Clear width",
    "working_height_in": "Headroom",
    "dedicated_space": "Space kept clear",
    "marked_as_disconnect": "Marked disconnect",
    "near_entrance": "Near the entrance",
    "made": "Joins",
    "torque_lb_in": "Torque",
    "screw": "Its screw",
    "insulated": "Insulated from the box",
    "frame_bonded": "Frame on the neutral",
    "has_ground": "Grounding conductor",
    "neutral_covering": "Neutral is",
    "protection_adjacent": "Protection adjacent",
    "series_interrupting_a": "Marked in series",
    "interrupting_a": "Marked to break",
}


def field_words(field: str) -> str:
    """Return what a field is called where it is asked for."""
    return FIELD_WORDS.get(field, UNIT_ENDING.sub("", field).replace("_", " ").capitalize())


def box_words(answer: BoxAnswer) -> str:
    """Return what a box must measure, in words."""
    least = [MEASURES[name].format(figure.text) for name, figure in answer.figures.items()]
    return f"at least {', '.join(least)}" if least else "cannot tell"


def figures_words(answer: Answer) -> str:
    """Return the figures of an answer in a line, or why there are none."""
    if not answer.figures:
        return "; ".join(reason.reason for reason in answer.gaps.values()) or "nothing to tell"
    return ", ".join(
        f"{name.replace('_', ' ')} {figure.text} {figure.unit}".strip() for name, figure in answer.figures.items()
    )


COME_WITH_OTHERS = {
    "utility": "the utility's own conductors",
    "cord": "the cord of the set",
    "leads": "the leads of the box of switches",
}


def run_tag(answer: RunAnswer) -> str:
    """Return the short description of a run: hots, neutral, ground, metal, method and trade size."""
    if answer.kind in COME_WITH_OTHERS:
        return COME_WITH_OTHERS[answer.kind]
    parts = []
    for part, words in (("hots", ""), ("neutral", " N"), ("ground", " G")):
        size = answer.size(part)
        if size:
            parts.append(f"{size}{'?' if answer.is_unread(part) else ''}{words}")
    if not parts:
        return "cannot tell"
    sets = f"{answer.run.sets} × " if answer.run.sets > 1 else ""
    metal = MATERIAL_WORDS.get(answer.material or "", "")
    raceway = answer.size("raceway")
    method = METHOD_WORDS.get(answer.run.method or "", "")
    where = f", {method}{f' {raceway} in' if raceway else ''}" if method else ""
    return f"{sets}{' · '.join(parts)} {metal} {answer.run.insulation or ''}{where}".strip()
