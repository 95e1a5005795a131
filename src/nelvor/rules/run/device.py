"""Of a run: the load that it carries and the overcurrent device that protects it."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from nelvor.errors import CannotCompute
from nelvor.model.things import Device
from nelvor.rules.device import smallest_device
from nelvor.rules.loads import LevelLoad
from nelvor.rules.run.case import RunCase
from nelvor.rules.verdict import Mend, proposing
from nelvor.working import Figure

SPREAD_OVER_ALL_LEGS = frozenset({"even", "even_line_to_line", "three_phase"})


@dataclass(frozen=True)
class Carried:
    """The current of the hardest loaded conductor in A, as it is and as designed for, and what it is called."""

    label: str
    actual: Fraction
    design: Fraction


def carried_by(level: LevelLoad, hots: frozenset[str]) -> Carried:
    """Return what the hot conductors of a run, named by their legs, carry of the load of a level.

    With one hot, all that is connected to neutral flows in it.

    Raises:
        CannotCompute: loads lie between lines, or on legs, that the run does not bring.
    """
    worst = level.worst
    if len(hots) >= len(level.legs):
        return Carried(f"Load on the worst leg ({worst.leg})", worst.actual.number, worst.design.number)
    connections = {kind.connection for _, kind in level.tally}
    if len(hots) == 1:
        if level.has_line_to_line or "three_phase" in connections:
            raise CannotCompute(
                "A load between lines stands behind a run with one hot conductor.",
                "Give the run two hot conductors, or connect the load to neutral.",
            )
        actual, design = (
            sum((figure.number for figure in figures), Fraction(0))
            for figures in zip(*((leg.actual, leg.design) for leg in level.legs), strict=True)
        )
        return Carried("Load on the one hot conductor", actual, design)
    if connections & SPREAD_OVER_ALL_LEGS or any(leg.actual.number for leg in level.legs if leg.leg not in hots):
        raise CannotCompute(
            "The load behind this run lies on three legs, and the run has two hot conductors.",
            "Choose the connection of each load, or run the third leg.",
        )
    return Carried(f"Load on the worst leg ({worst.leg})", worst.actual.number, worst.design.number)


def solve_load(case: RunCase) -> None:
    """Take down the load of the hardest loaded hot conductor, as it is and with its continuous part raised."""
    carried = carried_by(case.known_level(), case.hot_legs())
    source = "load calculation of what this run feeds"
    case.figures["load"] = case.recorder.given(carried.label, carried.actual, "A", source)
    label = "the same with continuous load at 125 % and the motor adder"
    case.figures["design"] = case.recorder.given(label, carried.design, "A", source)


def solve_device(case: RunCase) -> None:
    """Check the rating of the device, or choose the smallest standard one for all that it feeds."""
    device = case.protecting_device()
    clause = "continuous_125_branch_ocpd" if case.kind == "branch" else "continuous_125_feeder_ocpd"
    if device.rating_a is None:
        case.figures["device"] = smallest_device(case.recorder, _load_on(case, device))
        return
    rating = case.recorder.given(f"Rating of {device.name or 'the device'}", device.rating_a, "A", "design")
    case.figures["device"] = rating
    if "design" not in case.figures:
        return
    if rating.number not in case.rules.standard_ratings():
        case.judge.must_fix(
            "device_standard",
            f"{rating.text} A is not a standard rating.",
            "standard_ocpd",
            "",
            Mend("Choose the rating anew", proposing("devices", device, rating_a=None)),
        )
    design = case.need("design")
    if case.recorder.at_least("Device carries the load", rating, design, clause=clause):
        case.judge.holds("device_load", f"{rating.text} A carries {design.text} A.", clause)
        return
    needed = smallest_device(case.recorder, design)
    case.judge.must_fix(
        "device_load",
        f"The {rating.text} A device is below the load of {design.text} A (continuous part at 125 %).",
        clause,
        "",
        Mend(f"Make it {needed.text} A", proposing("devices", device, rating_a=float(needed.number))),
    )


def _load_on(case: RunCase, device: Device) -> Figure:
    """Return the design load of all that a device to be chosen protects, which may be more than this run.

    Raises:
        CannotCompute: no load is entered there.
    """
    main = case.site.main_of(device.enclosure_id)
    if main is not None and main.id == device.id:
        fed = [device.enclosure_id]
    else:
        leaving = case.site.runs_from.get(device.enclosure_id, [])
        fed = [case.site.downstream_of(run) for run in leaving if run.from_part == device.id]
    design = Fraction(0)
    for enclosure_id in fed:
        level = case.levels.get(enclosure_id)
        if isinstance(level, LevelLoad):
            design += carried_by(level, case.hot_legs()).design
        else:
            design += case.need("design").number
    if design == 0:
        raise CannotCompute(
            "No load is entered beneath this run, so its device cannot be chosen.",
            "Enter the loads, or the rating of the device.",
        )
    name = device.name or "the device"
    return case.recorder.given(f"Load on {name}", design, "A", "load calculation of all that the device feeds")
