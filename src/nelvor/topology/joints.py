"""What joins neutral and metal inside one enclosure, part by part, as found or as proposed."""

from __future__ import annotations

from typing import Literal, NamedTuple

from nelvor.model.things import Bar, Bond
from nelvor.topology.grounded import ordinary_neutral
from nelvor.topology.site import Site

Found = Literal["bonded", "apart", "unknown", "no_neutral"]

BOND_WORDS = {
    "screw": "bonding screw",
    "strap": "bonding strap",
    "wire": "wire jumper",
    "factory": "factory bond",
    "tied_bars": "tie between the bars",
    "branch_neutral": "branch neutral on the ground bar",
    "branch_ground": "grounding conductor on the neutral bar",
    "relay": "bonding relay",
}


class Joint(NamedTuple):
    """An edge between two parts: a bond, or a bar that stands on the metal without insulation."""

    part_a: str
    part_b: str
    made: bool | None
    bond: Bond | None = None
    bar: Bar | None = None

    @property
    def words(self) -> str:
        """How a person on site would call it."""
        if self.bond is not None:
            return BOND_WORDS[self.bond.kind]
        return "neutral bar not insulated from the box"

    @property
    def asks(self) -> tuple[tuple[str, str], ...]:
        """The field that tells whether it joins, with the id of its thing."""
        if self.bond is not None:
            return ((self.bond.id, "made"),)
        return ((self.bar.id, "insulated"),) if self.bar is not None else ()


class Inside(NamedTuple):
    """The joints of an enclosure and whether they connect its neutral to its metal."""

    found: Found
    joining: tuple[Joint, ...]
    doubtful: tuple[Joint, ...]


def inside(site: Site, enclosure_id: str, neutral: tuple[str, ...] | None = None) -> Inside:
    """Return how a neutral and the metal stand to each other inside an enclosure; the ordinary neutral if none is told."""
    bars = site.bars_in.get(enclosure_id, [])
    neutrals = list(ordinary_neutral(site, enclosure_id) if neutral is None else neutral)
    if not neutrals:
        return Inside("no_neutral", (), ())
    joints = _joints(site, enclosure_id, bars)
    possible = [joint for joint in joints if joint.made is not False]
    if not _connected(possible, neutrals, enclosure_id):
        return Inside("apart", (), ())
    certain = [joint for joint in joints if joint.made]
    if _connected(certain, neutrals, enclosure_id):
        return Inside("bonded", tuple(_on_the_way(certain, neutrals, enclosure_id)), ())
    doubtful = [joint for joint in _on_the_way(possible, neutrals, enclosure_id) if joint.made is None]
    return Inside("unknown", (), tuple(doubtful))


def _joints(site: Site, enclosure_id: str, bars: list[Bar]) -> list[Joint]:
    joints = [
        Joint(bond.part_a, bond.part_b, bond.made, bond=bond)
        for bond in site.bonds_in.get(enclosure_id, [])
        if {bond.part_a, bond.part_b} <= site.owners.keys()
    ]
    for bar in bars:
        touching = None if bar.insulated is None else not bar.insulated
        if bar.kind == "ground" and touching is None:
            touching = True
        joints.append(Joint(bar.id, enclosure_id, touching, bar=bar))
    return joints


def _reach(joints: list[Joint], start: set[str]) -> set[str]:
    reached, growing = set(start), True
    while growing:
        growing = False
        for joint in joints:
            if (joint.part_a in reached) != (joint.part_b in reached):
                reached |= {joint.part_a, joint.part_b}
                growing = True
    return reached


def _connected(joints: list[Joint], neutrals: list[str], metal: str) -> bool:
    return metal in _reach(joints, set(neutrals))


def _on_the_way(joints: list[Joint], neutrals: list[str], metal: str) -> list[Joint]:
    """Return the joints that touch both what the neutral reaches and what the metal reaches without them.

    These are the ones to look at or to take out: a ground bar on its metal is no fault by itself.
    """
    grounded = [joint for joint in joints if joint.bar is not None and joint.bar.kind == "ground"]
    metal_side = _reach(grounded, {metal})
    return [
        joint
        for joint in joints
        if joint not in grounded and (joint.part_a in metal_side) != (joint.part_b in metal_side)
    ]
