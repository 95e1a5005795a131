"""The circuit of one motor or compressor: its wires by its own article, and how large its device may be (240.4(G))."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from nelvor.clauses.motors import largest_compressor_device, largest_motor_device
from nelvor.working import Figure, Recorder

Driven = Literal["motor", "compressor"]
DRIVEN: dict[str, Driven] = {"motor": "motor", "cooling": "compressor", "heat_pump": "compressor"}
"""What drives a load of these categories, where it is alone on its circuit."""

CONDUCTOR_CLAUSE = {"motor": "motor_conductor_125", "compressor": "compressor_conductor"}
DEVICE_CLAUSE = {"motor": "motor_branch_ocpd", "compressor": "compressor_branch_ocpd"}
NONTIME_FUSES, INVERSE_TIME = "nontime_fuse_pct", "inverse_time_pct"


@dataclass(frozen=True)
class MotorCircuit:
    """What the circuit of one motor asks: the least ampacity of its wires and the largest device, in A."""

    least_ampacity: Figure
    largest_device: Figure
    conductor_clause: str
    device_clause: str


def motor_circuit(
    recorder: Recorder, driven: Driven, current: Figure, *, three_phase: bool, fuses: bool
) -> MotorCircuit:
    """Return what one motor (430.22, 430.52) or hermetic compressor (440.22, 440.32) asks of its branch circuit.

    ``current`` is the full-load current of the tables, or the rated-load current of a compressor.

    Raises:
        CannotCompute: no standard device is large enough.
    """
    factor = recorder.parameter("motor_conductor_factor", "Wires of one motor")
    least = recorder.multiply("Least ampacity of the wires", current, factor, unit="A", clause=CONDUCTOR_CLAUSE[driven])
    if driven == "compressor":
        largest = largest_compressor_device(recorder, current)
    else:
        column = NONTIME_FUSES if fuses else INVERSE_TIME
        row = "polyphase_not_wound_rotor" if three_phase else "single_phase"
        largest = largest_motor_device(recorder, current, row, column)
    return MotorCircuit(least, largest, CONDUCTOR_CLAUSE[driven], DEVICE_CLAUSE[driven])
