"""Exact numbers in, readable numbers out."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction
from functools import lru_cache, reduce

BEYOND_READING = 10**15
PLACES = {"VA": 0, "A": 1, "%": 1}
MOST_PLACES = 9
NEAR_PARTS, ROUND_VA = 100, 100


def exact(value: float | int | str | Fraction) -> Fraction:
    """Return the number as written, without binary rounding: 0.1 is one tenth."""
    return value if type(value) is Fraction else _as_written(value)


@lru_cache(maxsize=8192)
def _as_written(value: float | int | str) -> Fraction:
    return Fraction(str(value))


def total(numbers: Iterable[Fraction]) -> Fraction:
    """Return the sum, brought to lowest terms once and not after each addition."""
    above, under = 0, 1
    for number in numbers:
        top, bottom = number.as_integer_ratio()
        if bottom == under:
            above += top
        else:
            above, under = above * bottom + top * under, under * bottom
    return Fraction(above, under)


def product(numbers: Iterable[Fraction | int]) -> Fraction:
    """Return the product, brought to lowest terms once and not after each multiplication."""
    above = under = 1
    for number in numbers:
        top, bottom = number.as_integer_ratio()
        above *= top
        under *= bottom
    return Fraction(above, under)


def difference(whole: Fraction, part: Fraction) -> Fraction:
    """Return what is left of one number without another."""
    above, under = whole.as_integer_ratio()
    top, bottom = part.as_integer_ratio()
    return Fraction(above * bottom - top * under, under * bottom)


def quotient(number: Fraction, by: Fraction) -> Fraction:
    """Return one number over another.

    Raises:
        ZeroDivisionError: the other is nothing.
    """
    above, under = number.as_integer_ratio()
    top, bottom = by.as_integer_ratio()
    return Fraction(above * bottom, under * top)


def reaches(have: Fraction, need: Fraction) -> bool:
    """Tell whether one number is no less than another: crosswise, without a look at what kinds of numbers they are."""
    above, under = have.as_integer_ratio()
    top, bottom = need.as_integer_ratio()
    return above * bottom >= top * under


def greatest(numbers: Iterable[Fraction]) -> Fraction:
    """Return the first of the greatest numbers."""
    return reduce(lambda best, number: best if reaches(best, number) else number, numbers)


def least(numbers: Iterable[Fraction]) -> Fraction:
    """Return the first of the least numbers."""
    return reduce(lambda best, number: best if reaches(number, best) else number, numbers)


def read(value: Fraction, unit: str) -> str:
    """Return a figure for reading: VA whole, amperes and per cent to a tenth, others as ``shown``.

    Limits are whole numbers as a rule, of VA round ones; where rounding would put a figure on one that it does not equal, it is given
    more digits, so that it can be seen on which side it lies.
    """
    places = PLACES.get(unit)
    if places is None:
        return shown(value)
    above, below = value.as_integer_ratio()
    if below == 1 or abs(above) >= BEYOND_READING * below:
        return _shown(above, below)
    while True:
        scale = 10**places
        parts = (2 * above * scale + below) // (2 * below)  # so many of 1/scale, rounded
        whole, rest = divmod(parts, scale)
        off = abs(above * scale - parts * below)
        if rest or not off or places >= MOST_PLACES:
            return _without_idle_zeros(f"{parts / scale:.{places}f}")
        if unit == "VA" and (off * NEAR_PARTS > below * scale or whole % ROUND_VA):
            return str(whole)
        places += 1


def shown(value: Fraction, digits: int = 4) -> str:
    """Return the number for reading: whole numbers whole, others to ``digits`` significant digits."""
    return _shown(*value.as_integer_ratio(), digits)


def _shown(above: int, below: int, digits: int = 4) -> str:
    if below == 1:
        return str(above)
    magnitude = abs(above)
    if magnitude >= BEYOND_READING * below:
        return str(round(Fraction(above, below)))
    if magnitude >= 100 * below:
        text = f"{above / below:.1f}"
    elif magnitude >= 10 * below:
        text = f"{above / below:.2f}"
    else:
        text = f"{above / below:.{digits}g}"
        if "e" in text:
            text = f"{above / below:.6f}"
    return _without_idle_zeros(text)


def _without_idle_zeros(text: str) -> str:
    return text.rstrip("0").rstrip(".") if "." in text else text
