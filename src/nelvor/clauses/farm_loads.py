"""Farm loads of no dwelling unit: each building by Table 220.102, several together by Table 220.103."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import replace
from fractions import Fraction

from nelvor.clauses.demand import DemandLine, Kinds, of_category
from nelvor.clauses.load_kind import MOTOR_DRIVEN
from nelvor.clauses.other_loads import connected_lines
from nelvor.working import Figure, Recorder


def farm_lines(kinds: Kinds, recorder: Recorder) -> list[DemandLine]:
    """Return the load of each farm building, the largest first, with the demand factors of 220.102 and 220.103.

    Raises:
        CannotCompute, MissingFigure: as ``connected_lines``.
    """
    buildings: dict[str, Kinds] = defaultdict(dict)
    for kind, count in kinds.items():
        buildings[kind.building][kind] = count
    lines = [_building(name, of_building, recorder) for name, of_building in sorted(buildings.items())]
    if len(lines) == 1:
        return lines
    ordered = sorted(lines, key=lambda line: line.demand_va.number, reverse=True)
    return [_together(line, place, recorder) for place, line in enumerate(ordered, 1)]


def _building(name: str, kinds: Kinds, recorder: Recorder) -> DemandLine:
    """Table 220.102: all that runs together, 125 % of the largest motor, or 60 A, whichever is most, stands whole."""
    lines = connected_lines(kinds, recorder)
    connected = recorder.add(f"Connected at {name}", *(line.demand_va for line in lines), unit="VA")
    spread = tuple(weight for line in lines for weight in line.kinds)
    label = f"Farm loads, {name}"
    if sum(kinds.values()) == 1:
        return DemandLine(label, connected, connected, spread, motor=any(line.motor for line in lines))
    together, motor = _running_together(kinds, recorder), _largest_motor(kinds, recorder)
    sixty = _at_240_v("farm_first_a", "First part of the load", recorder)
    whole = recorder.greatest(
        "What stands whole", *(part for part in (together, motor, sixty) if part), clause="farm_load"
    )
    first = recorder.least("but not more than is connected", whole, connected)
    others = recorder.subtract("All other loads", connected, first)
    next_part = recorder.least("The next part of them", others, _at_240_v("farm_next_a", "Next part", recorder))
    rest = recorder.subtract("The remainder", others, next_part)
    parts = [first]
    for key, part in (("farm_next_share", next_part), ("farm_rest_share", rest)):
        share = recorder.parameter(key, "Share")
        parts.append(recorder.multiply("That part, reduced", part, share, unit="VA", clause="farm_load"))
    demand = recorder.add(label, *parts, clause="farm_load")
    by_motor = motor is not None and whole.number == motor.number
    return DemandLine(label, connected, demand, spread, motor=not by_motor and any(line.motor for line in lines))


def _running_together(kinds: Kinds, recorder: Recorder) -> Figure | None:
    running = {kind: count for kind, count in kinds.items() if kind.without_diversity}
    if not running:
        return None
    lines = connected_lines(running, recorder)
    return recorder.add("Loads that run together", *(line.demand_va for line in lines), unit="VA")


def _largest_motor(kinds: Kinds, recorder: Recorder) -> Figure | None:
    motors = of_category(kinds, *sorted(MOTOR_DRIVEN))
    if not motors:
        return None
    largest = max(kind.each for kind, _ in motors)
    motor = recorder.given("Largest motor", largest, "VA", "loads of this building")
    factor = recorder.parameter("farm_motor_factor", "taken at")
    return recorder.multiply("Largest motor at 125 %", motor, factor, unit="VA", clause="farm_load")


def _at_240_v(key: str, label: str, recorder: Recorder) -> Figure:
    amperes = recorder.parameter(key, label)
    volts = recorder.parameter("farm_volts", "at")
    return recorder.multiply(f"{label} in VA", amperes, volts, unit="VA", clause="farm_load")


def _together(line: DemandLine, place: int, recorder: Recorder) -> DemandLine:
    """Table 220.103: the largest load whole, the others at the share of their place."""
    number = recorder.given("Place among the loads, by size", Fraction(place), "", "loads of the farm")
    percent = recorder.band("Share of the total load of the farm", "farm_total", number, "percent")
    hundred = recorder.given("per cent", Fraction(1, 100), "", "per cent")
    label = f"{line.label}, within the farm"
    demand = recorder.multiply(label, line.demand_va, percent, hundred, unit="VA", clause="farm_total_load")
    return replace(line, demand_va=demand)
