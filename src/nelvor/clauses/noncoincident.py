"""Loads that cannot run at once: the largest of each group counts, the others are left out (220.60)."""

from __future__ import annotations

from collections import defaultdict

from nelvor.clauses.demand import CATEGORY_LABELS, Kinds, sum_of
from nelvor.clauses.load_kind import LoadKind
from nelvor.working import Figure, Recorder

MOTOR_FACTOR = {"motor": "noncoincident_motor_factor", "cooling": "noncoincident_cooling_factor"}


def running_together(kinds: Kinds, recorder: Recorder) -> Kinds:
    """Return the kinds without those that a larger one of their group keeps out.

    From the edition that says so on, a motor (later cooling too) that is not the largest counts at 125 % and
    may then be what stands; its own 25 % as the largest motor is in that.
    """
    groups: dict[str, list[LoadKind]] = defaultdict(list)
    for kind in kinds:
        if kind.apart:
            groups[kind.apart].append(kind)
    if not groups:
        return kinds
    left = kinds.copy()
    for name in sorted(groups):
        members = sorted(groups[name], key=lambda kind: (kind.category, kind.each))
        if len(members) < 2:  # noqa: PLR2004 one alone runs by itself
            continue
        plain = max(members, key=lambda kind: kind.each * kinds[kind])
        compared = {
            kind: _connected(kind, kinds[kind], recorder) if kind is plain else _compared(kind, kinds[kind], recorder)
            for kind in members
        }
        recorder.greatest("The largest of what cannot run at once", *compared.values(), clause="noncoincident")
        stands = max(members, key=lambda kind: (compared[kind].number, kind is plain))
        for kind in members:
            if kind is not stands:
                del left[kind]
        if stands is not plain:
            raised = compared[stands].number / kinds[stands]
            left[stands._replace(category="other", each=raised)] = left.pop(stands)
    return left


def _connected(kind: LoadKind, count: int, recorder: Recorder) -> Figure:
    return sum_of(recorder, CATEGORY_LABELS[kind.category], [(kind, count)])


def _compared(kind: LoadKind, count: int, recorder: Recorder) -> Figure:
    name = CATEGORY_LABELS[kind.category]
    connected = _connected(kind, count, recorder)
    key = MOTOR_FACTOR.get(kind.category)
    if key is None:
        return connected
    factor = recorder.parameter(key, f"{name} compared at")
    return recorder.multiply(f"{name}, as compared", connected, factor, unit="VA", clause="noncoincident")
