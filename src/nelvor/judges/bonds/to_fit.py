"""What is to be fitted in an enclosure, and which conductors come to it, by what is decided."""

from __future__ import annotations

from nelvor.judges.bonds.answer import Decision
from nelvor.judges.bonds.place import Place


def parts_to_fit(place: Place, decision: Decision) -> list[str]:
    """Return what is fitted or taken out, in words."""
    if place.zone.kind == "by_relay":
        taken_out = [f"Take out: {joint.words}" for joint in place.inside.joining]
        return [*taken_out, "Its relay, set as the maker tells; no screw or strap in it besides"]
    if decision in ("bond", "derived_bond", "bond_in_source"):
        size = place.figures.get("main_bonding_jumper") or place.figures.get("system_bonding_jumper")
        return [
            "Fit the maker's bonding screw or strap, torqued to its label"
            + (f", or a copper jumper of {size.text}" if size else "")
        ]
    if decision == "supply_side":
        return ["Leave the neutral bonded to this enclosure, or bond the metal with a supply-side jumper"]
    if decision == "apart":
        parts = [f"Take out: {joint.words}" for joint in place.inside.joining]
        bar = [] if place.mends.bar("ground") else ["Fit a listed ground bar on clean metal"]
        return [*parts, *bar, "Neutral bar insulated, no screw or strap"]
    if decision == "floating":
        return [f"Take out: {joint.words}" for joint in place.inside.joining] or ["Neutral not joined to the frame"]
    if decision == "existing_three_wire":
        return ["Leave the existing bond until a grounding conductor is connected"]
    return []


def conductors_to_run(place: Place, decision: Decision) -> list[str]:
    """Return which conductors come to an enclosure."""
    neutral = ["neutral"] if place.feeding is not None and place.site.has_conductor(place.feeding, "neutral") else []
    if decision in ("bond", "supply_side"):
        return ["hots", "neutral"]
    if decision == "apart":
        return ["hots", *neutral, "grounding conductor"]
    if decision in ("bond_in_source", "derived_bond", "floating"):
        leaving = place.site.runs_from.get(place.enclosure.id, [])
        used = neutral or any(place.site.has_conductor(run, "neutral") for run in leaving)
        return ["hots", *(["neutral"] if used else []), "grounding conductor or supply-side jumper"]
    return ["hots", *neutral]
