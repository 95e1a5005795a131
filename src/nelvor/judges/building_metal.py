"""Piping, steel and other systems of a building that have to be bonded where its power comes in (250.94, 250.104)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from nelvor.judges.bonds import BondAnswer
from nelvor.judges.verdict import Judge, Mend, Verdict, proposing
from nelvor.model.things import Building
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site


@dataclass(frozen=True)
class Piping:
    """A kind of metal that a building may have, as the field of the building that tells of its bond.

    ``not_in`` are uses of a building of which it is not asked.
    """

    field: str
    clause: str
    words: str
    not_in: frozenset[str] = frozenset()


PIPING = (
    Piping("water_piping", "metal_water_pipe_bond", "metal water piping"),
    Piping("gas_piping", "gas_pipe_bond", "metal gas piping"),
    Piping("steel_frame", "structural_metal_bond", "steel frame", frozenset({"dwelling"})),
)
TERMINAL = "intersystem_terminal"


def building_verdicts(site: Site, rules: Rules, bonds: Mapping[str, BondAnswer]) -> list[Verdict]:
    """Return what the building of each service, or of the first enclosure that a feeder supplies, asks for."""
    found: list[Verdict] = []
    for enclosure_id, bond in bonds.items():
        service = bond.decision == "bond"
        fed = bond.decision in ("apart", "existing_three_wire") and site.is_first_of_building(enclosure_id)
        building = site.buildings.get(site.enclosures[enclosure_id].building_id or "")
        if building is None or not (service or fed) or any(item.id == building.id for item in found):
            continue
        judge = Judge(rules, "buildings", building.id)
        where = name_of(site, enclosure_id)
        for piping in PIPING:
            if building.use not in piping.not_in:
                _piping(judge, building, piping, where)
        _terminal(judge, building, where)
        found += judge.verdicts
    return found


def _piping(judge: Judge, building: Building, piping: Piping, where: str) -> None:
    bonded = getattr(building, piping.field)
    name = building.name or "the building"
    if bonded is None:
        text = f"Whether {name} has {piping.words}, and whether it is bonded, is not entered."
        judge.cannot_tell(piping.field, text, piping.clause, piping.field)
    elif bonded == "not_bonded":
        text = f"The {piping.words} of {name} is not bonded. Join it at {where}, where the power comes in."
        mend = Mend(f"Bond the {piping.words}", proposing("buildings", building, **{piping.field: "bonded"}))
        judge.must_fix(piping.field, text, piping.clause, piping.field, mend)
    elif bonded == "bonded":
        judge.holds(piping.field, f"The {piping.words} is bonded.", piping.clause, piping.field)


def _terminal(judge: Judge, building: Building, where: str) -> None:
    """The place outside where telephone, cable and antenna are bonded to the same system."""
    clause, name = "intersystem_bonding", building.name or "the building"
    if building.intersystem_terminal is None:
        text = f"Whether {name} has a terminal outside, at {where}, to bond other systems to, is not entered."
        judge.cannot_tell(TERMINAL, text, clause, TERMINAL)
    elif building.intersystem_terminal:
        judge.holds(TERMINAL, "Other systems have their bonding terminal.", clause, TERMINAL)
    else:
        text = f"{name} has no terminal outside to bond telephone, cable and antenna to; fit one at {where}."
        mend = Mend("Fit a bonding terminal", proposing("buildings", building, intersystem_terminal=True))
        judge.must_fix(TERMINAL, text, clause, TERMINAL, mend)
