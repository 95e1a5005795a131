"""The schedule of a panel as it is drawn, listed and printed: its spaces, what stands in them, and its legs."""

from __future__ import annotations

from nelvor.errors import NotFound
from nelvor.judges.appliance_frames import WITH_OLD_FRAMES
from nelvor.judges.panelboard import PlacedCircuit, ScheduleAnswer
from nelvor.judges.run.torques import torque_of
from nelvor.judges.source_currents import currents_along
from nelvor.model.things import Bus, Device
from nelvor.report.check import Report
from nelvor.report.sent import FigureOut, Wire
from nelvor.spaces.bus_spaces import columns_of, following, leg_of_space, position_of, takes_halves
from nelvor.topology.names import name_of
from nelvor.working import Recorder


class SpaceOut(Wire):
    """One space: where it is drawn, its leg, the space that follows on its side, whether half-size breakers fit."""

    number: int
    column: int
    row: int
    leg: str | None
    next: int | None
    halves: bool


class SpotOut(Wire):
    space: int
    half: str | None


class CircuitOut(Wire):
    """One device of the bus: its spots, the leg and amperes of each pole, what it serves, and the wire it has.

    ``state`` is existing, added or removed; ``gap`` says why its load is not known, where some is entered. ``frames`` are
    the loads on it whose frame an old circuit may have on its neutral, ``switches`` those of a box that move it to a standby supply.
    """

    device_id: str
    name: str
    role: str
    state: str
    poles: int
    rating_a: float | None
    spots: list[SpotOut]
    legs: list[str]
    poles_a: list[str]
    loads: list[str]
    frames: list[str]
    wire: str
    torque: str
    switches: list[str]
    gap: str

    @property
    def on_the_door(self) -> str:
        """What a directory says of it: its name, and the switches that move it."""
        switches = f" ({'/'.join(self.switches)})" if self.switches else ""
        return f"{self.name or '–'}{switches}"


class ScheduleOut(Wire):
    """The schedule of one bus. ``rows`` are counted from the top as it hangs; ``without_circuit`` names the loads of
    the panel that no circuit carries; ``along_bus`` is the worst current below each row, where sources push in."""

    bus_id: str
    enclosure_id: str
    name: str
    numbering: str
    columns: int
    rows: int
    legs: list[str]
    spaces: list[SpaceOut]
    circuits: list[CircuitOut]
    amperes: dict[str, FigureOut]
    without_circuit: list[str]
    free_spaces: int
    along_bus: list[float]


def schedule_out(report: Report, answer: ScheduleAnswer, figures: dict[str, FigureOut]) -> ScheduleOut:
    """Return the schedule of one bus."""
    site, bus = report.site, answer.bus
    spaces = _spaces(bus, answer)
    rows = max((space.row for space in spaces), default=-1) + 1
    if bus.numbering == "inverted":
        spaces = [_turned(space, rows, columns_of(bus)) for space in spaces]
    taken = {spot.space for circuit in answer.circuits for spot in circuit.spots}
    loads = site.loads_in.get(bus.enclosure_id, [])
    placed = {circuit.device.id for circuit in answer.circuits}
    return ScheduleOut(
        bus_id=bus.id,
        enclosure_id=bus.enclosure_id,
        name=bus.name or name_of(site, bus.enclosure_id),
        numbering=bus.numbering or "odd_even",
        columns=columns_of(bus),
        rows=rows,
        legs=list(answer.legs),
        spaces=spaces,
        circuits=[_circuit(report, circuit) for circuit in answer.circuits],
        amperes=figures,
        without_circuit=[load.id for load in loads if load.device_id not in placed],
        free_spaces=sum(space.number not in taken for space in spaces),
        along_bus=_along_bus(report, bus),
    )


def _along_bus(report: Report, bus: Bus) -> list[float]:
    figure = report.panels[bus.enclosure_id].figures.get("protection")
    return [float(value) for value in currents_along(report.site, bus, figure.number)] if figure else []


def panel_named(report: Report, name: str) -> ScheduleAnswer:
    """Return the schedule of the panel of a name, or of the id of the panel or its bus.

    Raises:
        NotFound: there is none, or several are called so.
    """
    names = {bus_id: name_of(report.site, answer.bus.enclosure_id) for bus_id, answer in report.schedules.items()}
    found = [
        answer
        for bus_id, answer in report.schedules.items()
        if name in (bus_id, answer.bus.enclosure_id, names[bus_id])
    ]
    if len(found) != 1:
        what = "Several panels are called" if found else "There is no panel"
        raise NotFound(f"{what} {name[:60]!r}. With spaces entered: {', '.join(names.values()) or 'none'}.")
    return found[0]


def _spaces(bus: Bus, answer: ScheduleAnswer) -> list[SpaceOut]:
    last = max((spot.space for circuit in answer.circuits for spot in circuit.spots), default=0)
    number = bus.spaces or last
    found = []
    for space in range(1, number + 1):
        position = position_of(bus, space)
        if position is None:
            continue
        following_space = following(bus, space)
        found.append(
            SpaceOut(
                number=space,
                column=position.column,
                row=position.row,
                leg=leg_of_space(bus, space, answer.legs),
                next=following_space,
                halves=bool(takes_halves(bus, space)),
            )
        )
    return found


def _turned(space: SpaceOut, rows: int, columns: int) -> SpaceOut:
    """A panel that hangs upside down: its first space is at the bottom, on the other side."""
    return space.model_copy(update={"row": rows - 1 - space.row, "column": columns - 1 - space.column})


def _circuit(report: Report, circuit: PlacedCircuit) -> CircuitOut:
    device, site = circuit.device, report.site
    leads = [run for run in site.runs_from.get(device.enclosure_id, []) if run.from_part == device.id]
    name = device.name or (f"to {name_of(site, site.downstream_of(leads[0]))}" if leads else "")
    wires = site.circuits_of.get(device.id, [])
    sizes = [f"{wire.wire_size} {wire.insulation or ''}".strip() for wire in wires if wire.wire_size]
    return CircuitOut(
        device_id=device.id,
        name=name,
        role=device.role,
        state=device.standing,
        poles=device.poles,
        rating_a=device.rating_a,
        spots=[SpotOut(space=spot.space, half=spot.half) for spot in circuit.spots],
        legs=list(circuit.legs),
        poles_a=[f"{float(amperes):.1f}".removesuffix(".0") for amperes in circuit.poles_a()],
        loads=[load.id for load in circuit.loads],
        frames=[load.id for load in circuit.loads if load.category in WITH_OLD_FRAMES],
        wire=", ".join(sizes),
        torque=torque_at(report, device),
        switches=[item.name or item.id for item in site.switches_of_device.get(device.id, [])],
        gap=f"{circuit.gap.reason} {circuit.gap.remedy}" if circuit.gap else "",
    )


def torque_at(report: Report, device: Device) -> str:
    """Return what is told of the torque of a breaker on the wires of its circuit; "" where nothing is entered."""
    if device.torque_lb_in is None and device.screw is None:
        return ""
    wires = report.site.circuits_of.get(device.id, [])
    size = next((wire.wire_size for wire in wires if wire.wire_size), None)
    return torque_of(Recorder(report.rules), device, size)[0]
