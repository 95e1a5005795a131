"""Of a run: the load that it carries and the overcurrent device that protects it."""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.clauses.device_rating import smallest_device
from nelvor.clauses.disconnect_floor import least_disconnect
from nelvor.errors import CannotCompute
from nelvor.judges.bus_large_enough import raising
from nelvor.judges.run.case import RunCase
from nelvor.judges.run.motor_run import judge_motor_device
from nelvor.judges.run.pushed_back import judge_device, take_in
from nelvor.judges.run.taken_to_charge import add_to_what_passes
from nelvor.judges.verdict import Mend
from nelvor.model.things import Device
from nelvor.topology.names import name_of
from nelvor.working import Figure, Recorder

DEVICE_CLAUSES = {"branch": "continuous_125_branch_ocpd", "service": "service_overload"}
SEVERAL_BY_NATURE = frozenset({"small_appliance", "laundry"})


class Carried(NamedTuple):
    """The current of the hardest loaded conductor in A, as it is, with the motor adder, and as designed for; what it is
    called, whence it is."""

    label: str
    actual: Figure
    with_motor: Figure
    design: Figure
    worked_out_in: Recorder


def carried_by(level: LevelLoad, hots: frozenset[str]) -> Carried:
    """Return what the hardest loaded of a run's hot conductors, named by their legs, carries of the load of a level.

    Raises:
        CannotCompute: some of the load lies on legs that the run does not bring.
    """
    if any(leg.actual.number for leg in level.legs if leg.leg not in hots):
        raise CannotCompute(
            f"The load behind this run lies on other legs too, and it brings {' and '.join(sorted(hots))}.",
            "Choose the connection of each load, or run the other legs.",
        )
    worst = level.worst
    return Carried(f"Load on the worst leg ({worst.leg})", worst.actual, worst.with_motor, worst.design, level.recorder)


def several_receptacles(case: RunCase) -> bool | None:
    """Tell whether a branch circuit supplies several receptacles: as entered, or by its loads; None is not known."""
    if case.run.several_receptacles is not None:
        return case.run.several_receptacles
    kinds = [(kind, count) for (_, kind), count in case.known_level().tally.items()]
    outlets_va = sum(kind.each * count for kind, count in kinds if kind.category == "receptacles")
    of_a_dwelling = any(kind.category in SEVERAL_BY_NATURE for kind, _ in kinds)
    return True if of_a_dwelling or outlets_va > case.rules.parameter("receptacle_va").number else None


def solve_load(case: RunCase) -> None:
    """Take down the load of the hardest loaded hot conductor, as it is and with its continuous part raised."""
    carried = carried_by(case.known_level(), case.hot_legs)
    case.figures["load"] = case.recorder.carried(carried.label, carried.actual, carried.worked_out_in)
    case.to_carry = case.figures["load"]
    if carried.with_motor is not carried.actual:
        label = "the same with the motor adder"
        case.to_carry = case.recorder.carried(label, carried.with_motor, carried.worked_out_in)
    label = "the same with continuous load at 125 % and the motor adder"
    case.figures["design"] = case.recorder.carried(label, carried.design, carried.worked_out_in)
    add_to_what_passes(case)
    take_in(case)


def _no_source(case: RunCase, device: Device) -> None:
    """The breaker of a source is no feeder of loads."""
    if device.role == "source":
        text = f"{device.name or device.id} is marked as the breaker of a source, and this run leads to a load."
        case.judge.about("devices", device.id).cannot_tell("source_as_feeder", text, "load_side_interconnect", "role")


def solve_device(case: RunCase) -> None:
    """Check the rating of the device, or choose the smallest standard one for all that it feeds."""
    if case.several_disconnects:
        _by_load_of_several(case)
        return
    device = case.protecting_device()
    _no_source(case, device)
    clause = DEVICE_CLAUSES.get(case.kind, "continuous_125_feeder_ocpd")
    if device.rating_a is None:
        case.figures["device"] = _not_below_floor(case, _chosen(case, _load_on(case, device)))
        return
    rating = case.recorder.given(f"Rating of {device.name or 'the device'}", device.rating_a, "A", "design")
    case.figures["device"] = rating
    if "design" not in case.figures:
        return
    if not case.rules.is_standard_rating(rating.number):
        text = f"{rating.text} A is not one of the standard ratings; others are permitted, if they can be had."
        case.judge.advise("device_standard", text, "standard_ocpd")
    _check_outlets(case, rating, device)
    judge_motor_device(case, device, rating)
    judge_device(case, device, rating)
    design = case.design_of_loads or case.need("design")
    if design.number == 0 and "pushed_back" in case.figures:
        return  # it serves sources alone
    if case.recorder.at_least("Device carries the load", rating, design, clause=clause):
        case.judge.holds("device_load", f"{rating.text} A carries {design.text} A.", clause)
        return
    case.judge.must_fix(
        "device_load",
        f"The {rating.text} A device is below the load of {design.text} A (continuous part at 125 %).",
        clause,
        mend=_larger_device(case, device, design),
    )


def _by_load_of_several(case: RunCase) -> None:
    """Several disconnects at the end: the conductors go by the load, not below the floor (230.90(A), 230.42(B))."""
    label = "Load, in place of one device: several disconnects at the end"
    design = case.need("design")
    if design.number == 0:
        raise CannotCompute(
            "No load is entered beneath this service, whose conductors go by the load.", "Enter the loads."
        )
    by_load = case.recorder.least(label, design, clause="service_load_of_several")
    case.figures["device"] = _not_below_floor(case, by_load)
    if case.figures["device"].number > design.number:  # the ampacity itself reaches the floor (230.42(B))
        case.to_carry = case.figures["device"]


def _larger_device(case: RunCase, device: Device, design: Figure) -> Mend | None:
    """Offer the device that carries the load, unless other conductors have to come first."""
    try:
        needed = _chosen(case, design).number
    except CannotCompute:
        return None
    protected = case.site.protected_by.get(device.id, [])
    if any(item.hot_size is not None and item.id != case.run.id for item in protected):
        return None  # conductors that the device protects besides these would have to follow
    return _rated(case, device, needed)


def _rated(case: RunCase, device: Device, rating: Fraction) -> Mend | None:
    """The device at another rating, named by what it is and where; with another panel where the bus asks for it."""
    what = (
        device.name or f"{'Main' if device.role == 'main' else 'Breaker'} of {name_of(case.site, device.enclosure_id)}"
    )
    change = f"{what}: {device.rating_a:g} A to {rating} A"
    return raising(case.site, case.rules, device, rating, change, fed=case.fed)


def _chosen(case: RunCase, load: Figure) -> Figure:
    """The smallest standard rating, of those for several outlets where the circuit has several receptacles."""
    if case.kind != "branch" or not several_receptacles(case):
        return smallest_device(case.recorder, load)
    ratings = case.rules.multi_outlet_ratings()
    chosen = case.recorder.next_up("Device for several outlets", load, ratings, "multi_outlet_rating")
    if chosen is None:
        raise CannotCompute(
            f"A branch circuit with several receptacles is rated {ratings[-1]} A at most; the load is {load.text} A.",
            "Split the load over several circuits, or give each receptacle its own.",
        )
    return chosen


def _not_below_floor(case: RunCase, chosen: Figure) -> Figure:
    """What a service is sized for reaches the floor of its disconnect, chosen main or several (230.79, 230.42(B))."""
    one_family = case.site.is_one_family(case.fed) if case.kind == "service" else None
    if one_family is None:
        return chosen
    key = f"service_{'one_family' if one_family else 'other'}_disconnect_a"
    floor = least_disconnect(case.recorder, key, "service_min_rating")
    return case.recorder.greatest("Device, not below the floor", chosen, floor, clause="service_min_rating")


def _check_outlets(case: RunCase, rating: Figure, device: Device) -> None:
    """A branch circuit with several outlets has one of a few ratings (210.18)."""
    if case.kind != "branch" or not several_receptacles(case):
        return
    ratings = case.rules.multi_outlet_ratings()
    if rating.number in ratings:
        case.judge.holds("outlets_rating", f"{rating.text} A may supply several receptacles.", "multi_outlet_rating")
        return
    design = case.need("design").number
    lawful = next((item for item in ratings if item >= design), None)
    known = ", ".join(str(item) for item in ratings)
    case.judge.must_fix(
        "outlets_rating",
        f"A branch circuit with several receptacles is rated {known} A, this one {rating.text} A. In industry with "
        "qualified persons alone larger circuits are allowed for outlets that are not for lighting.",
        "multi_outlet_rating",
        "",
        _rated(case, device, lawful) if lawful else None,
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
            design += carried_by(level, case.hot_legs).design.number
        else:
            design += case.need("design").number
    if design == 0:
        raise CannotCompute(
            "No load is entered beneath this run, so its device cannot be chosen.",
            "Enter the loads, or the rating of the device.",
            ((device.id, "rating_a"),),
        )
    name = device.name or "the device"
    return case.recorder.given(f"Load on {name}", design, "A", "load calculation of all that the device feeds")
