"""The network of a site: what joins what, terminal by terminal and pole by pole. Built once from a resolved document.

A node is a part, a pole of it (a leg, ``neutral``, ``ground``, ``metal`` or ``earth``) and a side where it has two.
An edge is a conductor, a pole of a device or of transfer gear (or of a source that opens its input), a winding (of its own, or shared by both sides of an autotransformer), a stretch of bus, a bond, the tie between
neutral bars of one box, the frame of a source in its box, a metal path or an electrode; each names its thing. Loads join
nothing that a decision rests on: the study places them, by their kind and the voltage there.
Nothing here says which edges are closed: that is a scenario's.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Hashable, Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Literal, NamedTuple

from nelvor.model.things import Throw, Transfer, Transformer
from nelvor.topology.look_ups import LookUps

EdgeKind = Literal[
    "conductor",
    "device",
    "switch",
    "winding",
    "shared_winding",
    "bus",
    "bond",
    "neutral_tie",
    "frame",
    "bar_on_metal",
    "metal_path",
    "raceway",
    "electrode",
]
LINE, LEADS, LOAD = "line", "leads", "load"
NEUTRAL, METAL, EARTH = "neutral", "metal", "earth"
OUTSIDE = "outside"


class Node(NamedTuple):
    """A pole of a part; ``side`` tells the two ends of a device apart."""

    part: str
    pole: str
    side: str = ""


class Edge(NamedTuple):
    """What joins two nodes. ``made`` is None where it is not known whether it does."""

    kind: EdgeKind
    list: str
    id: str
    a: Node
    b: Node
    made: bool | None = True


@dataclass(frozen=True)
class Network:
    """All edges of a site, with look-ups by node."""

    edges: tuple[Edge, ...]

    @cached_property
    def at(self) -> dict[Node, list[Edge]]:
        """Edges by the nodes that they join."""
        found: dict[Node, list[Edge]] = defaultdict(list)
        for edge in self.edges:
            found[edge.a].append(edge)
            found[edge.b].append(edge)
        return found

    def component(self, start: Node, *kinds: EdgeKind, doubtful: bool = False) -> frozenset[Node]:
        """Return the nodes joined to one through made edges of these kinds; ``doubtful`` takes unknown ones too."""
        seen, stack = {start}, [start]
        while stack:
            node = stack.pop()
            for edge in self.at.get(node, ()):
                joins = edge.made or (doubtful and edge.made is None)
                if edge.kind in kinds and joins:
                    other = edge.b if edge.a == node else edge.a
                    if other not in seen:
                        seen.add(other)
                        stack.append(other)
        return frozenset(seen)


JOINED_BY = (
    "enclosures",
    "sources",
    "buses",
    "devices",
    "lugs",
    "bars",
    "bonds",
    "conductors",
    "electrodes",
    "metal_paths",
    "transfers",
    "throws",
    "circuit_switches",
    "transformers",
)
"""The lists whose things a network is made of; of runs it takes their ends and what makes their raceway a path."""


def network_rests_on(things: LookUps) -> tuple[list[object], Hashable]:
    """Return the things that a network is made of, and the values of runs that it takes: where both are the same, it is."""
    runs = ((run.id, run.from_part, run.to_part, run.method, run.ground_by_raceway) for run in things.document.runs)
    return [thing for name in JOINED_BY for thing in getattr(things.document, name)], tuple(runs)


def whole_throws(things: LookUps) -> Iterator[tuple[Throw, Transfer]]:
    """Yield the throws of gear that moves all its lines together; what moves circuits one by one is joined at their breakers."""
    for throw in things.document.throws:
        transfer = things.transfers.get(throw.transfer_id)
        if transfer is None or transfer.id in things.circuit_switches_of:
            continue
        if transfer.enclosure_id in things.enclosures:
            yield throw, transfer


def forms_neutral(things: LookUps, transformer: Transformer) -> bool:
    """Tell whether a transformer makes nothing but a neutral between two lines: its secondary is a neutral bar."""
    return any(bar.id == transformer.secondary_part for bar in things.bars_in.get(transformer.enclosure_id, []))


def shares_windings(things: LookUps, transformer: Transformer) -> bool:
    """Tell whether both sides of a transformer are one system: it is an autotransformer."""
    return transformer.isolating is False or forms_neutral(things, transformer)


def secondary_bar(things: LookUps, transformer: Transformer) -> str | None:
    """Return the neutral bar of a transformer's secondary: where the neutral of a run from it begins, or the first."""
    if forms_neutral(things, transformer):
        return transformer.secondary_part
    bars = [bar.id for bar in things.bars_in.get(transformer.enclosure_id, []) if bar.kind == "neutral"]
    for run in things.runs_from.get(transformer.enclosure_id, []):
        for conductor in things.conductors_of.get(run.id, []):
            if conductor.role == "neutral" and conductor.from_part in bars:
                return conductor.from_part
    return next(iter(bars), None)
