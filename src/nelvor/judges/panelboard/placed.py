"""One device of a bus with its spots, its legs and the load on each of its poles."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from nelvor.clauses.calculated_load import LevelLoad, Methods, calculate
from nelvor.clauses.load_kind import OTHER, Tally, tally_of
from nelvor.errors import CannotCompute
from nelvor.judges.level_loads import LevelLoads
from nelvor.judges.memory import Memory
from nelvor.model.things import Bus, Device, Load
from nelvor.model.voltages import COMPUTED_SYSTEMS, LINE_TO_NEUTRAL_V
from nelvor.rulebook.rules import Rules
from nelvor.spaces.bus_spaces import Spot, leg_of_space, spots_of
from nelvor.topology.site import Site

THREE_POLES = 3
ABOVE_TO_NEUTRAL = 1.1


@dataclass(frozen=True)
class PlacedCircuit:
    """A device of a bus. ``legs`` are those of its poles in their order; none where its space does not tell them.

    ``load`` is what its circuit carries, ``feeds`` what the panels behind it do; ``gap`` says why neither is known.
    """

    device: Device
    spots: tuple[Spot, ...]
    legs: tuple[str, ...]
    loads: tuple[Load, ...] = ()
    load: LevelLoad | None = None
    feeds: tuple[LevelLoad, ...] = ()
    gap: CannotCompute | None = None

    @property
    def carried(self) -> tuple[LevelLoad, ...]:
        """What it carries: its own circuit, or the panels behind it; none where that is not known."""
        return (self.load,) if self.load is not None else self.feeds

    def poles_a(self) -> tuple[Fraction, ...]:
        """Return the amperes of each pole in their order; none where the load or the legs are not known."""
        if not self.carried:
            return ()
        on = Counter[str]()
        for level in self.carried:
            on.update({leg.leg: leg.actual.number for leg in level.legs})
        return tuple(Fraction(on[leg]) for leg in self.legs)


def on_bus(site: Site, bus: Bus) -> Iterator[Device]:
    """Yield the devices that stand on a bus: those that name it, and those of its only bus that name none."""
    alone = len(site.buses_in.get(bus.enclosure_id, [])) == 1
    for device in site.devices_in.get(bus.enclosure_id, []):
        if device.id != bus.fed_by and (device.bus_id == bus.id or (alone and device.bus_id is None)):
            yield device


def placed(site: Site, rules: Rules, levels: LevelLoads, memory: Memory, bus: Bus, device: Device) -> PlacedCircuit:
    """Return a device of a bus with its place and its load."""
    bus_legs = site.legs_of_bus(bus)
    spots = spots_of(bus, device)
    found = [leg_of_space(bus, spot.space, bus_legs) for spot in spots]
    legs = tuple(leg for leg in found if leg is not None)
    loads = tuple(load for load in site.loads_on.get(device.id, []) if load.enclosure_id == bus.enclosure_id)
    system = site.system_at(bus.enclosure_id)
    runs = [run for run in site.runs_from.get(bus.enclosure_id, []) if run.from_part == device.id]
    if runs:
        behind = [levels.get(site.downstream_of(run)) for run in runs]
        known = tuple(level for level in behind if isinstance(level, LevelLoad))
        return PlacedCircuit(device, spots, legs, loads, feeds=known if len(known) == len(runs) else ())
    if not loads or system not in COMPUTED_SYSTEMS or len(legs) < device.poles:
        return PlacedCircuit(device, spots, legs, loads)

    def work() -> LevelLoad | CannotCompute:
        return _circuit_load(site, rules, device, loads, legs, system)

    result = memory.recall("circuit load", lambda: ([*loads, device, rules], (legs, system)), work)
    if isinstance(result, CannotCompute):
        return PlacedCircuit(device, spots, legs, loads, gap=result)
    return PlacedCircuit(device, spots, legs, loads, load=result)


def _circuit_load(
    site: Site, rules: Rules, device: Device, loads: tuple[Load, ...], legs: tuple[str, ...], system: str
) -> LevelLoad | CannotCompute:
    try:
        for load in loads:
            _fits(load, device, legs, system)
        by_space = {load.id: found for load in loads if (found := site.connection_of(load))}
        counted = tally_of(loads, system, rules, "", frozenset(legs), by_space)
        together: Tally = Counter()
        for (_, kind), count in counted.items():
            together[OTHER, kind] += count
        return calculate(device.id, together, system, rules, Methods(other="circuit"))
    except CannotCompute as reason:
        return reason.kept()


def _fits(load: Load, device: Device, legs: tuple[str, ...], system: str) -> None:
    """Refuse a load that the poles of its breaker cannot feed.

    Raises:
        CannotCompute: it needs more poles, or other legs.
    """
    name, breaker = load.name or load.id, device.name or device.id
    to_neutral = LINE_TO_NEUTRAL_V.get(system)
    between_lines = load.volts is not None and to_neutral is not None and load.volts > to_neutral * ABOVE_TO_NEUTRAL
    needed = THREE_POLES if load.three_phase or load.connection == "three_phase" else 2 if between_lines else 1
    if device.poles < needed:
        words = "three poles" if needed == THREE_POLES else "two poles"
        raise CannotCompute(
            f"{name} needs {words}, and {breaker} has {device.poles}.",
            "Use a breaker that has them, or correct its volts.",
        )
    named = set((load.connection or "").removesuffix("-N").split("-")) - {"", "three_phase"}
    if not named <= set(legs):
        raise CannotCompute(
            f"{name} is entered on {load.connection}, and {breaker} stands on {' and '.join(legs)}.",
            "Leave its connection open: it follows from the space.",
        )
