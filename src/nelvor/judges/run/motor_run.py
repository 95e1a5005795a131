"""Of a branch circuit drawn as a run: the one motor or compressor at its end, whose article its wires go by (240.4(G))."""

from __future__ import annotations

from nelvor.clauses import hot_conductors
from nelvor.clauses.ampacity import Circumstances
from nelvor.clauses.hot_conductors import Demand
from nelvor.clauses.motor_circuit import DRIVEN, MotorCircuit, motor_circuit
from nelvor.judges.run.case import RunCase
from nelvor.judges.verdict import Mend, proposing
from nelvor.model.things import Device, Load
from nelvor.model.voltages import LEGS
from nelvor.working import Figure, Recorder


def motor_load(case: RunCase) -> Load | None:
    """Return the one motor or compressor that a branch circuit leads to; None for any other run."""
    if case.kind != "branch":
        return None
    loads = case.site.loads_beneath(case.fed)
    alone = loads[0] if len(loads) == 1 and loads[0].quantity == 1 else None
    return alone if alone is not None and alone.category in DRIVEN else None


def judge_motor_device(case: RunCase, device: Device, rating: Figure) -> None:
    """The device of a motor's circuit has a largest rating of its own (430.52, 440.22)."""
    motor = _motor(case, case.recorder, device)
    if motor is None:
        return
    most = motor.largest_device
    if case.recorder.at_least("Device within its limit", most, rating, clause=motor.device_clause):
        case.judge.holds("motor_device", f"{rating.text} A, {most.text} A is the most.", motor.device_clause)
        return
    text = (
        f"A device of {rating.text} A protects a motor for which {most.text} A is the most. A plate that gives a largest "
        "device goes before this figure."
    )
    mend = Mend(f"{rating.text} A to {most.text} A", proposing("devices", device, rating_a=float(most.number)))
    case.judge.must_fix("motor_device", text, motor.device_clause, "", mend)


def _motor(case: RunCase, recorder: Recorder, device: Device) -> MotorCircuit | None:
    load = motor_load(case)
    if load is None or not case.need("load").number:
        return None
    three_phase = case.hot_count == len(LEGS)
    return motor_circuit(
        recorder, DRIVEN[load.category], case.need("load"), three_phase=three_phase, fuses=device.kind == "fuses"
    )


def guarded(case: RunCase) -> bool:
    """Tell whether the run's wires are guarded by the overload protection of the motor that they lead to."""
    load = motor_load(case)
    return load is not None and load.overload_protected is True


def ask_for_overload(case: RunCase, circumstances: Circumstances, demand: Demand, size: str) -> bool:
    """Ask whether the motor has overload protection, where smaller wires hang on it; tell whether it was asked."""
    load = motor_load(case)
    if load is None or load.overload_protected is not None:
        return False
    with_it = demand._replace(guarded_by_overload=True)
    other = hot_conductors.smallest_hots(Recorder(case.rules), circumstances, with_it).size
    if other == size:
        return False
    case.judge.about("loads", load.id).cannot_tell(
        "motor_overload",
        f"It is not entered whether {load.name or 'the motor'} has overload protection. With it {other} is enough for its "
        f"wires, without it they go by the device: {size}.",
        "motor_conductor_protection",
        "overload_protected",
    )
    return True
