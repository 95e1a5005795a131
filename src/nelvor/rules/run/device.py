"""Of a run: the load that it carries and the overcurrent device that protects it."""

from __future__ import annotations

from fractions import Fraction

from nelvor.errors import CannotCompute
from nelvor.model.things import Device
from nelvor.rules.device import smallest_device
from nelvor.rules.loads import LevelLoad
from nelvor.rules.run.case import RunCase
from nelvor.rules.verdict import Mend, proposing
from nelvor.working import Figure


def solve_load(case: RunCase) -> None:
    """Take down the load of the worst leg, as it is and with its continuous part raised."""
    level = case.known_level()
    worst = level.worst
    case.figures["load"] = case.recorder.given(
        f"Load on the worst leg ({worst.leg})", worst.actual.number, "A", "load calculation of what this run feeds"
    )
    case.figures["design"] = case.recorder.given(
        "the same with continuous load at 125 % and the motor adder",
        worst.design.number,
        "A",
        "load calculation of what this run feeds",
    )


def solve_device(case: RunCase) -> None:
    """Check the rating of the device, or choose the smallest standard one for all that it feeds."""
    device = case.protecting_device()
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
    if case.recorder.at_least("Device carries the load", rating, design, clause="continuous_125_feeder_ocpd"):
        case.judge.holds("device_load", f"{rating.text} A carries {design.text} A.", "continuous_125_feeder_ocpd")
        return
    needed = smallest_device(case.recorder, design)
    case.judge.must_fix(
        "device_load",
        f"The {rating.text} A device is below the load of {design.text} A (continuous part at 125 %).",
        "continuous_125_feeder_ocpd",
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
        design += level.worst.design.number if isinstance(level, LevelLoad) else case.need("design").number
    if design == 0:
        raise CannotCompute(
            "No load is entered beneath this run, so its device cannot be chosen.",
            "Enter the loads, or the rating of the device.",
        )
    name = device.name or "the device"
    return case.recorder.given(f"Load on {name}", design, "A", "load calculation of all that the device feeds")
