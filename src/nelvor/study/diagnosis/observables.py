"""What can be read at a site with a clamp and a voltmeter, each with its place, how it is read, and who may.

No reading ever asks to lift a conductor: everything here is clamped or probed with all of them landed.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from nelvor.judges.run import RunAnswer
from nelvor.model.things import Run
from nelvor.model.voltages import LEGS
from nelvor.report.check import Report
from nelvor.study.branches import Circuit
from nelvor.study.build import EARTH_NODE
from nelvor.topology.names import name_of, run_name, thing_name
from nelvor.topology.network import METAL, NEUTRAL, Node

Unit = Literal["A", "V"]
Care = Literal["outside", "behind_cover"]
Key = tuple[str, str, str]
TO_NEUTRAL = " to neutral"
SHORT = {"all": "all together", "NM": "neutral to metal", "ME": "metal to earth"}
OF_A_RUN = (*LEGS, "neutral", "ground", "raceway")
"""What can be clamped of a run; ``raceway`` alone cannot, as its conductors run inside: it counts in all together."""
CLAMPED_ALONE = frozenset({*LEGS, "neutral", "ground"})


@dataclass(frozen=True)
class Observable:
    """Something that can be read. ``keys`` are the branches that a clamp goes around, ``nodes`` the two points of a probe."""

    id: str
    place: str
    what: str
    unit: Unit
    care: Care
    keys: frozenset[Key] = frozenset()
    nodes: tuple[int, int] | None = None

    @property
    def short(self) -> str:
        """What is read, as a list of readings names it."""
        kind, _, ending = self.id.partition(":")
        part = ending.rpartition(":")[2]
        return (
            "electrode"
            if kind == "electrode"
            else f"{SHORT.get(part, part)}{TO_NEUTRAL if part in LEGS and kind == 'volts' else ''}"
        )

    @property
    def thing_id(self) -> str:
        """The run, electrode or enclosure at which it is read."""
        return self.id.split(":")[1]

    @property
    def words(self) -> str:
        """What is read, in words."""
        return f"{self.what}, {self.place}"


def observables(report: Report, circuit: Circuit) -> list[Observable]:
    """Return everything that can be read in a circuit of a site."""
    found = [*_currents(report, circuit), *_electrodes(report, circuit), *_volts(report, circuit)]
    return list({item.id: item for item in found}.values())


def _currents(report: Report, circuit: Circuit) -> Iterator[Observable]:
    roles: dict[str, set[str]] = {}
    for branch in circuit.branches:
        if branch.list == "runs":
            roles.setdefault(branch.id, set()).add(branch.role)
    for run_id, own in roles.items():
        run, answer = report.site.runs[run_id], report.runs.get(run_id)
        if answer is None or answer.kind == "utility":
            continue  # sealed, and the utility's
        yield from _of_run(report, run, own, answer)


def _of_run(report: Report, run: Run, roles: set[str], answer: RunAnswer) -> Iterator[Observable]:
    place = run_name(report.site, run)
    for role in OF_A_RUN:
        if role in roles and role in CLAMPED_ALONE:
            keys = frozenset({("runs", run.id, role)})
            yield Observable(f"run:{run.id}:{role}", place, f"clamp on its {role}", "A", "behind_cover", keys)
    keys = frozenset(("runs", run.id, role) for role in roles)
    yield Observable(f"run:{run.id}:all", place, "clamp around all of it", "A", "outside", keys)


def _electrodes(report: Report, circuit: Circuit) -> Iterator[Observable]:
    named: Counter[str] = Counter()
    for branch in circuit.branches:
        if branch.list == "electrodes":
            name = thing_name(report.site, branch.id)
            named[name] += 1
            place = f"{name} ({named[name]})" if named[name] > 1 else name
            keys = frozenset({(branch.list, branch.id, branch.role)})
            what = "clamp on the electrode conductor"
            yield Observable(f"electrode:{branch.id}", place, what, "A", "outside", keys)


def _volts(report: Report, circuit: Circuit) -> Iterator[Observable]:
    earth = circuit.nodes.get(EARTH_NODE)
    for enclosure_id in report.site.walking_order:
        place = name_of(report.site, enclosure_id)
        bars = [bar for bar in report.site.bars_in.get(enclosure_id, []) if bar.kind == "neutral"]
        neutral = circuit.nodes.get(Node(bars[0].id, NEUTRAL)) if bars else None
        metal = circuit.nodes.get(Node(enclosure_id, METAL))
        if neutral is not None and metal is not None:
            what = "volts from neutral to metal"
            yield Observable(f"volts:{enclosure_id}:NM", place, what, "V", "behind_cover", nodes=(neutral, metal))
        if metal is not None and earth is not None:
            what = "volts from its metal to a probe in the earth"
            yield Observable(f"volts:{enclosure_id}:ME", place, what, "V", "outside", nodes=(metal, earth))
        for leg in LEGS:
            line = _line(report, circuit, enclosure_id, leg)
            if neutral is not None and line is not None:
                what = f"volts from {leg} to neutral"
                yield Observable(f"volts:{enclosure_id}:{leg}", place, what, "V", "behind_cover", nodes=(line, neutral))


def _line(report: Report, circuit: Circuit, enclosure_id: str, leg: str) -> int | None:
    parts = [bus.id for bus in report.site.buses_in.get(enclosure_id, [])]
    parts += [item.id for item in report.site.lugs_in.get(enclosure_id, [])]
    return next((circuit.nodes[node] for part in parts if (node := Node(part, leg)) in circuit.nodes), None)
