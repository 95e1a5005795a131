"""The edges of neutral, metal and earth: their conductors, metal raceways, ties, frames, bonds, metal paths and electrodes."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from nelvor.topology.look_ups import LookUps
from nelvor.topology.network import (
    EARTH,
    METAL,
    NEUTRAL,
    OUTSIDE,
    Edge,
    Node,
    secondary_bar,
    shares_windings,
    whole_throws,
)
from nelvor.topology.passing import passing_sources

METAL_RACEWAYS = frozenset({"emt", "rmc", "imc", "fmc", "lfmc"})
RELAYS_THAT_JOIN = frozenset({"closes_when_islanded", "always_closed"})
POLE_OF_ROLE = {"neutral": NEUTRAL, "ground": METAL}


def grounding_edges(things: LookUps) -> Iterator[Edge]:
    """Yield the edges between what is neutral, metal or earth on a site, thing by thing."""
    grounding = _Grounding(things)
    yield from grounding.runs()
    yield from grounding.switched_neutrals()
    yield from grounding.neutral_ties()
    yield from grounding.frames()
    yield from grounding.bonds_and_metal()


class _Grounding:
    """Walks the lists once and yields the edges of each thing."""

    def __init__(self, things: LookUps) -> None:
        self.things = things
        self.passing = passing_sources(things)
        self.bars = {bar.id: Node(bar.id, NEUTRAL if bar.kind == "neutral" else METAL) for bar in things.document.bars}
        self.metal = {enclosure_id: Node(enclosure_id, METAL) for enclosure_id in things.enclosures}

    def runs(self) -> Iterator[Edge]:
        for run in self.things.drawn_runs:
            for conductor in self.things.conductors_of.get(run.id, []):
                pole = POLE_OF_ROLE.get(conductor.role)
                if pole is not None:
                    ends = (self._bar(conductor.from_part, pole), self._bar(conductor.to_part, pole))
                    yield Edge("conductor", "conductors", conductor.id, *ends)
            if run.ground_by_raceway or run.method in METAL_RACEWAYS:
                ends = (self._metal(self.things.upstream_of(run)), self._metal(self.things.downstream_of(run)))
                yield Edge("raceway", "runs", run.id, *ends)

    def switched_neutrals(self) -> Iterator[Edge]:
        for throw, transfer in whole_throws(self.things):
            if throw.neutral_part is not None and transfer.switches_neutral:
                joined = Node(transfer.id, NEUTRAL)
                yield Edge("switch", "throws", throw.id, self._bar(throw.neutral_part, NEUTRAL), joined)

    def neutral_ties(self) -> Iterator[Edge]:
        """The neutrals of one box are one, but for those that gear switches and the two sides of a transformer."""
        for enclosure_id in self.things.enclosures:
            bars = [bar.id for bar in self.things.bars_in.get(enclosure_id, []) if bar.kind == "neutral"]
            made, parted = self._one_neutral(enclosure_id, bars)
            together = [Node(bar, NEUTRAL) for bar in bars if bar not in parted]
            together += [Node(gear.id, NEUTRAL) for gear in self.things.transfers_in.get(enclosure_id, [])]
            together.append(Node(enclosure_id, NEUTRAL))
            for one, other in pairwise(together):
                yield Edge("neutral_tie", "enclosures", enclosure_id, one, other, True)
            opens = self._opens_neutral(enclosure_id)
            for bar in parted:
                if opens is not None:
                    yield Edge("switch", "sources", opens, Node(bar, NEUTRAL), together[0])
                elif made is not False:
                    yield Edge("neutral_tie", "enclosures", enclosure_id, Node(bar, NEUTRAL), together[0], made)

    def _opens_neutral(self, enclosure_id: str) -> str | None:
        """The source that opens the neutral of its input together with the lines; None where none does."""
        passing = self.passing.get(enclosure_id)
        return passing.source.id if passing is not None and passing.source.neutral_path == "opens" else None

    def _one_neutral(self, enclosure_id: str, bars: list[str]) -> tuple[bool | None, list[str]]:
        """Whether bars that gear may part are one (None: not known), and which these are."""
        passing = self.passing.get(enclosure_id)
        if passing is not None and passing.source.neutral_path != "passes":
            made = None if passing.source.neutral_path is None else False
            return made, [bar for bar in bars if bar in passing.input_bars]
        gears = self.things.transfers_in.get(enclosure_id, [])
        transformers = self.things.transformers_in.get(enclosure_id, [])
        if not gears and not transformers:
            return True, []
        switched = [throw.neutral_part for gear in gears for throw in self.things.throws_of.get(gear.id, [])]
        if not all(shares_windings(self.things, item) for item in transformers):
            return False, [bar for bar in bars if bar != secondary_bar(self.things, transformers[0])]
        answers = [gear.switches_neutral for gear in gears if gear.lines_only is not True]
        parted = [bar for bar in bars if bar in switched]
        if any(answers):
            return False, parted
        return (None if None in answers else True), parted

    def frames(self) -> Iterator[Edge]:
        """A source in a box has its frame on the metal of the box, and its neutral on the neutral of the box."""
        for source in self.things.document.sources:
            if source.enclosure_id not in self.things.enclosures:
                continue
            metal = Node(str(source.enclosure_id), METAL)
            yield Edge("frame", "sources", source.id, Node(source.id, METAL), metal)
            if source.output in (None, "with_neutral"):
                passing = self.passing.get(str(source.enclosure_id))
                inputs = passing.input_bars if passing is not None else frozenset()
                bars = [bar for bar in self.things.bars_in.get(str(source.enclosure_id), []) if bar.id not in inputs]
                bar = next((bar.id for bar in bars if bar.kind == "neutral"), str(source.enclosure_id))
                yield Edge("frame", "sources", source.id, Node(source.id, NEUTRAL), Node(bar, NEUTRAL))

    def bonds_and_metal(self) -> Iterator[Edge]:
        for bar in self.things.document.bars:
            if bar.enclosure_id in self.things.enclosures:
                touching = None if bar.insulated is None else not bar.insulated
                made = True if touching is None and bar.kind == "ground" else touching
                yield Edge("bar_on_metal", "bars", bar.id, self.bars[bar.id], self.metal[bar.enclosure_id], made)
        throws = {item.id for item in self.things.document.throws}
        known = self.things.owners.keys() | throws if throws else self.things.owners.keys()
        for source in self.things.document.sources:
            if source.enclosure_id in self.things.enclosures and source.relay in RELAYS_THAT_JOIN:
                neutral, metal = Node(source.id, NEUTRAL), Node(str(source.enclosure_id), METAL)
                yield Edge("bond", "sources", source.id, neutral, metal, True)
        for bond in self.things.document.bonds:
            if bond.part_a in known and bond.part_b in known:
                yield Edge("bond", "bonds", bond.id, self._part(bond.part_a), self._part(bond.part_b), bond.made)
        for path in self.things.document.metal_paths:
            ends = [
                Node(end, METAL) if end else Node(f"{path.id} {OUTSIDE}", METAL) for end in (path.end_a, path.end_b)
            ]
            yield Edge("metal_path", "metal_paths", path.id, ends[0], ends[1], path.continuous)
        for electrode in self.things.document.electrodes:
            if electrode.connects_to in self.things.owners:
                yield Edge(
                    "electrode", "electrodes", electrode.id, self._part(electrode.connects_to), Node(EARTH, EARTH)
                )

    def _metal(self, owner: str) -> Node:
        return self.metal.get(owner) or Node(owner, METAL)

    def _part(self, part: str) -> Node:
        """A bar by its own pole, a box by its metal, anything else by its neutral."""
        return self.bars.get(part) or self.metal.get(part) or Node(part, NEUTRAL)

    def _bar(self, part: str, pole: str) -> Node:
        """A bar by its own pole; what lands on a box or on a source's terminals stays what it is."""
        return self.bars.get(part) or Node(part, pole)
