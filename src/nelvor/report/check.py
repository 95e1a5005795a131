"""One complete check of a document in one state: every answer, every verdict, signed."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from nelvor import ENGINE_VERSION
from nelvor.judges.answer import Answer
from nelvor.judges.bonds import BondAnswer
from nelvor.judges.bonds.count import count_verdicts
from nelvor.judges.bonds.parallel_paths import parallel_path_verdicts
from nelvor.judges.boxes import BoxAnswer
from nelvor.judges.building_metal import building_verdicts
from nelvor.judges.circuit_switches import circuit_switch_verdicts
from nelvor.judges.contradictory_plates import plate_verdicts
from nelvor.judges.facts import Fact, facts_of, said_of
from nelvor.judges.farm_ground import farm_ground_verdicts
from nelvor.judges.feeder_ground_fault import feeder_ground_fault_verdicts
from nelvor.judges.inlets import inlet_verdicts
from nelvor.judges.island_conductors import island_conductor_verdicts
from nelvor.judges.islands import island_verdicts
from nelvor.judges.level_loads import LevelLoads
from nelvor.judges.memory import Memory, NoMemory
from nelvor.judges.metal_path import metal_verdicts
from nelvor.judges.panel import PanelAnswer
from nelvor.judges.panelboard import ScheduleAnswer
from nelvor.judges.panelboard.dwelling_circuits import dwelling_circuit_verdicts
from nelvor.judges.panelboard.multiwire_apart import multiwire_apart_verdicts
from nelvor.judges.panelboard.stray_neutral import stray_neutral_verdicts
from nelvor.judges.run import NOT_SIZED, RunAnswer, in_other_material
from nelvor.judges.scope import not_computed
from nelvor.judges.second_supply import supply_verdicts
from nelvor.judges.single_120_supply import single_120_verdicts
from nelvor.judges.site_isolating import site_isolating_verdicts
from nelvor.judges.source_connection import source_connection_verdicts
from nelvor.judges.source_without_neutral import without_neutral_verdicts
from nelvor.judges.unbalanced_sources import unbalanced_source_verdicts
from nelvor.judges.verdict import Verdict
from nelvor.model.document import Document
from nelvor.model.resolve import State
from nelvor.report.collector import collector_paused
from nelvor.report.path import Place, places
from nelvor.report.site_kept import site_kept
from nelvor.report.subjects import SUBJECTS, Checking, worked_out
from nelvor.report.ways_out import with_ways_out
from nelvor.rulebook.rules import Rules, rulebook
from nelvor.topology.names import home_of
from nelvor.topology.site import Site

SEVERITY = {"must_fix": 0, "advice": 1, "cannot_tell": 2, "holds": 3}


Checked = Callable[[dict[str, Any]], "Report"]
"""How a JSON job is checked in its proposed state, by whoever keeps what was worked out before."""


@dataclass(frozen=True)
class Signature:
    """What an answer rests on."""

    edition: str
    rulebook: str
    engine: str


@dataclass(frozen=True)
class Report:
    """Everything worked out for a document in one state. ``findings`` are in order of severity, then walking order;
    ``held`` are the checks that hold, ``facts`` what is entered, or asked for, where no figure tells."""

    signature: Signature
    state: State
    site: Site
    rules: Rules
    checking: Checking
    findings: list[Verdict]
    held: tuple[Verdict, ...]
    facts: tuple[Fact, ...]

    def of(self, kind: str) -> Mapping[str, Answer]:
        """Return the answers of one kind, by the ids of their things."""
        return self.checking.of(kind)

    @property
    def levels(self) -> LevelLoads:
        return self.checking.levels

    @property
    def runs(self) -> dict[str, RunAnswer]:
        return self.checking.runs

    @property
    def bonds(self) -> dict[str, BondAnswer]:
        return self.checking.bonds

    @property
    def schedules(self) -> dict[str, ScheduleAnswer]:
        return self.checking.schedules

    @property
    def boxes(self) -> dict[str, BoxAnswer]:
        return self.checking.boxes

    @property
    def panels(self) -> dict[str, PanelAnswer]:
        return self.checking.panels

    @property
    def capacity(self) -> Mapping[str, Answer]:
        return self.of("capacity")

    @property
    def electrodes(self) -> Mapping[str, Answer]:
        return self.of("electrode")

    @cached_property
    def places(self) -> list[Place]:
        """Where everything lies on the drawing of the path, laid out when somebody looks."""
        return places(self.site)

    @cached_property
    def alternatives(self) -> dict[str, RunAnswer]:
        """Every run in the other metal, worked out when somebody looks."""
        return {run_id: other for run_id in self.runs if (other := self.alternative(run_id)) is not None}

    def alternative(self, run_id: str) -> RunAnswer | None:
        """Return a run in the other metal with all upstream unchanged; None where there is nothing to compare."""
        answer = self.runs.get(run_id)
        if answer is None or answer.kind in NOT_SIZED or answer.material is None:
            return None
        return in_other_material(answer)

    def count(self, outcome: str) -> int:
        """Return how many checks ended this way."""
        if outcome == "holds":
            return len(self.held)
        return sum(finding.outcome == outcome for finding in self.findings)


def check(document: Document, state: State = "proposed", memory: Memory | None = None) -> Report:
    """Return the complete report of a document in one state; a memory spares working out what an edit left alone.

    Raises:
        UnknownEdition: the job's edition is not in the rulebook.
    """
    with collector_paused():
        return _checked(document, state, memory or NoMemory())


def _checked(document: Document, state: State, memory: Memory) -> Report:
    site = site_kept(document, state, memory)
    edition, amendments = document.settings.edition, site.document.amendments
    rules = memory.recall("rules", lambda: (amendments, edition), lambda: rulebook().resolve(edition, amendments))
    checking = worked_out(site, rules, memory)
    facts = tuple(facts_of(site, rules, checking.bonds))
    answers: list[Mapping[str, Answer]] = [checking.of(subject.kind) for subject in SUBJECTS]
    verdicts = [verdict for of_kind in answers for answer in of_kind.values() for verdict in answer.verdicts]
    verdicts += _of_the_site(site, rules, checking, facts)
    verdicts += count_verdicts(site, rules, state, checking.bonds, verdicts)
    verdicts = list(with_ways_out(site, rules, checking.bonds, verdicts))
    signature = Signature(rules.edition, rulebook().version, ENGINE_VERSION)
    held = tuple(verdict for verdict in verdicts if verdict.outcome == "holds")
    return Report(signature, state, site, rules, checking, _in_order(site, verdicts), held, facts)


def _of_the_site(site: Site, rules: Rules, checking: Checking, facts: Sequence[Fact]) -> list[Verdict]:
    """Return what is said of the site as a whole, and of things that have no answer of their own."""
    bonds = checking.bonds
    return [
        *supply_verdicts(site, rules),
        *metal_verdicts(site, rules, bonds),
        *parallel_path_verdicts(site, rules, bonds),
        *building_verdicts(site, rules, bonds),
        *feeder_ground_fault_verdicts(site, rules, bonds),
        *dwelling_circuit_verdicts(site, rules),
        *multiwire_apart_verdicts(site, rules),
        *stray_neutral_verdicts(site, rules),
        *circuit_switch_verdicts(site, rules),
        *site_isolating_verdicts(site, rules, checking.runs),
        *farm_ground_verdicts(site, rules, checking.runs, bonds),
        *said_of(site, rules, facts),
        *source_connection_verdicts(site, rules),
        *plate_verdicts(site, rules),
        *inlet_verdicts(site, rules),
        *unbalanced_source_verdicts(site, rules),
        *island_verdicts(site, rules),
        *island_conductor_verdicts(site, rules, checking.runs),
        *single_120_verdicts(site, rules),
        *without_neutral_verdicts(site, rules),
        *not_computed(site, rules),
    ]


def _in_order(site: Site, verdicts: list[Verdict]) -> list[Verdict]:
    """Return what does not hold: grouped by severity, in walking order within; what stands on a sheet goes with it."""
    steps: dict[str, int] = {}
    for number, enclosure_id in enumerate(site.walking_order):
        for run in site.runs_into.get(enclosure_id, []):
            steps[run.id] = 2 * number
        steps[enclosure_id] = 2 * number + 1
    found = [verdict for verdict in verdicts if verdict.outcome != "holds"]
    last = 2 * len(steps)

    def order(verdict: Verdict) -> tuple[int, int]:
        home = verdict.id if verdict.id in steps else home_of(site, verdict.id)
        return SEVERITY[verdict.outcome], steps.get(home, last)

    return sorted(found, key=order)
