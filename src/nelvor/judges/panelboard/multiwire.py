"""Multiwire circuits: one neutral between several lines, which must lie on different legs and open together (210.4)."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from itertools import pairwise

from nelvor.judges.panelboard.placed import PlacedCircuit
from nelvor.judges.panelboard.standing import name_in
from nelvor.judges.verdict import Judge, Mend, proposing, removing
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Bus
from nelvor.spaces.bus_spaces import following
from nelvor.topology.site import Site

LINE_TO_LINE = frozenset({"L1-L2", "L2-L3", "L1-L3", "even_line_to_line", "three_phase"})


def judge_multiwire(site: Site, judge: Judge, circuits: Sequence[PlacedCircuit]) -> None:
    """Judge each group of circuits that are told to share a neutral."""
    groups: dict[str, list[PlacedCircuit]] = defaultdict(list)
    for circuit in circuits:
        words = {item.shared_neutral for item in site.circuits_of.get(circuit.device.id, []) if item.shared_neutral}
        for word in words:
            groups[word].append(circuit)
    for _, members in sorted(groups.items()):
        if len(members) > 1:
            _several_devices(site, judge, members)
        elif members[0].device.poles > 1:  # one of a single pole: see multiwire_apart
            _one_device(site, judge, members[0])


def _several_devices(site: Site, judge: Judge, members: list[PlacedCircuit]) -> None:
    """Breakers without a tie between them: on different legs, and joined by a tie to open together."""
    names = " and ".join(name_in(site, item.device) for item in members)
    about = judge.about("devices", members[0].device.id)
    legs = [leg for item in members for leg in item.legs]
    if len(set(legs)) < len(legs):
        text = (
            f"{names} share a neutral and stand on the same leg {legs[0]}: the neutral carries the sum of their "
            "currents, and nothing protects it. Move one of them to another leg."
        )
        about.must_fix("multiwire_leg", text, "multiwire_one_neutral", "space")
    if not all(item.device.tie == "handle_tie" for item in members):
        text = (
            f"{names} share a neutral and are not tied: with one of them off, the neutral is still live through the "
            "other. Join them by a listed handle tie, or use one breaker of several poles."
        )
        about.must_fix("multiwire_tie", text, "multiwire_disconnect", "tie", _tied(site, members))
    elif len(set(legs)) == len(legs) > 1:
        about.holds("multiwire_tie", f"{names} share a neutral and open together.", "multiwire_disconnect")


def _one_device(site: Site, judge: Judge, circuit: PlacedCircuit) -> None:
    """Poles of one device open together; with loads between lines they must also trip together."""
    device = circuit.device
    between = [load for load in circuit.loads if _between_lines(site, circuit, load.id)]
    about, name = judge.about("devices", device.id), name_in(site, device)
    if not between or device.tie == "common_trip":
        about.holds("multiwire_tie", f"All lines of {name} open together.", "multiwire_disconnect")
    elif device.tie is None:
        text = f"{name} has loads between its lines. Whether it trips on all of them at once is not known: look at it."
        about.cannot_tell("multiwire_trip", text, "multiwire_line_to_line", "tie")
    else:
        text = f"{name} has loads between its lines and a tie that does not trip them all. Use a common-trip breaker."
        mend = Mend(f"{name}: a common-trip breaker", proposing("devices", device, tie="common_trip"))
        about.must_fix("multiwire_trip", text, "multiwire_line_to_line", "tie", mend)


def _between_lines(site: Site, circuit: PlacedCircuit, load_id: str) -> bool:
    load = next(item for item in circuit.loads if item.id == load_id)
    return load.three_phase or (load.connection or site.connection_of(load)) in LINE_TO_LINE


def _tied(site: Site, members: list[PlacedCircuit]) -> Mend | None:
    """Breakers of one pole that stand one below the other become one device with a handle tie."""
    first, *others = sorted(members, key=lambda item: item.spots)
    spaces = [item.device.space for item in (first, *others)]
    if any(item.device.poles != 1 or item.device.half or not item.spots for item in members):
        return None
    bus = site.buses.get(first.device.bus_id or "") or site.bus_of(first.device.enclosure_id)
    if bus is None or not _in_a_row(bus, [space for space in spaces if space is not None]):
        return None
    operations: list[Operation] = [*proposing("devices", first.device, poles=len(members), tie="handle_tie")]
    names = " and ".join(item.device.name for item in (first, *others) if item.device.name)
    operations += proposing("devices", first.device, name=names[:200])
    for other in others:
        for load in other.loads:
            operations += proposing("loads", load, device_id=first.device.id)
        for wires in site.circuits_of.get(other.device.id, []):  # even what comes out names no device that is gone
            operations += [*proposing("circuits", wires, device_id=first.device.id), removing("circuits", wires)]
        operations.append(removing("devices", other.device))
    return Mend(f"Join {names} by a handle tie", tuple(operations))


def _in_a_row(bus: Bus, spaces: list[int]) -> bool:
    return all(following(bus, first) == second for first, second in pairwise(spaces))
