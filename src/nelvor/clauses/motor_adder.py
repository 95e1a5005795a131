"""The motor adder: a quarter of the largest motor, on each conductor of a level, of the largest motor on it (430.24)."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction

from nelvor.clauses.demand import DemandLine
from nelvor.clauses.load_kind import EVEN_ON, LoadKind, Tally, amperes_per_va
from nelvor.model.voltages import LINE_TO_LINE_V, LINE_TO_NEUTRAL_V, legs_of
from nelvor.working import Figure, Recorder, product


def motor_adder(tally: Tally, lines: Iterable[DemandLine], system: str, recorder: Recorder) -> dict[str, Figure]:
    """Return a quarter of the current of the largest motor on each leg, by the current that it draws there (430.17, 430.24).

    Several motors count once at a level, but not the same one on every conductor: each has the largest of its own.
    """
    counted = {kind for line in lines if line.motor for kind, _ in line.kinds}
    motors = [kind for _, kind in tally if kind.is_motor and kind in counted and kind.each > 0]
    if not motors:
        return {}
    extra = recorder.parameter("largest_motor_extra", "Added for the largest motor")
    adders = {}
    for leg in legs_of(system):
        on_leg = [kind for kind in motors if leg in amperes_per_va(kind.connection, system)]
        if on_leg:
            largest = _hardest(on_leg, leg, system)
            motor = recorder.given(f"Largest motor on {leg}", largest.each, "VA", "loads of this level")
            weight = per_va_on(recorder, leg, _own_amperes(largest, leg, system))
            adders[leg] = recorder.multiply(
                f"Motor adder on {leg}", motor, extra, weight, unit="A", clause="motor_load_125"
            )
    return adders


def _hardest(motors: list[LoadKind], leg: str, system: str) -> LoadKind:
    """The motor that draws the most on a conductor."""
    if len(motors) == 1:
        return motors[0]
    return max(motors, key=lambda kind: (product((kind.each, _own_amperes(kind, leg, system))), kind.connection))


def _own_amperes(kind: LoadKind, leg: str, system: str) -> Fraction:
    """The amperes that one VA of a motor draws on a conductor that it is on.

    Motors spread evenly over the legs are a fiction for their sum; each of them draws its whole current on its own.
    """
    if kind.connection == "even" or kind.connection.startswith(EVEN_ON):
        return 1 / Fraction(LINE_TO_NEUTRAL_V.get(system, LINE_TO_LINE_V[system]))
    if kind.connection == "even_line_to_line":
        return 1 / Fraction(LINE_TO_LINE_V[system])
    return amperes_per_va(kind.connection, system)[leg]


def per_va_on(recorder: Recorder, leg: str, amperes: Fraction) -> Figure:
    """Return the amperes on a leg for one VA, taken down."""
    return recorder.given(
        f"Amperes on {leg} for one VA", amperes, "A/VA", "connection and nominal voltage of the loads"
    )
