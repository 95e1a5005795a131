"""Feeders of several motors: conductors (430.24) and the largest device (430.62)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from nelvor.clauses.load_kind import motor_amperes
from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder

MotorKind = Literal["squirrel_cage", "wound_rotor", "hermetic"]


@dataclass(frozen=True)
class Motor:
    """One motor: its horsepower and volts, its phases, its branch device in A where it is known.

    A hermetic compressor goes by ``rated_a``, the larger of rated-load and branch-circuit selection current in A.
    """

    horsepower: Fraction
    volts: int
    three_phase: bool
    branch_device_a: Fraction | None
    kind: MotorKind = "squirrel_cage"
    rated_a: Fraction | None = None


@dataclass(frozen=True)
class MotorFeeder:
    """The least ampacity of the feeder and the largest device ahead of it, in A."""

    conductor_a: Figure
    most_device_a: Figure
    device: Figure


def motor_feeder(
    recorder: Recorder, motors: Sequence[Motor], continuous_a: Figure, noncontinuous_a: Figure, device_column: str
) -> MotorFeeder:
    """Return conductors and device of a feeder with motors and other loads.

    ``device_column`` names the kind of branch device in Table 430.52, by which a branch device that
    is not entered is worked out.

    Raises:
        CannotCompute, MissingFigure: a motor outside the tables.
    """
    currents = [_current(recorder, number, motor) for number, motor in enumerate(motors, 1)]
    largest = max(range(len(motors)), key=lambda place: currents[place].number)
    extra = recorder.parameter("largest_motor_extra", "Added for the largest motor")
    adder = recorder.multiply("A quarter of the largest motor", currents[largest], extra, unit="A")
    factor = recorder.parameter("continuous_factor", "Continuous load at")
    raised = recorder.multiply("Other continuous load", continuous_a, factor, unit="A")
    conductor = recorder.add(
        "Least ampacity of the feeder", *currents, adder, noncontinuous_a, raised, clause="motor_feeder_conductor"
    )
    devices = [
        _branch_device(recorder, motor, current, device_column) for motor, current in zip(motors, currents, strict=True)
    ]
    biggest = max(range(len(motors)), key=lambda place: devices[place].number)
    others = [current for place, current in enumerate(currents) if place != biggest]
    most = recorder.add(
        "Largest branch device, the other motors and loads",
        devices[biggest],
        *others,
        noncontinuous_a,
        raised,
        clause="motor_feeder_ocpd",
    )
    ratings = _ratings_of(recorder, device_column)
    device = recorder.next_down("Largest feeder device", most, ratings, "motor_feeder_ocpd")
    if device is None:
        raise CannotCompute("No standard device is small enough.", "Check the motors.")
    return MotorFeeder(conductor, most, device)


def _current(recorder: Recorder, number: int, motor: Motor) -> Figure:
    if motor.kind == "hermetic":
        if motor.rated_a is None:
            raise CannotCompute(f"The rated-load current of compressor {number} is not known.", "Enter it.")
        return recorder.given(f"Compressor {number}, rated-load or selection current", motor.rated_a, "A", "nameplate")
    amperes = motor_amperes(motor.horsepower, motor.volts, motor.three_phase, recorder.rules)
    table = "motor_three_phase" if motor.three_phase else "motor_single_phase"
    return recorder.given(f"Motor {number}, full-load current", amperes, "A", recorder.rules.table_title(table))


def _branch_device(recorder: Recorder, motor: Motor, current: Figure, column: str) -> Figure:
    """The branch device as entered, or the table's percentage and the next standard rating (430.52(C)(1))."""
    if motor.branch_device_a is not None:
        return recorder.given("Branch device, entered", motor.branch_device_a, "A", "entered")
    if motor.kind == "hermetic":
        return largest_compressor_device(recorder, current)
    row = "single_phase"
    if motor.three_phase:
        row = "wound_rotor" if motor.kind == "wound_rotor" else "polyphase_not_wound_rotor"
    return largest_motor_device(recorder, current, row, column)


def largest_motor_device(recorder: Recorder, current: Figure, row: str, column: str) -> Figure:
    """Return the largest branch device of a motor: the percentage of Table 430.52, the next standard rating up.

    Raises:
        CannotCompute: no standard device is large enough.
    """
    percent = recorder.table("Branch device, per cent", "motor_device_percent", (row,), column)
    hundred = recorder.given("per cent", Fraction(1, 100), "", "per cent")
    most = recorder.multiply("Branch device, at most", current, percent, hundred, unit="A", clause="motor_branch_ocpd")
    chosen = recorder.next_up("Branch device", most, _ratings_of(recorder, column), "motor_branch_ocpd")
    if chosen is None:
        raise CannotCompute("No standard device is large enough for a motor.", "Enter the branch device.")
    return chosen


def _ratings_of(recorder: Recorder, device_column: str) -> tuple[Fraction, ...]:
    """Fuses come in smaller standard ratings than breakers do (240.6(A))."""
    return recorder.rules.standard_ratings(breakers_only="fuse" not in device_column)


def largest_compressor_device(recorder: Recorder, current: Figure) -> Figure:
    """The branch device of a hermetic compressor: 175 % of its current, not above, and 15 A always (440.22(A))."""
    factor = recorder.parameter("compressor_device_factor", "Branch device, at most")
    most = recorder.multiply("Branch device, at most", current, factor, unit="A", clause="compressor_branch_ocpd")
    least = recorder.parameter("compressor_device_least_a", "or at least")
    limit = recorder.greatest("Branch device of the compressor, at most", most, least, clause="compressor_branch_ocpd")
    chosen = recorder.next_down("Branch device", limit, recorder.rules.standard_ratings(), "compressor_branch_ocpd")
    assert chosen is not None  # the least device is a standard rating
    return chosen
