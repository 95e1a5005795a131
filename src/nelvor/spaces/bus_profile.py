"""The worst current along a bus: what can flow through each of its segments for the breakers as they stand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction


@dataclass(frozen=True)
class OnBus:
    """Something on a bus at a row, counted from one end: what it can give and what it can take, in A."""

    row: int
    gives_a: Fraction
    takes_a: Fraction


def bus_profile(rows: int, elements: Sequence[OnBus]) -> list[Fraction]:
    """Return the worst current of the segment below each row but the last, in A.

    Through a segment flows no more than what stands on one side of it can give, and no more than what stands on the
    other can take; the larger of both ways counts. The supply is one of the elements: it gives and takes what its
    device lets through.
    """
    found = []
    for row in range(rows - 1):
        above = [item for item in elements if item.row <= row]
        below = [item for item in elements if item.row > row]
        downward = min(_sum(above, "gives_a"), _sum(below, "takes_a"))
        upward = min(_sum(below, "gives_a"), _sum(above, "takes_a"))
        found.append(max(downward, upward))
    return found


def _sum(elements: Sequence[OnBus], what: str) -> Fraction:
    return sum((getattr(item, what) for item in elements), Fraction(0))
