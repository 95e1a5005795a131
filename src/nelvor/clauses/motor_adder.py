"""The motor adder: a quarter of the largest motor, once at each level, on the legs that it loads (430.24)."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction

from nelvor.clauses.demand import DemandLine
from nelvor.clauses.dwelling_standard import MOTOR_DRIVEN
from nelvor.clauses.load_kind import Tally, amperes_per_va
from nelvor.working import Figure, Recorder


def motor_adder(tally: Tally, lines: Iterable[DemandLine], system: str, recorder: Recorder) -> dict[str, Figure]:
    """Return the 25 % of the largest motor on each leg it loads (430.24); counted once at a level."""
    counted = {kind for line in lines if line.motor for kind, _ in line.kinds}
    motors = [kind for _, kind in tally if kind.category in MOTOR_DRIVEN and kind in counted and kind.each > 0]
    if not motors:
        return {}
    largest = max(motors, key=lambda kind: (kind.each, kind.connection))
    motor = recorder.given("Largest motor", largest.each, "VA", "loads of this level")
    extra = recorder.parameter("largest_motor_extra", "Added for the largest motor")
    more = recorder.multiply("Largest motor, added", motor, extra, unit="VA", clause="motor_load_125")
    return {
        leg: recorder.multiply(f"Motor adder on {leg}", more, per_va_on(recorder, leg, per_va), unit="A")
        for leg, per_va in amperes_per_va(largest.connection, system).items()
    }


def per_va_on(recorder: Recorder, leg: str, amperes: Fraction) -> Figure:
    """Return the amperes on a leg for one VA, taken down."""
    return recorder.given(
        f"Amperes on {leg} for one VA", amperes, "A/VA", "connection and nominal voltage of the loads"
    )
