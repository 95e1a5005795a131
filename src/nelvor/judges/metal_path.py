"""Metal that nothing joins to the metal ahead: a fault to it would stay live. The worst of all faults never passes."""

from __future__ import annotations

from collections.abc import Mapping

from nelvor.judges.bonds import BondAnswer
from nelvor.judges.verdict import Judge, Mend, Verdict, proposing
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Run
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.network import METAL, Node
from nelvor.topology.site import Site

BONDED = frozenset({"bond", "supply_side", "derived_bond", "bond_in_source"})
TOLD_ALREADY = frozenset({"ground_missing", "jumper_missing", "ground_bar"})


def metal_verdicts(site: Site, rules: Rules, bonds: Mapping[str, BondAnswer]) -> list[Verdict]:
    """Return a finding for each enclosure that belongs apart and whose metal has no path to the metal ahead of it.

    The path goes over grounding conductors, metal raceways, bars, bonds and metal paths (250.4(A)(5)); over a
    neutral bar only where that is bonded to its enclosure, at the service and ahead of it.
    """
    bonded = {enclosure_id for enclosure_id, bond in bonds.items() if bond.decision in BONDED}
    allowed = {node for node in site.grounding.at if node.pole == METAL or site.owners.get(node.part) in bonded}
    certain, possible = _pieces(site, allowed, doubtful=False), None
    found: list[Verdict] = []
    for enclosure_id, bond in bonds.items():
        run = site.feeding_run(enclosure_id)
        if bond.decision != "apart" or run is None or any(item.code in TOLD_ALREADY for item in bond.verdicts):
            continue
        ahead = Node(site.upstream_of(run), METAL)
        here = Node(enclosure_id, METAL)
        if ahead in certain and certain[ahead] == certain.get(here):
            continue
        judge = Judge(rules, "enclosures", enclosure_id)
        name, upstream = name_of(site, enclosure_id), name_of(site, ahead.part)
        possible = possible or _pieces(site, allowed, doubtful=True)
        if ahead in possible and possible[ahead] == possible.get(here):
            text = (
                f"Whether the metal of {name} is joined to that of {upstream} is not known: follow its grounding path."
            )
            judge.cannot_tell("metal_path", text, "effective_fault_path")
        else:
            text = (
                f"Nothing joins the metal of {name} to that of {upstream}: its grounding conductor does not land on "
                "metal at both ends, and a fault to the metal would stay live."
            )
            judge.must_fix("metal_path", text, "effective_fault_path", mend=_landed_on_metal(site, run, certain))
        found += judge.verdicts
    return found


def _landed_on_metal(site: Site, run: Run, pieces: dict[Node, int]) -> Mend | None:
    """Move the ends of the grounding conductor to bars that stand on the metal, or to the metal itself."""
    wires = [item for item in site.conductors_of.get(run.id, []) if item.role == "ground"]
    if not wires:
        return None
    operations: list[Operation] = []
    for end, box in (("from_part", site.upstream_of(run)), ("to_part", site.downstream_of(run))):
        bars = [bar.id for bar in site.bars_in.get(box, []) if bar.kind == "ground"]
        on_metal = [bar for bar in bars if pieces.get(Node(bar, METAL)) == pieces.get(Node(box, METAL))]
        landed = getattr(wires[0], end)
        if landed != box and landed not in on_metal:
            operations += proposing("conductors", wires[0], **{end: next(iter(on_metal), box)})
    return Mend("Land the grounding conductor on metal at both ends", tuple(operations)) if operations else None


def _pieces(site: Site, allowed: set[Node], doubtful: bool) -> dict[Node, int]:
    """Number the pieces that the allowed nodes are joined to; ``doubtful`` joins what is not known as well."""
    piece: dict[Node, int] = {}
    for start in allowed:
        stack = [start] if start not in piece else []
        while stack:
            node = stack.pop()
            if node in piece:
                continue
            piece[node] = len(piece) if node == start else piece[start]
            for edge in site.grounding.at.get(node, ()):
                if edge.made or (doubtful and edge.made is None):
                    other = edge.b if edge.a == node else edge.a
                    if other in allowed and other not in piece:
                        stack.append(other)
    return piece
