"""The network of a site: what joins what, terminal by terminal and pole by pole. Built once from a resolved document.

A node is a part, a pole of it (a leg, ``neutral``, ``ground``, ``metal`` or ``earth``) and a side where it has two.
An edge is a conductor, a pole of a device or of transfer gear (or of a source that opens its input), a winding (of its own, or shared by both sides of an autotransformer), a stretch of bus, a bond, the tie between
neutral bars of one box, the frame of a source in its box, a metal path or an electrode; each names its thing. Loads join
nothing that a decision rests on: the study places them, by their kind and the voltage there.
Nothing here says which edges are closed: that is a scenario's.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Container, Hashable, Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import Literal, NamedTuple

from nelvor.model.things import CircuitSwitch, Device, Lugs, Run, Transformer
from nelvor.model.voltages import LEGS
from nelvor.spaces.bus_spaces import legs_of_device
from nelvor.topology.look_ups import LookUps
from nelvor.topology.passing import passing_sources

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
METAL_RACEWAYS = frozenset({"emt", "rmc", "imc", "fmc", "lfmc"})
RELAYS_THAT_JOIN = frozenset({"closes_when_islanded", "always_closed"})
POLE_OF_ROLE = {"neutral": NEUTRAL, "ground": METAL}


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


def network_of(things: LookUps) -> Network:
    """Return the network of a site."""
    return Network(tuple(_Builder(things).edges()))


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


class _Builder:
    """Walks the lists once and yields the edges of each thing."""

    def __init__(self, things: LookUps) -> None:
        self.things = things
        self.poles = _poles(things)
        self.separate = {
            *(item.load_part for item in things.document.transfers),
            *(item.part for item in things.document.throws),
            *(end for item in things.document.transformers for end in (item.primary_part, item.secondary_part)),
            *(run.to_part for run in things.drawn_runs if run.id in things.leads),
        }
        self.in_line = _in_line(things)
        self.passing = passing_sources(things)
        self.bus_fed_by = {bus.fed_by: bus.id for bus in reversed(things.document.buses)}

    def edges(self) -> Iterator[Edge]:
        yield from self._runs()
        yield from self._inside_enclosures()
        yield from self._switches()
        yield from self._windings()
        yield from self._neutral_ties()
        yield from self._frames()
        yield from self._grounding()

    # -- lines ---------------------------------------------------------------------------------

    def _runs(self) -> Iterator[Edge]:
        for run in self.things.drawn_runs:
            start, end = self._side(run.from_part, LOAD), self._side(run.to_part, LINE)
            for leg in self._legs(run):
                yield Edge("conductor", "runs", run.id, Node(run.from_part, leg, start), Node(run.to_part, leg, end))
            for conductor in self.things.conductors_of.get(run.id, []):
                pole = POLE_OF_ROLE.get(conductor.role)
                if pole is not None:
                    ends = (self._bar(conductor.from_part, pole), self._bar(conductor.to_part, pole))
                    yield Edge("conductor", "conductors", conductor.id, *ends)
            if run.ground_by_raceway or run.method in METAL_RACEWAYS:
                start_box, end_box = self.things.upstream_of(run), self.things.downstream_of(run)
                yield Edge("raceway", "runs", run.id, Node(start_box, METAL), Node(end_box, METAL))

    def _legs(self, run: Run) -> list[str]:
        own: list[str] = [item.role for item in self.things.conductors_of.get(run.id, []) if item.role in LEGS]
        return own or list(self.poles[self.things.upstream_of(run)])

    def _side(self, part: str, side: str) -> str:
        """The side of a part that a run ends on: both sides of a device in line, else the side away from the bus."""
        device = self.things.devices.get(part)
        if device is None:
            return ""
        return side if device.id in self.in_line else _outer_side(device)

    def _bar(self, part: str, pole: str) -> Node:
        """A bar or box by its own pole; a neutral that lands on a source's terminals stays a neutral."""
        bar = self.things.bars.get(part)
        if bar is not None:
            return Node(part, NEUTRAL if bar.kind == "neutral" else METAL)
        if part in self.things.enclosures:
            return Node(part, METAL if pole == METAL else NEUTRAL)
        return Node(part, pole)

    def _inside_enclosures(self) -> Iterator[Edge]:
        for enclosure_id in self.things.enclosures:
            buses = self.things.buses_in.get(enclosure_id, [])
            meeting = buses[0].id if len(buses) == 1 else enclosure_id
            commons = [(pole, Node(meeting, pole)) for pole in self.poles[enclosure_id]]
            if len(buses) > 1:
                for bus in buses:
                    if bus.fed_by is None:
                        yield from (Edge("bus", "buses", bus.id, Node(bus.id, pole), node) for pole, node in commons)
            for lugs in self.things.lugs_in.get(enclosure_id, []):
                if lugs.id not in self.separate:
                    yield from self._lugs(lugs, commons)
            for source in self.things.sources_in.get(enclosure_id, []):
                for pole, common in commons:
                    yield Edge("bus", "sources", source.id, Node(source.id, pole), common)
            for device in self.things.devices_in.get(enclosure_id, []):
                yield from self._device(device, commons)

    def _lugs(self, lugs: Lugs, commons: list[tuple[str, Node]]) -> Iterator[Edge]:
        opener = self._opener(lugs.enclosure_id, lugs.id)
        for pole, common in commons:
            yield _opened_by(opener, Edge("bus", "lugs", lugs.id, Node(lugs.id, pole), self._bus(lugs.bus_id, common)))

    def _moved_circuit(self, device: Device, pole: str, switches: list[CircuitSwitch]) -> Iterator[Edge]:
        """A circuit that gear moves: leads from its breaker to a switch, and from there back to where the circuit began."""
        begins, goes_on = Node(device.id, pole, LEADS), Node(device.id, pole, LOAD)
        switch = self._switch_of_pole(device, switches).get(pole)
        if switch is None:
            yield Edge("bus", "devices", device.id, begins, goes_on)
            return
        line, load = Node(switch.id, pole, LINE), Node(switch.id, pole, LOAD)
        yield Edge("bus", "circuit_switches", switch.id, begins, line)
        yield Edge("bus", "circuit_switches", switch.id, load, goes_on)
        for throw in self.things.throws_of.get(switch.transfer_id, []):
            stays = throw.part in self.things.buses  # the circuit's breaker is on it
            yield Edge(
                "switch", "throws", throw.id, line if stays else self._terminal(throw.part, switch.leg or pole), load
            )

    def _switch_of_pole(self, device: Device, switches: list[CircuitSwitch]) -> dict[str, CircuitSwitch]:
        """Which switch moves which pole: that of the same leg, others in their order; one moves a single pole wherever it is."""
        bus, poles = self.things.buses.get(device.bus_id or ""), self.poles[device.enclosure_id]
        legs = (legs_of_device(bus, device, bus.legs or poles) if bus is not None else ()) or poles
        if device.poles == 1:
            return dict.fromkeys(legs, switches[0])
        found = {item.leg: item for item in switches if item.leg in legs}
        left = [item for item in switches if item not in found.values()]
        return {leg: item for leg, item in [*found.items(), *zip(_without(legs, found), left, strict=False)] if leg}

    def _bus(self, bus_id: str | None, common: Node) -> Node:
        elsewhere = bus_id != common.part and bus_id in self.things.buses
        return Node(bus_id, common.pole) if bus_id is not None and elsewhere else common

    def _device(self, device: Device, commons: list[tuple[str, Node]]) -> Iterator[Edge]:
        device_id, switches = device.id, self.things.switches_of_device.get(device.id, [])
        away, is_main = LEADS if switches else LOAD, device.role == "main"
        separate, opener = device_id in self.separate, self._opener(device.enclosure_id, device_id)
        bus_id = self.bus_fed_by.get(device_id) or device.bus_id
        for pole, common in commons:
            line, load = Node(device_id, pole, LINE), Node(device_id, pole, away)
            yield Edge("device", "devices", device_id, line, load)
            if switches:
                yield from self._moved_circuit(device, pole, switches)
            if not separate:
                inner = Node(device_id, pole, LOAD) if is_main else line
                yield _opened_by(opener, Edge("bus", "devices", device_id, inner, self._bus(bus_id, common)))

    def _opener(self, enclosure_id: str, part: str) -> str | None:
        """The source that opens what leads from its input, where power passes through one; None for all other parts."""
        passing = self.passing.get(enclosure_id)
        return passing.source.id if passing is not None and part in passing.inputs else None

    def _switches(self) -> Iterator[Edge]:
        for throw in self.things.document.throws:
            transfer = self.things.transfers.get(throw.transfer_id)
            if transfer is None or transfer.enclosure_id not in self.things.enclosures:
                continue
            if transfer.id in self.things.circuit_switches_of:
                continue  # it moves circuits one by one, each at its breaker
            for pole in self.poles[transfer.enclosure_id]:
                ends = (self._terminal(throw.part, pole), self._terminal(transfer.load_part, pole))
                yield Edge("switch", "throws", throw.id, *ends)
            if throw.neutral_part is not None and transfer.switches_neutral:
                joined = Node(transfer.id, NEUTRAL)
                yield Edge("switch", "throws", throw.id, self._bar(throw.neutral_part, NEUTRAL), joined)

    def _neutral_ties(self) -> Iterator[Edge]:
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
        switched = [throw.neutral_part for gear in gears for throw in self.things.throws_of.get(gear.id, [])]
        transformers = self.things.transformers_in.get(enclosure_id, [])
        if not all(shares_windings(self.things, item) for item in transformers):
            return False, [bar for bar in bars if bar != secondary_bar(self.things, transformers[0])]
        answers = [gear.switches_neutral for gear in gears if gear.lines_only is not True]
        parted = [bar for bar in bars if bar in switched]
        if any(answers):
            return False, parted
        return (None if None in answers else True), parted

    def _frames(self) -> Iterator[Edge]:
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

    def _terminal(self, part: str, pole: str) -> Node:
        """The inner side of a terminal of transfer gear or a transformer; runs end on the outer one."""
        device = self.things.devices.get(part)
        if device is None:
            return Node(part, pole)
        if device.id in self.in_line:
            return Node(part, pole, LOAD)
        return Node(part, pole, LOAD if _outer_side(device) == LINE else LINE)

    def _windings(self) -> Iterator[Edge]:
        for transformer in self.things.document.transformers:
            if transformer.enclosure_id in self.things.enclosures and not forms_neutral(self.things, transformer):
                kind: EdgeKind = "shared_winding" if transformer.isolating is False else "winding"
                for pole in self.poles[transformer.enclosure_id]:
                    primary = self._terminal(transformer.primary_part, pole)
                    secondary = self._terminal(transformer.secondary_part, pole)
                    yield Edge(kind, "transformers", transformer.id, primary, secondary)

    # -- neutral, metal and earth --------------------------------------------------------------

    def _grounding(self) -> Iterator[Edge]:
        for bar in self.things.document.bars:
            if bar.enclosure_id in self.things.enclosures:
                touching = None if bar.insulated is None else not bar.insulated
                made = True if touching is None and bar.kind == "ground" else touching
                yield Edge("bar_on_metal", "bars", bar.id, self._part(bar.id), Node(bar.enclosure_id, METAL), made)
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

    def _part(self, part: str) -> Node:
        bar = self.things.bars.get(part)
        if bar is not None:
            return Node(part, NEUTRAL if bar.kind == "neutral" else METAL)
        return Node(part, METAL if part in self.things.enclosures else NEUTRAL)


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


def _without(legs: Iterable[str], taken: Container[str | None]) -> list[str]:
    return [leg for leg in legs if leg not in taken]


def _opened_by(source_id: str | None, edge: Edge) -> Edge:
    return edge if source_id is None else Edge("switch", "sources", source_id, edge.a, edge.b)


def _outer_side(device: Device) -> str:
    """The side of a device that is away from its bus: the line side of a main, the load side of all others."""
    return LINE if device.role == "main" else LOAD


def _in_line(things: LookUps) -> frozenset[str]:
    """Devices that a run ends at and another leaves, with no bus between: the current goes straight through."""
    leaving = {run.from_part for run in things.drawn_runs}
    arriving = {run.to_part for run in things.drawn_runs}
    return frozenset(part for part in leaving & arriving if part in things.devices)


def _poles(things: LookUps) -> dict[str, tuple[str, ...]]:
    """The legs that a box may have: those of the conductors that end there; two where none are drawn."""
    found: dict[str, set[str]] = defaultdict(set)
    for run in things.drawn_runs:
        for conductor in things.conductors_of.get(run.id, []):
            if conductor.role in LEGS:
                found[things.upstream_of(run)].add(conductor.role)
                found[things.downstream_of(run)].add(conductor.role)
    owners = {*things.enclosures, *(things.owners[source] for source in things.sources)}
    return {owner: tuple(sorted(found.get(owner) or LEGS[:2])) for owner in owners}
