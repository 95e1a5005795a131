"""The calculated load of a level: loads grouped by dwelling unit and method, then added leg by leg (Article 220)."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Hashable, Iterable, Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property
from typing import NamedTuple

from nelvor.clauses.circuit_lines import circuit_lines
from nelvor.clauses.demand import ALL, NONE, DemandLine, Kinds
from nelvor.clauses.dwelling_optional import existing_lines, multifamily_lines, optional_lines, two_unit_lines
from nelvor.clauses.dwelling_standard import demand_lines
from nelvor.clauses.farm_loads import farm_lines
from nelvor.clauses.load_kind import (
    OTHER,
    SHARED_LINE,
    THROUGH_DELTA,
    LoadKind,
    Tally,
    amperes_per_va,
    lies_to_neutral,
)
from nelvor.clauses.motor_adder import motor_adder, per_va_on
from nelvor.clauses.noncoincident import running_together
from nelvor.clauses.other_loads import connected_lines, demand_factor_lines
from nelvor.model.voltages import THREE_PHASE, legs_of
from nelvor.rulebook.rules import Rules
from nelvor.working import Figure, Recorder, difference, greatest, least, product, reaches, total

OTHER_METHODS = {
    "connected": connected_lines,
    "demand_factors": demand_factor_lines,
    "farm": farm_lines,
    "circuit": circuit_lines,
}


STEADY, PASSING = "continuous", "not continuous"
COOKING_AND_DRYING = frozenset({"Ranges", "Dryers"})


LINE_TO_LINE = frozenset({*SHARED_LINE, *(f"{THROUGH_DELTA}{pair}" for pair in SHARED_LINE), "even_line_to_line"})


class LegLoad(NamedTuple):
    """The current of one leg, in amperes. ``design`` holds continuous load at 125 % and the motor adder,
    ``with_motor`` the motor adder alone."""

    leg: str
    continuous: Figure
    noncontinuous: Figure
    actual: Figure
    with_motor: Figure
    design: Figure
    to_neutral: Fraction


class Group(NamedTuple):
    """The loads of one dwelling unit (or of several taken together, or of none) with the method applied to them.

    ``neutral_lines`` are the lines by which the neutral is worked out (220.61), where the method is another.
    """

    units: tuple[str, ...]
    method: str
    lines: tuple[DemandLine, ...]
    neutral_lines: tuple[DemandLine, ...]


@dataclass(frozen=True)
class Methods:
    """Which method the office accepts for each dwelling unit and for all other loads.

    ``whole`` counts all pieces of each unit on the site: the optional methods fit a level that carries
    the whole of a unit. ``climate_added`` names units to which heating or cooling is being added.
    """

    of_unit: dict[str, str] = field(default_factory=dict)
    other: str = "connected"
    multifamily: bool = False
    whole: dict[str, int] = field(default_factory=dict)
    climate_added: frozenset[str] = frozenset()

    @cached_property
    def as_values(self) -> Hashable:
        """The same as plain values, to tell two of them apart."""
        of_unit, whole = (tuple(sorted(item.items())) for item in (self.of_unit, self.whole))
        return of_unit, self.other, self.multifamily, whole, self.climate_added


class LevelLoad(NamedTuple):
    """The calculated load at one enclosure with everything beneath it.

    ``worst`` is the leg with the largest design current.
    """

    enclosure_id: str
    system: str
    groups: tuple[Group, ...]
    connected_va: Figure
    demand_va: Figure
    legs: tuple[LegLoad, ...]
    worst: LegLoad
    neutral: Figure
    tally: Tally
    recorder: Recorder

    @property
    def imbalance_a(self) -> Fraction:
        """The line-to-neutral imbalance between the legs, as numbers."""
        loads = [leg.to_neutral for leg in self.legs]
        return difference(greatest(loads), least(loads))

    @property
    def has_line_to_line(self) -> bool:
        """Tell whether a one-phase load lies between two lines."""
        return any(kind.connection in LINE_TO_LINE for _, kind in self.tally)

    @property
    def has_line_to_neutral(self) -> bool:
        return any(kind.uses_neutral for _, kind in self.tally)


def figures_of(level: LevelLoad) -> dict[str, Figure]:
    """Return the figures of a level by name: totals, legs, neutral, and each line of its groups."""
    found = {"connected": level.connected_va, "demand": level.demand_va, "neutral": level.neutral}
    for leg in level.legs:
        found |= {f"{leg.leg} load": leg.actual, f"{leg.leg} design": leg.design}
    for group in level.groups:
        for line in group.lines:
            name = f"{'+'.join(group.units)} {line.label}"
            found |= {f"{name} connected": line.connected_va, f"{name} demand": line.demand_va}
    return found


def calculate(enclosure_id: str, tally: Tally, system: str, rules: Rules, methods: Methods | None = None) -> LevelLoad:
    """Return the calculated load of a tally on a voltage system.

    Raises:
        CannotCompute, MissingFigure: a group of loads cannot be calculated.
    """
    recorder = Recorder(rules)
    counted: dict[str, Kinds] = defaultdict(dict)
    for (unit, kind), count in tally.items():
        counted[unit][kind] = count
    whole = {unit: sum(kinds.values()) for unit, kinds in counted.items()}
    by_unit = {unit: running_together(kinds, recorder) for unit, kinds in counted.items()}
    two_legs = _on_two_legs(tally, system)
    three_phase = system in THREE_PHASE and not two_legs
    groups = _groups(by_unit, whole, methods or Methods(), recorder, three_phase)
    lines = [line for group in groups for line in group.lines]
    if lines:
        connected = recorder.add("Connected load", *[line.connected_va for line in lines], unit="VA")
        demand = recorder.add("Calculated load", *[line.demand_va for line in lines], unit="VA")
    else:
        connected = demand = recorder.given("No load", 0, "VA", "no loads are entered here or beneath")
    adder = motor_adder(tally, lines, system, recorder)
    on_legs = [OnLegs.of(line, system) for line in lines]
    legs = tuple(_leg(leg, on_legs, adder, recorder) for leg in legs_of(system))
    neutral = _neutral([line for group in groups for line in group.neutral_lines], system, two_legs, recorder)
    return LevelLoad(enclosure_id, system, groups, connected, demand, legs, _worst(legs), neutral, tally, recorder)


def _worst(legs: tuple[LegLoad, ...]) -> LegLoad:
    worst = legs[0]
    for leg in legs[1:]:
        if not reaches(worst.design.number, leg.design.number):
            worst = leg
    return worst


def _on_two_legs(tally: Tally, system: str) -> bool:
    """Tell whether everything lies on two legs of a wye and its neutral, as in an apartment."""
    if system not in THREE_PHASE:
        return False
    return len({leg for _, kind in tally for leg in amperes_per_va(kind.connection, system)}) < len(legs_of(system))


def _groups(
    by_unit: dict[str, Kinds], whole: dict[str, int], methods: Methods, recorder: Recorder, three_phase: bool
) -> tuple[Group, ...]:
    """Group the loads by dwelling unit, each by its method; units by 220.84 are one group, and so are several by the
    standard method, whose demand factors go by all that the feeder carries."""
    units = {unit: by_unit[unit] for unit in sorted(by_unit) if unit != OTHER}
    complete = {unit for unit in units if whole[unit] == methods.whole.get(unit)}
    groups = []
    if OTHER in by_unit:
        lines = tuple(OTHER_METHODS[methods.other](by_unit[OTHER], recorder))
        groups.append(Group((), methods.other, lines, lines))
    parameter = recorder.rules.parameter
    if methods.multifamily and len(complete) >= parameter("multifamily_least_units").number:
        together = [units.pop(unit) for unit in sorted(complete)]
        lines = tuple(multifamily_lines(together, recorder))
        standard = tuple(demand_lines(_together(together), recorder, three_phase))
        groups.append(Group(tuple(sorted(complete)), "multifamily", lines, standard))
    if methods.multifamily and len(complete) == parameter("two_units").number:
        pair = [units[unit] for unit in sorted(complete)]
        standard = tuple(demand_lines(_together(pair), recorder, three_phase))
        lines = tuple(two_unit_lines(pair, standard, recorder))
        if lines:
            groups.append(Group(tuple(sorted(complete)), "two_units", lines, standard))
            units = {unit: kinds for unit, kinds in units.items() if unit not in complete}
    alone = next(iter(complete)) if len(complete) == 1 else ""
    if alone in units and methods.of_unit.get(alone, "standard") != "standard":
        groups.append(_unit_group(alone, units.pop(alone), methods, recorder, three_phase))
    if units:
        standard = tuple(demand_lines(_together(units.values()), recorder, three_phase))
        groups.append(Group(tuple(units), "standard", standard, standard))
    return tuple(groups)


def _together(units: Iterable[Kinds]) -> Kinds:
    together: Counter[LoadKind] = Counter()
    for kinds in units:
        together.update(kinds)
    return together


def _unit_group(unit: str, kinds: Kinds, methods: Methods, recorder: Recorder, three_phase: bool) -> Group:
    """The optional methods fit the whole of one unit on one supply; a part of it goes by the standard method."""
    method = methods.of_unit[unit]
    standard = tuple(demand_lines(kinds, recorder, three_phase))
    if method == "optional":
        return Group((unit,), method, tuple(optional_lines(kinds, recorder)), standard)
    lines = tuple(existing_lines(kinds, recorder, unit in methods.climate_added))
    return Group((unit,), method, lines, standard)


class OnLegs(NamedTuple):
    """How one line lies on the legs: amperes per VA of its demand, in all and of what lies to neutral alone; and what of it
    is continuous and what is not, as shares of the whole."""

    line: DemandLine
    per_va: Mapping[str, Fraction]
    to_neutral_per_va: Mapping[str, Fraction]
    shares: tuple[tuple[str, Fraction], ...]

    @classmethod
    def of(cls, line: DemandLine, system: str) -> OnLegs:
        to_neutral = line.amperes_per_demand_va(system, lambda kind: lies_to_neutral(kind.connection))
        steady = line.continuous_share
        shares: tuple[tuple[str, Fraction], ...]
        if steady is NONE or steady is ALL:
            shares = ((PASSING if steady is NONE else STEADY, ALL),)
        else:
            shares = ((STEADY, steady), (PASSING, 1 - steady))
        return cls(line, line.amperes_per_demand_va(system), to_neutral, shares)


def _leg(leg: str, on_legs: list[OnLegs], adder: dict[str, Figure], recorder: Recorder) -> LegLoad:
    parts: dict[str, list[Figure]] = {STEADY: [], PASSING: []}
    to_neutral = []
    for line, all_per_va, to_neutral_per_va, shares in on_legs:
        if leg in to_neutral_per_va:
            to_neutral.append(product((line.demand_va.number, to_neutral_per_va[leg])))
        per_va = all_per_va.get(leg)
        if not per_va:
            continue
        for word, share in shares:
            weight = per_va_on(recorder, leg, per_va if share is ALL else product((per_va, share)))
            parts[word].append(recorder.multiply(f"{line.label} on {leg}, {word}", line.demand_va, weight, unit="A"))
    steady = _total(f"{leg} continuous", parts[STEADY], recorder)
    passing = _total(f"{leg} not continuous", parts[PASSING], recorder)
    actual = recorder.add(f"{leg} load", passing, steady)
    with_motor = actual
    if leg in adder:
        with_motor = recorder.add(f"{leg} load with the motor adder", actual, adder[leg], clause="motor_load_125")
    factor = recorder.parameter("continuous_factor", "Continuous load at")
    raised = recorder.multiply(
        f"{leg} continuous at 125 %", steady, factor, unit="A", clause="continuous_125_feeder_ocpd"
    )
    design_parts = [passing, raised, *([adder[leg]] if leg in adder else [])]
    design = recorder.add(f"{leg} load for device and conductors", *design_parts, clause="continuous_125_feeder_ocpd")
    return LegLoad(leg, steady, passing, actual, with_motor, design, total(to_neutral))


def _total(label: str, parts: list[Figure], recorder: Recorder) -> Figure:
    if not parts:
        return recorder.given(label, NONE, "A", "no such load")
    return recorder.add(label, *parts)


def _neutral(lines: list[DemandLine], system: str, two_legs: bool, recorder: Recorder) -> Figure:
    """The neutral load of 220.61: the largest load between the neutral and one leg.

    On two legs of a wye nothing is taken off (220.61(C)(1)).
    """
    legs = []
    per_va = [(line, line.amperes_per_demand_va(system, lambda kind: kind.uses_neutral)) for line in lines]
    for leg in legs_of(system):
        parts = [_neutral_part(line, leg, on[leg], two_legs, recorder) for line, on in per_va if on.get(leg)]
        legs.append(_total(f"Neutral load with {leg}", parts, recorder))
    largest = recorder.greatest("Neutral load", *legs, clause="neutral_load")
    limit = recorder.rules.parameter("neutral_above_limit_a")
    if system != "split_120_240" or largest.number <= limit.number:
        return largest
    first = recorder.parameter("neutral_above_limit_a", "First part of the neutral load")
    rest = recorder.subtract("The part above it", largest, first)
    share = recorder.parameter("neutral_above_share", "Share of that part")
    return recorder.add(
        "Neutral load, reduced", first, recorder.multiply("At 70 %", rest, share, unit="A"), clause="neutral_load"
    )


def _neutral_part(line: DemandLine, leg: str, per_va: Fraction, two_legs: bool, recorder: Recorder) -> Figure:
    weight = per_va_on(recorder, leg, per_va)
    if two_legs or line.label not in COOKING_AND_DRYING:
        return recorder.multiply(f"{line.label} between neutral and {leg}", line.demand_va, weight, unit="A")
    share = recorder.parameter("neutral_cooking_drying_share", "Neutral share of cooking and drying")
    return recorder.multiply(
        f"{line.label} between neutral and {leg}", line.demand_va, weight, share, unit="A", clause="neutral_load"
    )
