"""Exact numbers in, readable numbers out."""

from __future__ import annotations

from fractions import Fraction
from functools import lru_cache

BEYOND_READING = 10**15


def exact(value: float | int | str | Fraction) -> Fraction:
    """Return the number as written, without binary rounding: 0.1 is one tenth."""
    return value if type(value) is Fraction else _as_written(str(value))


@lru_cache(maxsize=8192)
def _as_written(text: str) -> Fraction:
    return Fraction(text)


def shown(value: Fraction, digits: int = 4) -> str:
    """Return the number for reading: whole numbers whole, others to ``digits`` significant digits."""
    if value.denominator == 1:
        return str(value.numerator)
    magnitude = abs(value)
    if magnitude >= BEYOND_READING:
        return str(round(value))
    if magnitude >= 100:
        text = f"{float(value):.1f}"
    elif magnitude >= 10:
        text = f"{float(value):.2f}"
    else:
        text = f"{float(value):.{digits}g}"
        if "e" in text:
            text = f"{float(value):.6f}"
    return text.rstrip("0").rstrip(".") if "." in text else text
