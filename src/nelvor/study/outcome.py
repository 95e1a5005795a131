"""The study of a site: currents of every conductor, volts of its metal, what opens, and what it means in two sentences."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from nelvor.errors import CannotCompute
from nelvor.model.things import Load
from nelvor.report.check import Report
from nelvor.study.arc import arc_ohms
from nelvor.study.available import available
from nelvor.study.branches import Circuit
from nelvor.study.build import EARTH_NODE, Builder
from nelvor.study.netlist import netlist
from nelvor.study.sentences import sentences
from nelvor.study.settle import settled
from nelvor.study.shapes import (
    AvailableOut,
    BoxVoltsOut,
    DeviceOut,
    LoadVoltsOut,
    ProofOut,
    RunCurrentsOut,
    ShutsOffOut,
    StudyOut,
    ThingCurrentOut,
)
from nelvor.study.situation import ALONG_A_RUN, AT_A_BOX, Situation
from nelvor.study.solve import Solved, solve
from nelvor.study.touch import EARTH, touches
from nelvor.study.trip import trip_of
from nelvor.topology.names import name_of, run_name, thing_name
from nelvor.topology.network import METAL, NEUTRAL, Node
from nelvor.topology.positions import positions
from nelvor.topology.scenario import Scenario, ordinary

LEAST_TOLD_A = 0.01


def study(report: Report, situation: Situation, position: str = "") -> StudyOut:
    """Return where the current flows in a situation; ``position`` is the name of a position of the gear, "" the ordinary.

    Raises:
        CannotCompute: the position or the place is not there, or something that the circuit rests on is not known.
    """
    name, scenario = _scenario(report, position)
    _place_is_there(report, situation)
    circuit, arc_holds = _circuit(report, scenario, situation)
    solved = settled(circuit) if _draws_its_power(situation) else solve(circuit)
    reading = _Reading(report, solved)
    outcome = StudyOut(
        position=name,
        situation=situation,
        sentences=[],
        danger="none",
        runs=list(reading.runs()),
        bonds=list(reading.things("bond")),
        electrodes=list(reading.things("electrode")),
        fault_a=next((abs(current) for _, current in reading.of_role("fault")), None),
        arc_holds=arc_holds,
        shuts_off=list(_shuts_off(report, scenario, situation)),
        boxes=list(reading.boxes()),
        touches=list(touches(report.site, reading.volts_at, situation.between)),
        devices=list(reading.devices()),
        loads=list(reading.loads()),
        floating=list(reading.floating()),
        assumed=sorted(solved.circuit.assumed),
        proof=ProofOut(
            nodes=len(solved.circuit.nodes),
            branches=len(solved.circuit.branches),
            residual_a=solved.residual_a,
            imbalance=solved.imbalance,
        ),
    )
    told = sentences(report, outcome)
    return outcome.model_copy(update={"sentences": told.sentences, "danger": told.danger})


def study_netlist(report: Report, situation: Situation, position: str = "") -> str:
    """Return the circuit of a study as a SPICE netlist; raises as ``study``."""
    _, scenario = _scenario(report, position)
    _place_is_there(report, situation)
    circuit, _ = _circuit(report, scenario, situation)
    return netlist(settled(circuit).circuit if _draws_its_power(situation) else circuit)


def study_available(report: Report, position: str = "") -> AvailableOut:
    """Return the available fault current at every box; raises as ``study``."""
    return available(report, _scenario(report, position)[1])


def _circuit(report: Report, scenario: Scenario, situation: Situation) -> tuple[Circuit, bool | None]:
    """The circuit of a situation, and whether the arc holds that it asks for."""
    builder = Builder(report.site, report.rules, report.runs, report.levels, scenario, situation)
    if situation.arc_volts is None or situation.kind not in AT_A_BOX:
        return builder.built(), None
    circuit = builder.without_fault()
    ends = builder.fault_ends()
    assert ends is not None  # the fault is at a box
    ohms = arc_ohms(circuit, *ends, situation.arc_volts)
    if ohms is not None:
        builder.join_fault(*ends, ohms)
    circuit.assume(f"an arc keeps {situation.arc_volts:g} V, burns without a break and is in phase with its current")
    return circuit, ohms is not None


def _draws_its_power(situation: Situation) -> bool:
    """Loads are impedances while a fault lasts: nothing keeps its power then."""
    return situation.draw == "power" and situation.kind not in AT_A_BOX


def _shuts_off(report: Report, scenario: Scenario, situation: Situation) -> Iterator[ShutsOffOut]:
    """The sources that feed a fault for a told time only, where no other one goes on feeding it."""
    on = sorted((scenario.sources_on & report.site.sources.keys()) - scenario.passing)
    sources = [item for item in (report.site.sources[id_] for id_ in on) if item.forms_supply or not item.interactive]
    if situation.kind in AT_A_BOX and all(item.fault_contribution_s is not None for item in sources):
        for source in sources:
            yield ShutsOffOut(
                id=source.id, name=thing_name(report.site, source.id), within_s=source.fault_contribution_s or 0.0
            )


def scenario_of(report: Report, position: str) -> Scenario:
    """Return a position of the gear by its name, "" the ordinary one.

    Raises:
        CannotCompute: there is no such position.
    """
    return _scenario(report, position)[1]


def _scenario(report: Report, position: str) -> tuple[str, Scenario]:
    known = positions(report.site, report.state)
    found = next((item for item in known if item.name == position), None)
    if found is not None:
        return found.name, found.scenario
    if position:
        names = ", ".join(item.name for item in known) or "none"
        raise CannotCompute(f"There is no position {position!r} of this site.", f"Known: {names}.")
    return (known[0].name if known else ""), ordinary(report.site, report.site.feeds, report.state)


def _place_is_there(report: Report, situation: Situation) -> None:
    if any(item != EARTH and item not in report.site.enclosures for item in situation.between):
        raise CannotCompute("What is touched is not an enclosure of this site.", "Choose one, or the earth.")
    if situation.kind in AT_A_BOX and situation.place not in report.site.enclosures:
        raise CannotCompute("The place of the fault is not an enclosure of this site.", "Choose one.")
    if situation.kind in ALONG_A_RUN and situation.place not in report.site.runs:
        raise CannotCompute("The conductor that is open belongs to no run of this site.", "Choose a run.")


class _Reading:
    """Reads a solved circuit by the things of its site."""

    def __init__(self, report: Report, solved: Solved) -> None:
        self.report = report
        self.site = report.site
        self.solved = solved
        self.pairs = list(zip(solved.circuit.branches, solved.currents, strict=True))

    def of_role(self, role: str) -> Iterator[tuple[str, complex]]:
        return ((branch.id, current) for branch, current in self.pairs if branch.role == role)

    def runs(self) -> Iterator[RunCurrentsOut]:
        found: dict[str, dict[str, complex]] = defaultdict(dict)
        for branch, current in self.pairs:
            if branch.list == "runs":
                found[branch.id][branch.role] = found[branch.id].get(branch.role, 0j) + current
        for run_id, currents in found.items():
            run = self.site.runs[run_id]
            yield RunCurrentsOut(
                id=run_id,
                name=run_name(self.site, run),
                amperes={role: _shown(abs(value)) for role, value in currents.items()},
                along={role: 1 if value.real >= 0 else -1 for role, value in currents.items()},
            )

    def things(self, role: str) -> Iterator[ThingCurrentOut]:
        for branch, current in self.pairs:
            if branch.role == role:
                place = self._place(branch.list, branch.id)
                yield ThingCurrentOut(
                    list=branch.list,
                    id=branch.id,
                    name=thing_name(self.site, branch.id),
                    place=place,
                    amperes=_shown(abs(current)),
                )

    def _place(self, list_name: str, thing_id: str) -> str:
        thing = self.site.by_id.get(thing_id, ("", None))[1]
        if list_name == "electrodes":
            return self.site.owners.get(str(getattr(thing, "connects_to", "")), "")
        return str(getattr(thing, "enclosure_id", None) or thing_id)

    def boxes(self) -> Iterator[BoxVoltsOut]:
        for enclosure_id in self.site.walking_order:
            bars = [bar for bar in self.site.bars_in.get(enclosure_id, []) if bar.kind == "neutral"]
            neutral = bars[0].id if bars else enclosure_id
            yield BoxVoltsOut(
                id=enclosure_id,
                name=name_of(self.site, enclosure_id),
                metal=self._volts(enclosure_id, METAL),
                neutral=self._volts(neutral, NEUTRAL),
            )

    def _volts(self, part: str, pole: str) -> float | None:
        volts = self.volts_at(Node(part, pole))
        return None if volts is None else _shown(abs(volts))

    def volts_at(self, node: Node) -> complex | None:
        """The volts of a node against earth; None where it floats."""
        return self.solved.volts.get(self.solved.circuit.nodes.get(node, -1))

    def devices(self) -> Iterator[DeviceOut]:
        most: dict[str, float] = defaultdict(float)
        for branch, current in self.pairs:
            if branch.list == "devices":
                most[branch.id] = max(most[branch.id], abs(current))
        for device_id, amperes in most.items():
            device = self.site.devices[device_id]
            if amperes < LEAST_TOLD_A:
                continue
            trip = trip_of(self.report.rules, device, amperes)
            yield DeviceOut(
                id=device_id,
                name=device.name or "a breaker",
                place=device.enclosure_id,
                rating_a=device.rating_a,
                amperes=_shown(amperes),
                opens=trip.opens,
                within_s=trip.within_s,
            )

    def loads(self) -> Iterator[LoadVoltsOut]:
        for branch, current in self.pairs:
            if branch.list != "loads":
                continue
            load = self.site.by_id[branch.id][1]
            assert isinstance(load, Load)  # a branch of the loads
            across = abs(current * branch.ohms)
            rated = load.volts or 0.0
            if rated:
                yield LoadVoltsOut(
                    id=load.id, name=load.name or load.id, place=load.enclosure_id, volts=_shown(across), rated_v=rated
                )

    def floating(self) -> Iterator[str]:
        """Metal that nothing joins to the circuit: it has no volts of its own to tell."""
        for enclosure_id in self.site.enclosures:
            if self._volts(enclosure_id, METAL) is None:
                yield name_of(self.site, enclosure_id)
        if EARTH_NODE in self.solved.circuit.nodes and self.solved.without_earth:
            yield "earth"


def _shown(value: float) -> float:
    """A figure with four digits that count."""
    return float(f"{value:.4g}")
