"""One complete check of a document in one state: every answer, every verdict, signed."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

from nelvor import ENGINE_VERSION
from nelvor.judges.bonds import BondAnswer, bond_answers
from nelvor.judges.boxes import BoxAnswer, box_answers
from nelvor.judges.electrodes import electrode_answers
from nelvor.judges.loads import LevelLoads, level_loads
from nelvor.judges.panel import PanelAnswer, panel_answers
from nelvor.judges.run import NOT_SIZED, RunAnswer, in_other_material, solve_runs
from nelvor.judges.scope import not_computed
from nelvor.judges.spare_capacity import CapacityAnswer, capacity_answers
from nelvor.judges.supply import supply_verdicts
from nelvor.judges.transformer import transformer_verdicts
from nelvor.judges.verdict import Verdict
from nelvor.model.changes.ids import taken_ids
from nelvor.model.document import Document
from nelvor.model.resolve import State, resolve
from nelvor.report.path import Place, places
from nelvor.rulebook.rules import Rules, rulebook
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder

SEVERITY = {"must_fix": 0, "advice": 1, "cannot_tell": 2, "holds": 3}


@dataclass(frozen=True)
class Signature:
    """What an answer rests on."""

    edition: str
    rulebook: str
    engine: str


@dataclass(frozen=True)
class Report:
    """Everything worked out for a document in one state. ``findings`` are in order of severity, then walking order."""

    signature: Signature
    state: State
    site: Site
    rules: Rules
    levels: LevelLoads
    runs: dict[str, RunAnswer]
    alternatives: dict[str, RunAnswer]
    bonds: dict[str, BondAnswer]
    panels: dict[str, PanelAnswer]
    capacity: dict[str, CapacityAnswer]
    electrodes: dict[str, tuple[list[Verdict], dict[str, Figure], Recorder]]
    boxes: dict[str, BoxAnswer]
    places: list[Place]
    findings: list[Verdict]
    holding: int

    def count(self, outcome: str) -> int:
        """Return how many checks ended this way."""
        if outcome == "holds":
            return self.holding
        return sum(finding.outcome == outcome for finding in self.findings)


def check(document: Document, state: State = "proposed", alternatives: bool = True) -> Report:
    """Return the complete report of a document in one state.

    Raises:
        UnknownEdition: the job's edition is not in the rulebook.
    """
    resolved = resolve(document, state)
    rules = rulebook().resolve(document.settings.edition, resolved.amendments)
    site = Site(resolved, taken_ids(document.things()))
    levels = level_loads(site, rules)
    runs = solve_runs(site, rules, levels)
    others = _alternatives(runs) if alternatives else {}
    bonds = bond_answers(site, rules, runs)
    electrodes = electrode_answers(site, rules, runs, bonds)
    panels = panel_answers(site, rules, levels, runs, bonds)
    capacity = capacity_answers(site, rules, levels, runs)
    boxes = box_answers(site, rules, runs)
    verdicts = [verdict for answer in runs.values() for verdict in answer.verdicts]
    for enclosure_id, bond in bonds.items():
        verdicts += [
            *bond.verdicts,
            *(electrodes[enclosure_id][0] if enclosure_id in electrodes else ()),
            *panels[enclosure_id].verdicts,
            *capacity[enclosure_id].verdicts,
        ]
    verdicts += [verdict for box in boxes.values() for verdict in box.verdicts]
    verdicts += [*transformer_verdicts(site, rules, levels), *supply_verdicts(site, rules), *not_computed(site, rules)]
    signature = Signature(rules.edition, rulebook().version, ENGINE_VERSION)
    return Report(
        signature,
        state,
        site,
        rules,
        levels,
        runs,
        others,
        bonds,
        panels,
        capacity,
        electrodes,
        boxes,
        places(site),
        _in_order(site, verdicts),
        sum(verdict.outcome == "holds" for verdict in verdicts),
    )


def _alternatives(runs: dict[str, RunAnswer]) -> dict[str, RunAnswer]:
    return {
        run_id: in_other_material(answer)
        for run_id, answer in runs.items()
        if answer.kind not in NOT_SIZED and answer.material is not None
    }


def _in_order(site: Site, verdicts: list[Verdict]) -> list[Verdict]:
    """Return what does not hold: grouped by severity, in walking order within."""
    beside = _things_along_runs(site)
    steps: dict[str, int] = {}
    for number, enclosure_id in enumerate(site.walking_order):
        for run in site.runs_into.get(enclosure_id, []):
            steps[run.id] = 2 * number
            steps |= dict.fromkeys(beside.get(run.id, ()), 2 * number)
        steps[enclosure_id] = 2 * number + 1
        for measurement in site.measurements_at.get(enclosure_id, []):
            steps[measurement.id] = 2 * number + 1
    found = [verdict for verdict in verdicts if verdict.outcome != "holds"]
    last = 2 * len(steps)
    return sorted(found, key=lambda verdict: (SEVERITY[verdict.outcome], steps.get(verdict.id, last)))


def _things_along_runs(site: Site) -> dict[str, list[str]]:
    """Return the ids of stretches, boxes and passages by the run that they lie on."""
    found: dict[str, list[str]] = defaultdict(list)
    for stretch in site.document.stretches:
        found[stretch.run_id].append(stretch.id)
    for pull in site.document.pulls:
        found[pull.run_id] += [pull.id, pull.box_id]
    return found
