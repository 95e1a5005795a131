"""A mend of a run is complete: what it makes too small of the parts that are locked is let go with it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction

from nelvor.clauses.ampacity import size_index
from nelvor.clauses.hot_conductors import small_conductor_limit
from nelvor.judges.run.case import RunCase
from nelvor.judges.verdict import Mend, Verdict, proposing
from nelvor.model.changes.operations import Put
from nelvor.model.things import Run
from nelvor.working import Recorder, exact

LET_GO = {"ground_size": "ground_size", "neutral_size": "neutral_size", "raceway_fill": "raceway_size"}
"""Findings that a mend of something else may leave behind, with the locked size that each is about."""

TriedOut = Callable[[Run], tuple[Verdict, ...]]


def complete(case: RunCase, tried_out: TriedOut) -> None:
    """Complete the mends of a run; ``tried_out`` tells what would be found of it made in another way."""
    verdicts = case.judge.verdicts
    for place, verdict in enumerate(verdicts):
        if verdict.outcome in ("must_fix", "advice") and verdict.id == case.run.id and verdict.mends:
            verdicts[place] = verdict._replace(mends=tuple(_completed(case, mend, tried_out) for mend in verdict.mends))


def _completed(case: RunCase, mend: Mend, tried_out: TriedOut) -> Mend:
    puts = [item for item in mend.operations if isinstance(item, Put)]
    rating = next((item.value for item in puts if item.field == "rating_a"), None)
    if rating is not None:
        enough = case.run.hot_size is None or _wires_allow(case, case.run.hot_size, exact(rating))
        mend = _those_behind_follow(case, mend, None)
        return _letting_go(case, mend, ("ground_size",) if enough else ("hot_size", "ground_size", "raceway_size"))
    own = [item for item in puts if item.id == case.run.id]
    if not own or len(own) < len(mend.operations):
        return mend
    larger = next((item.value for item in own if item.field == "hot_size"), None)
    mend = _those_behind_follow(case, mend, larger) if larger is not None else mend
    changed = case.run.model_copy(update={item.field: item.value for item in own})
    already = {item.code for item in case.judge.verdicts if item.outcome == "must_fix"}
    left = {item.code for item in tried_out(changed) if item.outcome == "must_fix"} - already
    return _letting_go(case, mend, tuple(field for code, field in LET_GO.items() if code in left))


def _wires_allow(case: RunCase, size: str, rating: Fraction) -> bool:
    """Tell whether locked wires carry a larger device: by their ampacity, and as small conductors (240.4(D))."""
    ampacity = case.figures.get("ampacity")
    limit = small_conductor_limit(Recorder(case.rules), size, case.run.material) if case.run.material else None
    return ampacity is not None and ampacity.number >= rating and (limit is None or limit.number >= rating)


def _those_behind_follow(case: RunCase, mend: Mend, size: str | None) -> Mend:
    """Feeders of a dwelling unit that were large enough as large as this run (310.12) are chosen anew with it.

    ``size`` is what this run gets, None where that is still to be chosen.
    """
    hots = case.figures.get("hots")
    if hots is None or not case.whole_dwelling:
        return mend
    behind = [
        run
        for run in case.site.drawn_runs
        if run.hot_size is not None
        and size_index(hots.text) <= size_index(run.hot_size)
        and (size is None or size_index(run.hot_size) < size_index(size))
        and case.run in case.site.runs_to_source(case.site.upstream_of(run))
    ]
    letting_go = tuple(step for run in behind for step in proposing("runs", run, hot_size=None))
    return replace(mend, operations=(*mend.operations, *letting_go))


def _letting_go(case: RunCase, mend: Mend, fields: tuple[str, ...]) -> Mend:
    locked = {field: None for field in fields if getattr(case.run, field) is not None}
    return replace(mend, operations=(*mend.operations, *proposing("runs", case.run, **locked))) if locked else mend
