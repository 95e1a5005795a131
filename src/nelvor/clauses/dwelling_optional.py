"""Dwelling load by the optional methods of Article 220, part IV: 220.82, 220.83 and 220.84."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from nelvor.clauses.demand import CATEGORY_LABELS, DemandLine, Kinds, of_category, sum_of, weights
from nelvor.clauses.dwelling_standard import general_lighting_parts, vehicle_line
from nelvor.clauses.heating_cooling import CLIMATE, COOLING, HEATING, larger_season, largest_choice, seasons
from nelvor.clauses.load_kind import LoadKind
from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder

AT_NAMEPLATE = tuple(
    name
    for name in CATEGORY_LABELS
    if name not in ("lighting_area", "small_appliance", "laundry", "vehicle_charging", *CLIMATE)
)
Weights = tuple[tuple[LoadKind, Fraction], ...]


def optional_lines(kinds: Kinds, recorder: Recorder) -> list[DemandLine]:
    """Return the load of one dwelling unit by 220.82: the general loads reduced, then heating or cooling.

    Raises:
        CannotCompute, MissingFigure: a load outside the tables.
    """
    parts, spread = _general_loads(kinds, recorder)
    return [
        *_reduced("General loads", parts, spread, "optional", "optional_dwelling", recorder),
        *largest_choice(kinds, recorder),
    ]


def existing_lines(kinds: Kinds, recorder: Recorder, climate_added: bool) -> list[DemandLine]:
    """Return the load of an existing dwelling unit by 220.83.

    With heating or cooling added (B) the larger of the two stands at 100 % beside the reduced rest;
    without (A) it is one of the loads that are reduced.

    Raises:
        CannotCompute, MissingFigure: a load outside the tables.
    """
    parts, spread = _general_loads(kinds, recorder)
    climate = larger_season(kinds, recorder, as_connected=True)
    if climate_added:
        rest = _reduced("All other loads", parts, spread, "existing", "optional_existing_dwelling", recorder)
        return [*rest, *(replace(line, motor=False) for line in climate)]
    for line in climate:
        parts.append(line.connected_va)
        spread = (*spread, *line.kinds)
    return _reduced("Existing and added loads", parts, spread, "existing", "optional_existing_dwelling", recorder)


def _general_loads(kinds: Kinds, recorder: Recorder) -> tuple[list[Figure], Weights]:
    """Return the connected loads other than heating and cooling, and how they lie on the legs."""
    lighting = general_lighting_parts(kinds, recorder)
    parts: list[Figure] = []
    spread: Weights = ()
    if lighting:
        figures = [part for _, part in lighting]
        parts.append(figures[0] if len(figures) == 1 else recorder.add("Lighting and circuits", *figures))
        spread = tuple((kind, part.number) for kind, part in lighting)
    for category in AT_NAMEPLATE:
        chosen = of_category(kinds, category)
        if chosen:
            parts.append(sum_of(recorder, CATEGORY_LABELS[category], chosen))
            spread = (*spread, *weights(chosen))
    charging = vehicle_line(kinds, recorder)
    if charging:
        parts.append(charging.demand_va)
        spread = (*spread, *charging.kinds)
    return parts, spread


def _reduced(
    label: str, parts: list[Figure], spread: Weights, method: str, clause: str, recorder: Recorder
) -> list[DemandLine]:
    """Take the first part whole and the rest at its share."""
    if not parts:
        return []
    connected = recorder.add(label, *parts, unit="VA", clause=clause)
    first = recorder.parameter(f"{method}_first_va", "First part, taken whole")
    within = recorder.least("First part", connected, first)
    rest = recorder.subtract("The rest", connected, within)
    share = recorder.parameter(f"{method}_rest_share", "Share of the rest")
    reduced = recorder.multiply("The rest, reduced", rest, share, unit="VA", clause=clause)
    demand = recorder.add(f"{label}, demand", within, reduced, clause=clause)
    return [DemandLine(label, connected, demand, spread)]


def multifamily_lines(units: list[Kinds], recorder: Recorder) -> list[DemandLine]:
    """Return the load of three and more dwelling units by 220.84: everything connected, at the table's share.

    Raises:
        CannotCompute: too few units, or one that does not fit the method.
    """
    least = recorder.rules.parameter("multifamily_least_units").number
    if len(units) < least:
        raise CannotCompute(
            f"The optional multifamily method asks for {least} dwelling units and more; here are {len(units)}.",
            "Use the standard method.",
        )
    together: Counter[LoadKind] = Counter()
    for kinds in units:
        if not of_category(kinds, "range"):
            raise CannotCompute(
                "A dwelling unit has no electric cooking, so the optional multifamily method does not fit.",
                "Use the standard method.",
            )
        if not of_category(kinds, *HEATING, *COOLING):
            raise CannotCompute(
                "A dwelling unit has neither electric heating nor cooling, so the optional multifamily method "
                "does not fit.",
                "Use the standard method.",
            )
        together.update(kinds)
    parts, spread = _general_loads(together, recorder)
    running = max(seasons(together, recorder), key=lambda season: season.connected.number)
    connected = recorder.add(
        "Connected load of the dwelling units", *parts, running.connected, clause="optional_multifamily"
    )
    number = recorder.given("Dwelling units", len(units), "", "dwelling units of this level")
    percent = recorder.band("Demand percentage", "multifamily_percent", number, "percent")
    hundred = recorder.given("per cent", Fraction(1, 100), "", "per cent")
    demand = recorder.multiply(
        "Demand of the dwelling units", connected, percent, hundred, unit="VA", clause="optional_multifamily"
    )
    return [DemandLine("Dwelling units together", connected, demand, (*spread, *weights(running.kinds)))]


def two_unit_lines(pair: list[Kinds], standard: Sequence[DemandLine], recorder: Recorder) -> list[DemandLine]:
    """Return the load of two like dwelling units as that of three by 220.84, where that is less (220.85); else nothing.

    ``standard`` are the lines of the two together by the standard method. The units must be alike, since the rule asks for three identical ones.
    """
    first, second = pair
    mark = recorder.mark()
    if first != second:
        return []
    try:
        three = multifamily_lines([first, first, first], recorder)
    except CannotCompute:
        recorder.forget(mark)
        return []
    as_three = recorder.add("Three such units by 220.84", *(line.demand_va for line in three), unit="VA")
    two = recorder.add("The two units by the standard method", *(line.demand_va for line in standard), unit="VA")
    if as_three.number >= two.number:
        recorder.forget(mark)
        return []
    connected = recorder.add("Connected load of the two units", *(line.connected_va for line in standard), unit="VA")
    demand = recorder.least("Two dwelling units", two, as_three, clause="two_dwelling_units")
    return [
        DemandLine("Two dwelling units", connected, demand, tuple(part for line in standard for part in line.kinds))
    ]
