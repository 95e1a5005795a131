"""Which circuits of a panel a box of switches moves: each chosen one on free switches, the lines of the set kept even.

A circuit of several poles, and circuits that share a neutral, take switches side by side on lines that differ, their handles tied.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from fractions import Fraction
from typing import Any

from nelvor.errors import CannotCompute, NotFound
from nelvor.judges.circuit_switches import released
from nelvor.judges.panelboard import PlacedCircuit
from nelvor.judges.panelboard.standing import name_in
from nelvor.judges.verdict import proposing
from nelvor.model.changes.operations import Operation, apply
from nelvor.model.things import CircuitSwitch, Device
from nelvor.report.carried_alone import CarriedAloneOut, carried_alone
from nelvor.report.check import Checked, Report
from nelvor.report.sent import Wire
from nelvor.report.take_over import circuits_together
from nelvor.topology.site import Site

NO_ROOM = "No {count} free switches lie side by side on lines that differ."


class SwitchedCircuit(Wire):
    """One circuit of the panel and the switches that move it, none where it stays on its breaker; ``note`` says why."""

    device_id: str
    name: str
    space: int
    switches: list[str]
    note: str


class SwitchedOut(Wire):
    """The circuits of a panel with the switches of a box, the switches left free, and the operations that carry it out.

    ``carried`` tells what the standby supply then carries alone.
    """

    circuits: list[SwitchedCircuit]
    free: list[str]
    operations: list[Operation]
    carried: CarriedAloneOut | None = None


def weighed_switching(
    document: dict[str, Any], checked: Checked, transfer_id: str, chosen: Collection[str] | None = None
) -> SwitchedOut:
    """Return what ``switched_circuits`` does, tried out: what the standby supply then carries alone.

    Raises:
        NotFound, CannotCompute: as ``switched_circuits``.
    """
    before = checked(document)
    told = switched_circuits(before, transfer_id, chosen)
    after = checked(apply(document, told.operations)) if told.operations else before
    carried = carried_alone(before, after, before.site.transfers[transfer_id].enclosure_id)
    return told.model_copy(update={"carried": carried})


def switched_circuits(report: Report, transfer_id: str, chosen: Collection[str] | None = None) -> SwitchedOut:
    """Return the switches of the chosen circuits, by the ids of their devices, in the proposed state; None: as they are now.

    Circuits that share a neutral go or stay together.

    Raises:
        NotFound: there is no such gear with switches.
        CannotCompute: the panel whose breakers stay is not told, or nothing of its spaces.
    """
    site = report.site
    if transfer_id not in site.circuit_switches_of:
        raise NotFound("This box of switches is not part of the design.")
    stays = next((item.part for item in site.throws_of.get(transfer_id, []) if item.part in site.buses), None)
    schedule = report.schedules.get(stays or "")
    if schedule is None:
        raise CannotCompute("The spaces of the panel whose breakers stay are not entered.", "Enter them on its sheet.")
    choosing = _Choosing(site, transfer_id)
    groups = [group for group in circuits_together(report, schedule) if group[0].device.role == "branch"]
    wanted = choosing.given.keys() if chosen is None else set(chosen)
    goes = [any(item.device.id in wanted for item in group) for group in groups]
    for group, is_in in zip(groups, goes, strict=True):
        if not is_in:
            choosing.release(group)
    going = [group for group, is_in in zip(groups, goes, strict=True) if is_in]
    for group in sorted(going, key=_poles, reverse=True):  # those that need room side by side come first
        choosing.put(group)
    return SwitchedOut(
        circuits=[choosing.told(item) for item in _by_space(groups)],
        free=[item.name or item.id for item in choosing.free()],
        operations=choosing.operations,
    )


def _poles(group: Sequence[PlacedCircuit]) -> int:
    return sum(item.device.poles for item in group)


def _by_space(groups: Sequence[Sequence[PlacedCircuit]]) -> list[PlacedCircuit]:
    return sorted((item for group in groups for item in group), key=lambda item: item.device.space or 0)


class _Choosing:
    """Switches of one box, given to circuits one after another."""

    def __init__(self, site: Site, transfer_id: str) -> None:
        self.site = site
        self.switches = site.circuit_switches_of[transfer_id]
        self.given: dict[str, list[CircuitSwitch]] = {}
        self.notes: dict[str, str] = {}
        self.operations: list[Operation] = []
        self.amperes: dict[str, Fraction] = {}
        for switch in self.switches:
            if switch.device_id in site.devices:
                self.given.setdefault(str(switch.device_id), []).append(switch)

    def free(self) -> list[CircuitSwitch]:
        """Return the switches that move nothing."""
        taken = {item.id for switches in self.given.values() for item in switches}
        return [item for item in self.switches if item.id not in taken]

    def release(self, group: Sequence[PlacedCircuit]) -> None:
        """Leave circuits on their breakers."""
        for circuit in group:
            for switch in self.given.pop(circuit.device.id, []):
                self.operations += released(switch)

    def put(self, group: Sequence[PlacedCircuit]) -> None:
        """Let circuits be moved: by the switches that they have, where these suffice, else by others."""
        if any(len(self.given.get(item.device.id, [])) != item.device.poles for item in group):
            self.release(group)
            self._give(group)
        for circuit in group:
            for leg, amperes in zip(self._lines(circuit), circuit.poles_a(), strict=False):
                self.amperes[leg] = self.amperes.get(leg, Fraction(0)) + amperes

    def _lines(self, circuit: PlacedCircuit) -> list[str]:
        return [item.leg or "" for item in self.given.get(circuit.device.id, [])]

    def _give(self, group: Sequence[PlacedCircuit]) -> None:
        count = _poles(group)
        found = self._side_by_side(count) if count > 1 else self._least_loaded()
        if found is None:
            text = NO_ROOM.format(count=count) if count > 1 else "No switch is free for it."
            self.notes |= {item.device.id: f"{text} It stays." for item in group}
            return
        left = iter(found)
        for circuit in group:
            own = [next(left) for _ in range(circuit.device.poles)]
            self.given[circuit.device.id] = own
            for switch in own:
                self._set(switch, circuit.device, found[0])

    def _set(self, switch: CircuitSwitch, device: Device, first: CircuitSwitch) -> None:
        """Name the device, tie the handle to the first of its circuit, and take a breaker as large as that of the circuit in a new box."""
        tied_to = None if switch is first else first.id
        self.operations += proposing("circuit_switches", switch, device_id=device.id, tied_to=tied_to)
        if switch.standing == "added" and device.rating_a is not None:
            self.operations += proposing("circuit_switches", switch, rating_a=device.rating_a)

    def _least_loaded(self) -> list[CircuitSwitch] | None:
        free = self.free()
        return [min(free, key=lambda item: self.amperes.get(item.leg or "", 0))] if free else None

    def _side_by_side(self, count: int) -> list[CircuitSwitch] | None:
        free = {item.id for item in self.free()}
        for at in range(len(self.switches) - count + 1):
            row = self.switches[at : at + count]
            legs = {item.leg for item in row} - {None}
            if len(legs) == count and all(item.id in free for item in row):
                return row
        return None

    def told(self, circuit: PlacedCircuit) -> SwitchedCircuit:
        """Return what becomes of a circuit."""
        device = circuit.device
        return SwitchedCircuit(
            device_id=device.id,
            name=name_in(self.site, device),
            space=device.space or 0,
            switches=[item.name or item.id for item in self.given.get(device.id, [])],
            note=self.notes.get(device.id, ""),
        )
