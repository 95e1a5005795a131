"""Exact numbers in ascending order, and where others lie among them."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from fractions import Fraction
from math import lcm


class Ladder(tuple[Fraction, ...]):
    """Exact numbers in ascending order, such as standard ratings. Others are sought among them as whole multiples of the
    largest part that all its numbers are made of, which is as exact and far quicker than one fraction after another."""

    _parts_in_one: int
    _rungs: list[int]

    def __init__(self, numbers: object) -> None:
        self._parts_in_one = lcm(*(number.denominator for number in self))
        self._rungs = [int(number * self._parts_in_one) for number in self]

    def below(self, value: Fraction) -> int:
        """Return how many of the numbers lie below a value: the place of the first that reaches it."""
        above, under = value.as_integer_ratio()
        return bisect_left(self._rungs, -(-above * self._parts_in_one // under))

    def up_to(self, value: Fraction) -> int:
        """Return how many of the numbers do not exceed a value: the place of the first above it."""
        above, under = value.as_integer_ratio()
        return bisect_right(self._rungs, above * self._parts_in_one // under)

    def reaching(self, value: Fraction) -> Fraction | None:
        """Return the smallest number that reaches a value; None where none does."""
        place = self.below(value)
        return self[place] if place < len(self) else None
