"""Between which bounds the fault current lies behind wires, where only its size ahead of them is told, not its angle."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from nelvor.clauses.ampacity import COLUMN
from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3
from nelvor.clauses.voltage_drop import REACTANCE_COLUMN, STEEL
from nelvor.model.voltages import LINE_TO_LINE_V, THREE_PHASE
from nelvor.working import Figure, Recorder

CLAUSE = "interrupting_rating"
FEET = 1000
VA_IN_A_KVA = 1000


@dataclass(frozen=True)
class Wire:
    """The lines of one run on the way to a fault: their size, metal, wiring method, sets in parallel, and length in ft."""

    size: str
    material: str
    method: str
    sets: int
    length_ft: Fraction


@dataclass(frozen=True)
class FaultBehind:
    """The fault current behind wires in A: no more than ``most``, no less than ``least``; None where that is not known."""

    most: Figure
    least: Figure | None


def from_a_transformer(recorder: Recorder, kva: Figure, impedance: Figure, system: str) -> Figure:
    """Return what a transformer gives into a fault at its terminals at most, in A: that of a supply without limit ahead.

    Its impedance may be a tenth less than its plate says. A centre-tapped one gives half as much again from line to
    neutral as between lines; a three-phase one as much as in a fault of all lines.
    """
    volts = recorder.given("Volts between lines", LINE_TO_LINE_V[system], "V", "system")
    phases = SQUARE_ROOT_OF_3 if system in THREE_PHASE else Fraction(1)
    root = recorder.given("Times by the phases", phases, "", "system")
    va = recorder.multiply("Rating", kva, recorder.given("VA in a kVA", VA_IN_A_KVA, "VA/kVA", "unit"), unit="VA")
    full_load = recorder.divide("Full-load current", va, recorder.multiply("Volts", volts, root, unit="V"), "A", CLAUSE)
    tolerance = recorder.parameter("impedance_at_least_share", "Share of the impedance that there is at least")
    share = recorder.divide(
        "Impedance, at least",
        recorder.multiply("Less the tolerance", impedance, tolerance, unit="%"),
        recorder.given("Per cent", 100, "%", "unit"),
        "",
        CLAUSE,
    )
    between = recorder.divide("Into a fault at its terminals, at most", full_load, share, "A", CLAUSE)
    if system in THREE_PHASE:
        return between
    half = recorder.parameter("to_neutral_times_line", "Line to neutral, times between lines")
    return recorder.multiply("From line to neutral at its terminals", between, half, unit="A", clause=CLAUSE)


def fault_behind(
    recorder: Recorder, ahead: Figure, volts: Figure, there_and_back: int, wires: Sequence[Wire]
) -> FaultBehind:
    """Return the bounds behind wires of what is told ahead of them. ``there_and_back`` is 2 between lines, 1 three-phase.

    Most: the impedances of supply and wires stand at right angles, the wires at 25 °C. Least: they have the same angle,
    the wires at 75 °C, their resistance and reactance added. What motors give is added by who asks.

    Raises:
        MissingFigure: a size that Chapter 9 Table 9 does not hold.
    """
    warm, reactance = _resistance(recorder, wires), _reactance(recorder, wires)
    cold = _cold(recorder, warm, wires)
    times = recorder.given("Conductors that it passes through", there_and_back, "", "one way and back")
    impedance = recorder.multiply(
        "Impedance of the wires, cold", recorder.hypotenuse("Of one conductor", cold, reactance), times, unit="ohm"
    )
    most = _both(
        recorder, ahead, recorder.divide("Through the wires alone", volts, impedance, "A", CLAUSE), least=False
    )
    together = recorder.multiply(
        "R and X of the wires", recorder.add("One conductor", warm, reactance), times, unit="ohm"
    )
    least = _both(recorder, ahead, recorder.divide("Through R and X alone", volts, together, "A", CLAUSE), least=True)
    return FaultBehind(most, least)


def _both(recorder: Recorder, ahead: Figure, wires: Figure, *, least: bool) -> Figure:
    """Two impedances in series, told as the currents that each would let through."""
    product = recorder.multiply("The one times the other", ahead, wires, unit="A²")
    if least:
        return recorder.divide("Fault current, at least", product, recorder.add("Added", ahead, wires), "A", CLAUSE)
    return recorder.divide(
        "Fault current, at most", product, recorder.hypotenuse("At right angles", ahead, wires), "A", CLAUSE
    )


def _resistance(recorder: Recorder, wires: Sequence[Wire]) -> Figure:
    return _sum(recorder, "Resistance", [(wire, f"r_{COLUMN[wire.material]}_{_wall(wire, 'pvc')}") for wire in wires])


def _reactance(recorder: Recorder, wires: Sequence[Wire]) -> Figure:
    return _sum(recorder, "Reactance", [(wire, REACTANCE_COLUMN[_wall(wire, "other")]) for wire in wires])


def _wall(wire: Wire, otherwise: str) -> str:
    return "steel" if wire.method in STEEL else otherwise


def _sum(recorder: Recorder, what: str, columns: list[tuple[Wire, str]]) -> Figure:
    parts = []
    for wire, column in columns:
        each = recorder.table(f"{what} of {wire.size}", "conductor_ac", (wire.size,), column)
        length = recorder.given("Length over sets", wire.length_ft / FEET / wire.sets, "kft", "run")
        parts.append(recorder.multiply(f"{what} of the run", each, length, unit="ohm"))
    return parts[0] if len(parts) == 1 else recorder.add(f"{what} of all runs", *parts)


def _cold(recorder: Recorder, warm: Figure, wires: Sequence[Wire]) -> Figure:
    """At 25 °C a conductor lets through more: R × (1 + α × (25 − 75)), the larger α of the metals (Table 8 note 2)."""
    metal = "al" if any(wire.material == "aluminum" for wire in wires) else "cu"
    share = recorder.parameter(f"cold_share_{metal}", "Share of the resistance at 25 °C")
    return recorder.multiply("Resistance at 25 °C", warm, share, unit="ohm")
