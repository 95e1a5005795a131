"""The edges of the lines: conductors of the legs, poles of devices and gear, windings and what lies within a box."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Container, Iterable, Iterator

from nelvor.model.things import CircuitSwitch, Device, Lugs, Run
from nelvor.model.voltages import LEGS
from nelvor.spaces.bus_spaces import legs_of_device
from nelvor.topology.look_ups import LookUps
from nelvor.topology.network import LEADS, LINE, LOAD, Edge, EdgeKind, Node, forms_neutral, whole_throws
from nelvor.topology.passing import passing_sources


def line_edges(things: LookUps) -> Iterator[Edge]:
    """Yield the edges between the lines of a site, thing by thing."""
    lines = _Lines(things)
    yield from lines.runs()
    yield from lines.inside_enclosures()
    yield from lines.switches()
    yield from lines.windings()


class _Lines:
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

    def runs(self) -> Iterator[Edge]:
        for run in self.things.drawn_runs:
            start, end = self._side(run.from_part, LOAD), self._side(run.to_part, LINE)
            for leg in self._legs(run):
                yield Edge("conductor", "runs", run.id, Node(run.from_part, leg, start), Node(run.to_part, leg, end))

    def _legs(self, run: Run) -> list[str]:
        own: list[str] = [item.role for item in self.things.conductors_of.get(run.id, []) if item.role in LEGS]
        return own or list(self.poles[self.things.upstream_of(run)])

    def _side(self, part: str, side: str) -> str:
        """The side of a part that a run ends on: both sides of a device in line, else the side away from the bus."""
        device = self.things.devices.get(part)
        if device is None:
            return ""
        return side if device.id in self.in_line else _outer_side(device)

    def inside_enclosures(self) -> Iterator[Edge]:
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

    def switches(self) -> Iterator[Edge]:
        for throw, transfer in whole_throws(self.things):
            for pole in self.poles[transfer.enclosure_id]:
                ends = (self._terminal(throw.part, pole), self._terminal(transfer.load_part, pole))
                yield Edge("switch", "throws", throw.id, *ends)

    def _terminal(self, part: str, pole: str) -> Node:
        """The inner side of a terminal of transfer gear or a transformer; runs end on the outer one."""
        device = self.things.devices.get(part)
        if device is None:
            return Node(part, pole)
        if device.id in self.in_line:
            return Node(part, pole, LOAD)
        return Node(part, pole, LOAD if _outer_side(device) == LINE else LINE)

    def windings(self) -> Iterator[Edge]:
        for transformer in self.things.document.transformers:
            if transformer.enclosure_id in self.things.enclosures and not forms_neutral(self.things, transformer):
                kind: EdgeKind = "shared_winding" if transformer.isolating is False else "winding"
                for pole in self.poles[transformer.enclosure_id]:
                    primary = self._terminal(transformer.primary_part, pole)
                    secondary = self._terminal(transformer.secondary_part, pole)
                    yield Edge(kind, "transformers", transformer.id, primary, secondary)


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
