"""The registry of subjects: each kind of answer with how it is worked out. Every reading of a report walks it.

A new kind of answer is added here, and is then checked, sent, summed up, printed and compared between editions.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, cast

from nelvor.judges.answer import Answer, Subject
from nelvor.judges.bonds import BondAnswer, Decision, bond_answers
from nelvor.judges.boxes import BoxAnswer, box_answers
from nelvor.judges.electrodes import electrode_answers
from nelvor.judges.lengths_aside import LengthsAside
from nelvor.judges.level_loads import LevelAnswer, LevelLoads, level_answers
from nelvor.judges.memory import Memory, NoMemory
from nelvor.judges.panel import PanelAnswer, panel_answers
from nelvor.judges.panelboard import ScheduleAnswer, schedule_answers
from nelvor.judges.run import RunAnswer, solve_runs
from nelvor.judges.spare_capacity import capacity_answers
from nelvor.judges.standby import standby_answers
from nelvor.judges.transformer import transformer_answers
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site


@dataclass
class Checking:
    """A site under the rules of an edition, with the answers worked out so far, by kind and id."""

    site: Site
    rules: Rules
    memory: Memory = field(default_factory=NoMemory)
    answers: dict[str, Mapping[str, Answer]] = field(default_factory=dict)

    def of(self, kind: str) -> Mapping[str, Any]:
        """Return the answers of a kind that was worked out before."""
        return self.answers.get(kind, {})

    @cached_property
    def levels(self) -> LevelLoads:
        """The calculated loads, or why they are not known; asked for once the levels are answered."""
        return {item_id: cast(LevelAnswer, answer).level for item_id, answer in self.of("level").items()}

    @property
    def runs(self) -> dict[str, RunAnswer]:
        return cast(dict[str, RunAnswer], self.of("run"))

    @cached_property
    def lengths_aside(self) -> LengthsAside:
        """What recalls answers of boxes while lengths alone are edited; asked for once the runs are answered."""
        return LengthsAside(self.site, self.rules, self.runs, self.memory)

    @property
    def bonds(self) -> dict[str, BondAnswer]:
        return cast(dict[str, BondAnswer], self.of("bond"))

    @property
    def decisions(self) -> dict[str, Decision]:
        """What is decided for the ordinary neutral of each enclosure."""
        return {enclosure_id: bond.decision for enclosure_id, bond in self.bonds.items()}

    @property
    def schedules(self) -> dict[str, ScheduleAnswer]:
        return cast(dict[str, ScheduleAnswer], self.of("schedule"))

    @property
    def panels(self) -> dict[str, PanelAnswer]:
        return cast(dict[str, PanelAnswer], self.of("panel"))

    @property
    def boxes(self) -> dict[str, BoxAnswer]:
        return cast(dict[str, BoxAnswer], self.of("box"))


@dataclass(frozen=True)
class SubjectKind:
    """One kind of answer: its title on paper and screen, what works it out, and whether a reading has its own form.

    ``shown_apart`` kinds have a form of their own in every reading; the others are shown as a list of figures.
    """

    kind: str
    title: str
    solve: Callable[[Checking], Mapping[str, Answer]]
    shown_apart: bool = True


SUBJECTS = (
    SubjectKind("level", "Loads", lambda so_far: level_answers(so_far.site, so_far.rules, so_far.memory)),
    SubjectKind("run", "Runs", lambda so_far: solve_runs(so_far.site, so_far.rules, so_far.levels, so_far.memory)),
    SubjectKind(
        "bond",
        "Neutral and ground",
        lambda so_far: bond_answers(so_far.site, so_far.rules, so_far.runs, so_far.lengths_aside),
    ),
    SubjectKind(
        "electrode",
        "Electrodes",
        lambda so_far: electrode_answers(so_far.site, so_far.rules, so_far.runs, so_far.bonds),
    ),
    SubjectKind(
        "panel",
        "Panels",
        lambda so_far: panel_answers(
            so_far.site, so_far.rules, so_far.levels, so_far.runs, so_far.decisions, so_far.lengths_aside
        ),
    ),
    SubjectKind(
        "schedule",
        "Panel schedules",
        lambda so_far: schedule_answers(so_far.site, so_far.rules, so_far.levels, so_far.memory),
    ),
    SubjectKind(
        "capacity",
        "Spare capacity",
        lambda so_far: capacity_answers(so_far.site, so_far.rules, so_far.levels, so_far.runs, so_far.memory),
    ),
    SubjectKind(
        "standby",
        "Standby supplies",
        lambda so_far: standby_answers(so_far.site, so_far.rules, so_far.levels),
        shown_apart=False,
    ),
    SubjectKind("box", "Boxes", lambda so_far: box_answers(so_far.site, so_far.rules, so_far.runs)),
    SubjectKind(
        "transformer",
        "Transformers",
        lambda so_far: transformer_answers(so_far.site, so_far.rules, so_far.levels, so_far.runs),
        shown_apart=False,
    ),
)


def worked_out(site: Site, rules: Rules, memory: Memory) -> Checking:
    """Work out every kind of answer in turn, each resting on those before it."""
    so_far = Checking(site, rules, memory)
    for subject in SUBJECTS:
        so_far.answers[subject.kind] = subject.solve(so_far)
    return so_far


__all__ = ["SUBJECTS", "Checking", "Subject", "SubjectKind", "worked_out"]
