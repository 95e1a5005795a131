"""The answer for one run: its parts solved in turn, and the same run made in another way."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from nelvor.clauses.tap_conditions import RuleAnswer
from nelvor.errors import CannotCompute
from nelvor.judges.answer import Answer, Subject
from nelvor.judges.run.case import RunCase, WholeUnit
from nelvor.judges.run.complete_mends import complete
from nelvor.judges.run.drop_along import solve_drop
from nelvor.judges.run.fit_out import FitOut
from nelvor.judges.run.hots import solve_hots
from nelvor.judges.run.load_and_device import solve_device, solve_load
from nelvor.judges.run.neutral_and_ground import solve_ground, solve_neutral
from nelvor.judges.run.pushed_back import judge_feed_through, judge_tapped
from nelvor.judges.run.raceways import solve_cover, solve_fit_out, solve_raceway
from nelvor.judges.run.source_run import (
    solve_output,
    solve_output_device,
    solve_rise,
    solve_source_neutral,
    solve_standby_device,
    solve_standby_load,
)
from nelvor.judges.run.torques import CLAUSE as TORQUES
from nelvor.judges.run.unread import ask_for_the_unread
from nelvor.model.things import Run
from nelvor.model.voltages import LEGS
from nelvor.working import Figure

Parts = tuple[tuple[str, Callable[[RunCase], None]], ...]
PARTS: Parts = (
    ("load", solve_load),
    ("device", solve_device),
    ("hots", solve_hots),
    ("sources", judge_tapped),
    ("feed_through", judge_feed_through),
    ("neutral", solve_neutral),
    ("ground", solve_ground),
    ("raceway", solve_raceway),
    ("fit_out", solve_fit_out),
    ("cover", solve_cover),
    ("drop", solve_drop),
)
OF_A_SOURCE: Parts = (
    ("load", solve_output),
    ("device", solve_output_device),
    ("hots", solve_hots),
    ("neutral", solve_source_neutral),
    ("ground", solve_ground),
    ("raceway", solve_raceway),
    ("fit_out", solve_fit_out),
    ("cover", solve_cover),
    ("drop", solve_rise),
)
STANDING_IN: Parts = (("device", solve_standby_device), ("load", solve_standby_load), *OF_A_SOURCE[2:])
PARTS_OF_KIND = {"output": OF_A_SOURCE, "alone": OF_A_SOURCE, "standby": STANDING_IN}
SIZE_FIELDS = {"hots": "hot_size", "neutral": "neutral_size", "ground": "ground_size", "raceway": "raceway_size"}
ALL_FREE = {**dict.fromkeys(SIZE_FIELDS.values()), "ground_material": None}


UTILITY, CHARGING, CORD, LEADS = "utility", "source", "cord", "leads"
NOT_SIZED = frozenset({UTILITY, CHARGING, CORD, LEADS})


@dataclass(frozen=True, kw_only=True)
class RunAnswer(Answer):
    """Everything worked out for one run: hots, neutral, ground and raceway among its figures."""

    case: RunCase
    run: Run
    kind: str
    material: str | None
    locked: frozenset[str]
    unread: frozenset[str]
    whole_dwelling: bool
    hots_count: int
    tap_rules: tuple[RuleAnswer, ...]
    to_fit: tuple[FitOut, ...]

    def figure(self, name: str) -> Figure | None:
        """Return a figure by its name; those of what has to be fitted are called ``fit`` and what it is."""
        fitted = (item.figure for item in self.to_fit if name == f"fit {item.name}")
        return self.figures.get(name) or next(fitted, None)

    @property
    def torque_words(self) -> str:
        """What is known of the torque of its terminals, as a sentence to go on with; "" where nothing is."""
        return "".join(f" {item.text}" for item in self.to_fit if item.clause == TORQUES)

    def is_unread(self, part: str) -> bool:
        """Tell whether a part of a standing run is shown as the least that would do, since nobody has read it yet."""
        return SIZE_FIELDS.get(part, part) in self.unread

    @property
    def drop_ahead(self) -> Fraction | None:
        """The drop from the service point to where the run begins, in per cent."""
        return self.case.ahead.drop_percent

    @property
    def as_whole_unit(self) -> WholeUnit | None:
        """What this run sets for those behind it, where it carries the whole of a dwelling unit."""
        size, device = self.size("hots"), self.figures.get("device")
        if not self.whole_dwelling or size is None or device is None or self.material is None or self.run.sets > 1:
            return None
        return WholeUnit(self.material, size, device.number)


def solve_run(case: RunCase, *, complete_mends: bool = True) -> RunAnswer:
    """Return the answer for a run, each part resting on those before it."""
    unread: list[str] = []
    if case.kind == UTILITY:
        _as_the_utility_tells(case)
    else:
        for part, solve in PARTS_OF_KIND.get(case.kind, PARTS):
            case.attempt(part, NOT_COMPUTED.get(case.kind, solve))
        unread = ask_for_the_unread(case)
        if complete_mends:
            complete(case, lambda run: solve_run(case.made_otherwise(run), complete_mends=False).verdicts)
    run = case.run
    hots = len([item for item in case.site.conductors_of.get(run.id, []) if item.role in LEGS])
    return RunAnswer(
        subject=Subject("run", run.id),
        figures=case.figures,
        gaps=case.gaps,
        verdicts=tuple(case.judge.verdicts),
        working=case.recorder,
        case=case,
        run=run,
        kind=case.kind,
        material=run.material,
        locked=frozenset([part for part, name in SIZE_FIELDS.items() if getattr(run, name)]),
        unread=frozenset(() if case.kind in NOT_SIZED else unread),
        whole_dwelling=case.whole_dwelling,
        hots_count=hots or len(LEGS) - 1,
        tap_rules=tuple(case.tap_rules),
        to_fit=tuple(case.to_fit),
    )


def _as_the_utility_tells(case: RunCase) -> None:
    """The utility's conductors are not sized here; where their size is told, what goes by it can be worked out."""
    if case.run.hot_size is not None:
        case.figures["hots"] = case.recorder.given(
            "Size of the utility's conductors", case.run.hot_size, "AWG/kcmil", "told by the utility"
        )


def _charging_circuit(case: RunCase) -> None:
    raise CannotCompute(
        "What a source takes over this run is not computed yet.", "Have its conductors and device sized by hand."
    )


def _cord(case: RunCase) -> None:
    raise CannotCompute(
        "The cord of a portable set comes with it and is not sized here.",
        "Use one listed for the set, with the number of wires that its inlet has.",
    )


def _leads(case: RunCase) -> None:
    raise CannotCompute(
        "The leads of a box of switches come with it and are not sized here.",
        "Use them as they come: a pair for each circuit, its neutral as large as the set's lines, and a grounding conductor.",
    )


NOT_COMPUTED = {CHARGING: _charging_circuit, CORD: _cord, LEADS: _leads}


def made_otherwise(answer: RunAnswer, **choice: Any) -> RunAnswer:
    """Return the same run with every size free, all upstream unchanged, and these of its properties chosen.

    What is only compared is not mended: its mends are not made complete.
    """
    other = answer.run.model_copy(update={**ALL_FREE, **choice})
    return solve_run(answer.case.made_otherwise(other), complete_mends=False)


def with_larger_hots(answer: RunAnswer, size: str) -> RunAnswer:
    """Return the same run made in the same way with its hots locked at another size, to be compared as well."""
    case = answer.case.made_otherwise(answer.run.model_copy(update={"hot_size": size}))
    case.by_table = answer.case.by_table
    return solve_run(case, complete_mends=False)


def in_other_material(answer: RunAnswer) -> RunAnswer:
    """Return the same run in the other metal."""
    return made_otherwise(answer, material="copper" if answer.material == "aluminum" else "aluminum")
