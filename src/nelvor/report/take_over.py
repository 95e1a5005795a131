"""Taking over circuits: those of one panel into another, each to its new place, told before anything is taken apart."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from typing import Any

from nelvor.additions.draft import bar_of
from nelvor.additions.moved_circuit import NewHome, moved_circuit
from nelvor.errors import CannotCompute, NotFound
from nelvor.judges.panelboard import PlacedCircuit, ScheduleAnswer
from nelvor.judges.panelboard.standing import name_in
from nelvor.model.changes.ids import FreeIds
from nelvor.model.changes.operations import Operation, apply
from nelvor.report.carried_alone import CarriedAloneOut, carried_alone
from nelvor.report.check import Checked, Report
from nelvor.report.sent import Wire
from nelvor.spaces.bus_spaces import Spot, free_spots, spots_from

NOT_CHOSEN = "Not chosen."


class TakenOver(Wire):
    """One circuit: where it stands now and where it goes; ``note`` says what is to be seen to, or why it stays."""

    device_id: str
    name: str
    from_space: int
    to_space: int | None
    note: str


class TakeOverOut(Wire):
    """The circuits of a panel with their new places, and the operations that carry it out.

    ``carried`` tells, where a supply of one's own comes in ahead of the new panel, what it then carries alone.
    """

    circuits: list[TakenOver]
    operations: list[Operation]
    carried: CarriedAloneOut | None = None


def weighed_take_over(
    document: dict[str, Any],
    checked: Checked,
    from_bus: str,
    to_bus: str,
    distance_ft: float | None = None,
    chosen: Collection[str] | None = None,
) -> TakeOverOut:
    """Return what ``take_over`` does, tried out: what a supply of one's own then carries alone.

    Raises:
        NotFound, CannotCompute: as ``take_over``.
    """
    before = checked(document)
    told = take_over(before, from_bus, to_bus, distance_ft, chosen)
    after = checked(apply(document, told.operations)) if told.operations else before
    carried = carried_alone(before, after, before.site.buses[to_bus].enclosure_id)
    return told.model_copy(update={"carried": carried})


def take_over(
    report: Report,
    from_bus: str,
    to_bus: str,
    distance_ft: float | None = None,
    chosen: Collection[str] | None = None,
) -> TakeOverOut:
    """Return the new places of the circuits of one bus on another, in the proposed state.

    Each keeps its number where that is free; circuits that share a neutral go or stay together. ``distance_ft`` is the way
    that every cable has to reach further; of ``chosen`` circuits, by the ids of their devices, only these go.

    Raises:
        NotFound: a bus is not there, or nothing of its spaces is told.
        CannotCompute: both are the same, or the new bus has no number of spaces.
    """
    old, new = (report.schedules.get(bus_id) for bus_id in (from_bus, to_bus))
    if old is None or new is None:
        raise NotFound("The spaces of this panel are not entered.")
    if from_bus == to_bus:
        raise CannotCompute("It is the same panel.", "Choose another one to take its circuits over.")
    if new.bus.spaces is None:
        raise CannotCompute("The number of spaces of the new panel is not known.", "Enter it on its sheet.")
    moving = _Moving(report, new, distance_ft)
    for group in circuits_together(report, old):
        if chosen is None or any(circuit.device.id in chosen for circuit in group):
            moving.take(group)
        else:
            moving.leave(group)
    return TakeOverOut(circuits=sorted(moving.told, key=lambda item: item.from_space), operations=moving.operations)


def circuits_together(report: Report, old: ScheduleAnswer) -> list[list[PlacedCircuit]]:
    """Return the circuits of a panel one by one, those that share a neutral together, in the order of their spaces."""
    by_word: dict[str, list[PlacedCircuit]] = {}
    for circuit in old.circuits:
        if circuit.device.role in ("branch", "feeder", "source") and circuit.device.space is not None:
            words = {item.shared_neutral for item in report.site.circuits_of.get(circuit.device.id, [])} - {""}
            by_word.setdefault(next(iter(sorted(words)), f"alone {circuit.device.id}"), []).append(circuit)
    return list(by_word.values())


@dataclass
class _Moving:
    report: Report
    new: ScheduleAnswer
    distance_ft: float | None
    taken: list[Spot] = field(default_factory=list)
    told: list[TakenOver] = field(default_factory=list)
    operations: list[Operation] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.taken = [spot for circuit in self.new.circuits for spot in circuit.spots]
        self.ids: FreeIds = self.report.site.free_ids()
        site, bus = self.report.site, self.new.bus
        neutral, ground = (bar_of(site, bus.enclosure_id, kind) for kind in ("neutral", "ground"))
        series = site.enclosures[bus.enclosure_id].series
        alone = any(gear.lines_only for gear in site.transfers_in.get(bus.enclosure_id, []))
        self.home = NewHome(bus.enclosure_id, bus.id, neutral, ground or bus.enclosure_id, series, alone)

    def take(self, group: Sequence[PlacedCircuit]) -> None:
        """Give a group its places, one below the other, and tell them; where there is no room, why it stays."""
        if any(circuit.device.role != "branch" for circuit in group):
            self._tell(group, [None] * len(group), "Its run is moved on its own sheet.")
            return
        poles = sum(circuit.device.poles for circuit in group)
        start = self._start(poles, group[0].device.space or 1)
        if start is None:
            words = "No space is free for it." if poles == 1 else f"No {poles} spaces are free one below the other."
            self._tell(group, [None] * len(group), f"{words} It stays.")
            return
        spots = spots_from(self.new.bus, poles, start)
        self.taken += spots
        places, at = [], 0
        for circuit in group:
            places.append(spots[at].space)
            at += circuit.device.poles
        for circuit, space in zip(group, places, strict=True):
            self._move(circuit, space)
        self._tell(group, places, "")

    def leave(self, group: Sequence[PlacedCircuit]) -> None:
        """Tell of circuits that are not to move."""
        self._tell(group, [None] * len(group), NOT_CHOSEN)

    def _start(self, poles: int, wanted: int) -> Spot | None:
        free = free_spots(self.new.bus, self.taken, half=False)
        for start in sorted(free, key=lambda spot: (spot.space != wanted, spot.space)):
            spots = spots_from(self.new.bus, poles, start)
            if len(spots) == poles and not any(spot.overlaps(other) for spot in spots for other in self.taken):
                return start
        return None

    def _tell(self, group: Sequence[PlacedCircuit], places: Sequence[int | None], note: str) -> None:
        for circuit, space in zip(group, places, strict=True):
            self.told.append(
                TakenOver(
                    device_id=circuit.device.id,
                    name=name_in(self.report.site, circuit.device),
                    from_space=circuit.device.space or 0,
                    to_space=space,
                    note=note or self._cable(circuit),
                )
            )

    def _cable(self, circuit: PlacedCircuit) -> str:
        """Whether the cable reaches the new place."""
        wires = self.report.site.circuits_of.get(circuit.device.id, [])
        if self.distance_ft is None:
            return ""
        reach = next((item.reach_ft for item in wires), None)
        if reach is None:
            return f"Measure whether its cable reaches {self.distance_ft:g} ft further."
        if reach < self.distance_ft:
            short = self.distance_ft - reach
            return f"Its cable is {short:g} ft too short: splice it in a box that stays open to reach, or run it anew."
        return ""

    def _move(self, circuit: PlacedCircuit, space: int) -> None:
        """A breaker of the new panel's own takes its place; wires and loads go over, the old breaker comes out."""
        self.operations += moved_circuit(self.report.site, self.ids, circuit.device, self.home, space)
