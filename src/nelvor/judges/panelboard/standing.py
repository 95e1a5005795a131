"""What cannot stand as it is drawn: two breakers in one space, a pole off the bus, half size where it is not allowed."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations

from nelvor.judges.panelboard.placed import PlacedCircuit
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Bus, Device
from nelvor.spaces.bus_spaces import Spot, free_spots, spots_from, takes_halves
from nelvor.topology.names import thing_name
from nelvor.topology.site import Site


def judge_spaces(site: Site, judge: Judge, bus: Bus, circuits: Sequence[PlacedCircuit]) -> None:
    """Judge the place of every device of a bus."""
    _clashes(site, judge, bus, circuits)
    for circuit in circuits:
        if circuit.device.space is not None:
            _on_the_bus(site, judge, bus, circuit, circuits)
            _half_size(site, judge, bus, circuit)


def _clashes(site: Site, judge: Judge, bus: Bus, circuits: Sequence[PlacedCircuit]) -> None:
    by_space: dict[int, list[tuple[PlacedCircuit, Spot]]] = {}
    for circuit in circuits:
        for spot in circuit.spots:
            by_space.setdefault(spot.space, []).append((circuit, spot))
    told = set()
    for space, there in by_space.items():
        for (first, a), (second, b) in combinations(there, 2):
            pair = (first.device.id, second.device.id)
            if pair in told or not a.overlaps(b):
                continue
            told.add(pair)
            names = f"{name_in(site, first.device)} and {name_in(site, second.device)}"
            judge.about("devices", second.device.id).must_fix(
                "space_taken",
                f"{names} stand in the same space {space}.",
                "",
                "space",
                _moved(site, bus, second.device, circuits),
            )


def _on_the_bus(site: Site, judge: Judge, bus: Bus, circuit: PlacedCircuit, circuits: Sequence[PlacedCircuit]) -> None:
    device, legs = circuit.device, site.legs_of_bus(bus)
    about, name = judge.about("devices", device.id), name_in(site, device)
    if bus.numbering == "sequential" and bus.spaces is None:
        text = "Its spaces are numbered one below the other: the leg of a space needs their number."
        judge.cannot_tell("spaces", text, "", "spaces")
    elif len(circuit.spots) < device.poles:
        text = f"{name} has {device.poles} poles; from space {device.space} on, the bus does not go on for them all."
        about.must_fix("space_off_bus", text, "", "space", _moved(site, bus, device, circuits))
    elif device.poles > len(legs) > 0:
        text = f"{name} has {device.poles} poles, and the bus has {len(legs)} legs: two of them would be on one leg."
        about.must_fix("poles_on_bus", text, "panel_phase_arrangement", "poles")


def _half_size(site: Site, judge: Judge, bus: Bus, circuit: PlacedCircuit) -> None:
    device = circuit.device
    if device.half is None:
        return
    marked = [takes_halves(bus, spot.space) for spot in circuit.spots]
    about, name = judge.about("devices", device.id), name_in(site, device)
    if any(mark is False for mark in marked):
        text = f"{name} is of half size, and the panel is not marked for half-size breakers in space {device.space}."
        about.must_fix("half_size", text, "most_devices", "half")
    elif any(mark is None for mark in marked):
        text = f"{name} is of half size. Whether the panel is marked for such breakers is not known: read its label."
        judge.cannot_tell("half_size", text, "most_devices", "half_size_spaces")


def _moved(site: Site, bus: Bus, device: Device, circuits: Sequence[PlacedCircuit]) -> Mend | None:
    """Into the first place where all its poles fit and nothing stands."""
    others = [spot for item in circuits if item.device.id != device.id for spot in item.spots]
    for start in free_spots(bus, others, device.half is not None):
        spots = spots_from(bus, device.poles, start)
        if len(spots) == device.poles and not any(spot.overlaps(other) for spot in spots for other in others):
            change = f"{name_in(site, device)}: from space {device.space} to space {start.space}"
            values = {"space": start.space} | ({"half": start.half} if start.half != device.half else {})
            return Mend(change, proposing("devices", device, **values))
    return None


def name_in(site: Site, device: Device) -> str:
    """Return what a device of a panel is called: what the directory says of it, or where it stands."""
    if device.name:
        return device.name
    return f"Breaker in space {device.space}" if device.space is not None else thing_name(site, device.id)
