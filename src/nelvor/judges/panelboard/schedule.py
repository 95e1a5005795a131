"""The schedule of a panel: every device of its bus in its spaces, the amperes of each leg, and the checks of them."""

from __future__ import annotations

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass
from functools import partial

from nelvor.judges.answer import Answer, Subject
from nelvor.judges.level_loads import LevelLoads
from nelvor.judges.memory import Memory
from nelvor.judges.panelboard.circuit import judge_circuit
from nelvor.judges.panelboard.door import judge_door
from nelvor.judges.panelboard.multiwire import judge_multiwire
from nelvor.judges.panelboard.openings import judge_openings
from nelvor.judges.panelboard.placed import PlacedCircuit, on_bus, placed
from nelvor.judges.panelboard.standing import judge_spaces
from nelvor.judges.panelboard.terminals import judge_terminals
from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Bus
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder


@dataclass(frozen=True, kw_only=True)
class ScheduleAnswer(Answer):
    """The schedule of one bus: its devices in the order of their spaces."""

    bus: Bus
    legs: tuple[str, ...]
    circuits: tuple[PlacedCircuit, ...]


def schedule_answers(site: Site, rules: Rules, levels: LevelLoads, memory: Memory) -> Mapping[str, ScheduleAnswer]:
    """Return the schedule of every bus whose spaces are told, by the id of the bus."""
    found = {}
    for enclosure_id in site.enclosures:
        for bus in site.buses_in.get(enclosure_id, []):
            if bus.spaces is not None or any(device.space is not None for device in on_bus(site, bus)):
                work = partial(_answer, site, rules, levels, memory, bus)
                found[bus.id] = memory.recall("schedule", partial(_rests_on, site, rules, levels, bus), work)
    return found


def _rests_on(site: Site, rules: Rules, levels: LevelLoads, bus: Bus) -> tuple[Sequence[object], Hashable]:
    """Return the things that a schedule is judged by, and the values that are derived from others."""
    home = bus.enclosure_id
    devices, runs = site.devices_in.get(home, []), site.runs_from.get(home, [])
    ends = [site.downstream_of(run) for run in runs]
    objects: list[object] = [
        bus,
        rules,
        site.enclosures[home],
        site.document.settings,
        *site.buses_in.get(home, []),
        *devices,
        *site.bars_in.get(home, []),
        *(wires for device in devices for wires in site.circuits_of.get(device.id, [])),
        *(load for device in devices for load in site.loads_on.get(device.id, [])),
        *runs,
        *(wire for run in runs for wire in site.conductors_of.get(run.id, [])),
        *(levels.get(end) for end in ends),
        *(site.enclosures.get(end) for end in ends),
    ]
    return objects, (site.system_at(home), site.legs_of_bus(bus), site.is_one_family(home))


def _answer(site: Site, rules: Rules, levels: LevelLoads, memory: Memory, bus: Bus) -> ScheduleAnswer:
    recorder, judge = Recorder(rules), Judge(rules, "buses", bus.id)
    circuits = [placed(site, rules, levels, memory, bus, device) for device in on_bus(site, bus)]
    circuits.sort(key=lambda item: (item.device.space is None, item.device.space or 0, item.device.half or ""))
    judge_spaces(site, judge, bus, circuits)
    judge_multiwire(site, judge, circuits)
    judge_door(site, judge, circuits)
    judge_terminals(site, judge, bus, circuits)
    judge_openings(site, judge, bus)
    for circuit in circuits:
        judge.verdicts += _of_circuit(site, rules, memory, circuit)
    return ScheduleAnswer(
        subject=Subject("schedule", bus.id),
        figures=_legs(recorder, site.legs_of_bus(bus), circuits),
        verdicts=tuple(judge.verdicts),
        working=recorder,
        bus=bus,
        legs=site.legs_of_bus(bus),
        circuits=tuple(circuits),
    )


def _of_circuit(site: Site, rules: Rules, memory: Memory, circuit: PlacedCircuit) -> tuple[Verdict, ...]:
    """Return the verdicts on one circuit, which an edit of another leaves as they are."""
    device = circuit.device
    home = site.enclosures[device.enclosure_id]
    wires = site.circuits_of.get(device.id, [])

    def work() -> tuple[Verdict, ...]:
        judge = Judge(rules, "devices", device.id)
        judge_circuit(site, rules, judge, Recorder(rules), circuit)
        return tuple(judge.verdicts)

    def rests_on() -> tuple[Sequence[object], Hashable]:
        objects = [device, home, rules, site.document.settings, circuit.load, circuit.gap, *wires, *circuit.loads]
        return objects, (circuit.legs, site.is_one_family(home.id))

    return memory.recall("circuit", rests_on, work)


def _legs(recorder: Recorder, legs: tuple[str, ...], circuits: list[PlacedCircuit]) -> dict[str, Figure]:
    """The amperes of each leg: of every circuit and every feeder with its place, each as its own load is worked out."""
    found = {}
    for leg in legs:
        parts = [
            recorder.carried(f"{circuit.device.name or circuit.device.id} on {leg}", on_leg.actual, carried.recorder)
            for circuit in circuits
            for carried in circuit.carried
            for on_leg in carried.legs
            if on_leg.leg == leg and leg in circuit.legs and on_leg.actual.number
        ]
        nothing = recorder.given(f"{leg}, circuits in their spaces", 0, "A", "no such load") if not parts else None
        found[leg] = nothing or recorder.add(f"{leg}, circuits in their spaces", *parts)
    return found
