"""Whether a device opens, and when, by generic bands: what breakers of its size are tested to, not this one's own curve."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from nelvor.errors import MissingFigure
from nelvor.model.things import Device
from nelvor.rulebook.rules import Rules

Opens = Literal["stays", "may_stay", "opens", "at_once", "unknown"]
OPENS_FROM, TWICE = 1.35, 2.0
AT_ONCE_FROM = 10.0
"""From here on the magnetic part of a breaker opens, in multiples of its rating; some open from half of it."""


@dataclass(frozen=True)
class Trip:
    """What a device does at a current: in seconds at most, where it opens."""

    opens: Opens
    within_s: float | None = None


def trip_of(rules: Rules, device: Device, amperes: float) -> Trip:
    """Return what a device does at a current in A (generic calibration: holds 100 %, opens at 135 and 200 %)."""
    if device.rating_a is None:
        return Trip("unknown")
    if device.kind == "switch":
        return Trip("stays")
    multiple = amperes / device.rating_a
    if multiple <= 1:
        return Trip("stays")
    if multiple >= AT_ONCE_FROM:
        return Trip("at_once", 0.05)
    if multiple < OPENS_FROM:
        return Trip("may_stay")
    try:
        row = rules.band("breaker_calibration", Fraction(str(device.rating_a)))
    except MissingFigure:
        return Trip("opens")
    return Trip("opens", float(row["trip_s_at_200pct" if multiple >= TWICE else "trip_s_at_135pct"]))
