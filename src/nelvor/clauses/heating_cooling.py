"""Heating and cooling as the load methods see them: what runs together, what is left out, and at what share."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from nelvor.clauses.demand import CATEGORY_LABELS, DemandLine, Kinds, of_category, sum_of, weights
from nelvor.clauses.load_kind import LoadKind
from nelvor.working import Figure, Recorder

HEATING = ("heating", "thermal_storage", "heat_pump", "supplementary_heat")
COOLING = ("cooling", "heat_pump")
CLIMATE = tuple(dict.fromkeys((*HEATING, *COOLING)))
Pairs = list[tuple[LoadKind, int]]


@dataclass(frozen=True)
class Season:
    """What runs in one season, together, and its connected volt-amperes."""

    name: str
    kinds: Pairs
    connected: Figure


def seasons(kinds: Kinds, recorder: Recorder) -> list[Season]:
    """Return heating and cooling, each with all that can run at once in its season.

    A heat pump runs in both. Supplementary heat adds to its pump unless it is locked out; then
    the larger of the two stands (220.60).
    """
    found = []
    for name, categories in (("Heating", HEATING), ("Cooling", COOLING)):
        running = _running_together(of_category(kinds, *categories))
        if running:
            found.append(Season(name, running, sum_of(recorder, name, running)))
    return found


def _running_together(chosen: Pairs) -> Pairs:
    pumps = [pair for pair in chosen if pair[0].category == "heat_pump"]
    locked = [pair for pair in chosen if pair[0].category == "supplementary_heat" and pair[0].locked_out]
    if not pumps or not locked:
        return chosen
    smaller = pumps if _va(pumps) < _va(locked) else locked
    return [pair for pair in chosen if pair not in smaller]


def _va(chosen: Pairs) -> Fraction:
    return sum((kind.each * count for kind, count in chosen), Fraction(0))


def larger_season(kinds: Kinds, recorder: Recorder, as_connected: bool = False) -> list[DemandLine]:
    """Heating or cooling, whichever is larger; where the edition says so, dropped cooling is compared raised (220.60).

    ``as_connected`` compares both as they are, which 220.83 asks for.
    """
    both = seasons(kinds, recorder)
    if not both:
        return []
    if len(both) == 1 or both[0].kinds == both[1].kinds:
        only = both[-1]
        labels = {CATEGORY_LABELS[kind.category] for kind, _ in only.kinds}
        name = labels.pop() if len(labels) == 1 else only.name
        return [DemandLine(name, only.connected, only.connected, weights(only.kinds), motor=_has_motor(only))]
    heating, cooling = both
    if as_connected and cooling.connected.number < heating.connected.number:
        return [_taken(heating, cooling, recorder)]
    if cooling.connected.number >= heating.connected.number:
        return [_taken(cooling, heating, recorder)]
    factor = recorder.parameter("noncoincident_cooling_factor", "Cooling compared at")
    compared = recorder.multiply("Cooling as compared", cooling.connected, factor, unit="VA", clause="noncoincident")
    demand = recorder.greatest("The larger of heating and cooling", heating.connected, compared, clause="noncoincident")
    winner, loser = (heating, cooling) if heating.connected.number >= compared.number else (cooling, heating)
    label = f"{winner.name} ({loser.name.lower()} left out)"
    motor = winner is heating and _has_motor(heating)
    return [DemandLine(label, winner.connected, demand, weights(winner.kinds), motor=motor)]


def _taken(winner: Season, loser: Season, recorder: Recorder) -> DemandLine:
    label = f"{winner.name} ({loser.name.lower()} left out)"
    demand = recorder.greatest(
        "The larger of heating and cooling", winner.connected, loser.connected, clause="noncoincident"
    )
    return DemandLine(label, winner.connected, demand, weights(winner.kinds), motor=_has_motor(winner))


def _has_motor(season: Season) -> bool:
    return any(kind.category in COOLING for kind, _ in season.kinds)


@dataclass(frozen=True)
class Selection:
    """One of the heating and cooling selections of 220.82(C) at its percentage."""

    label: str
    kinds: Pairs
    demand: Figure


def largest_choice(kinds: Kinds, recorder: Recorder) -> list[DemandLine]:
    """The largest of the heating and cooling selections of 220.82(C), each at its own percentage."""
    selections = [*_pump_selections(kinds, recorder)]
    for category, label in (("cooling", "Cooling at 100 %"), ("thermal_storage", "Thermal storage at 100 %")):
        chosen = of_category(kinds, category)
        if chosen:
            selections.append(Selection(label, chosen, sum_of(recorder, label, chosen)))
    heating = of_category(kinds, "heating")
    if heating:
        selections.append(_space_heating(heating, recorder))
    if not selections:
        return []
    largest = max(selections, key=lambda selection: selection.demand.number)
    demand = largest.demand
    if len(selections) > 1:
        demand = recorder.greatest(
            "The largest heating or cooling selection",
            *(selection.demand for selection in selections),
            clause="optional_dwelling",
        )
    connected = sum_of(recorder, largest.label, largest.kinds)
    return [DemandLine(largest.label, connected, demand, weights(largest.kinds))]


def _pump_selections(kinds: Kinds, recorder: Recorder) -> list[Selection]:
    """A heat pump alone at 100 %, or with its supplementary heat at 65 % where both can run together."""
    pump, extra = of_category(kinds, "heat_pump"), of_category(kinds, "supplementary_heat")
    alone = [Selection("Heat pump at 100 %", pump, sum_of(recorder, "Heat pump", pump))] if pump else []
    if not extra:
        return alone
    share = recorder.parameter("optional_supplementary_share", "Share of supplementary heat")
    nameplate = sum_of(recorder, "Supplementary heat", extra)
    reduced = recorder.multiply("Supplementary heat at 65 %", nameplate, share, unit="VA", clause="optional_dwelling")
    if not pump or all(kind.locked_out for kind, _ in extra):
        return [*alone, Selection("Supplementary heat at 65 %", extra, reduced)]
    both = recorder.add("Heat pump with it", alone[0].demand, reduced, clause="optional_dwelling")
    return [Selection("Heat pump with supplementary heat at 65 %", [*pump, *extra], both)]


def _space_heating(heating: Pairs, recorder: Recorder) -> Selection:
    """Space heating: 65 % with fewer than four separately controlled units, 40 % with four or more."""
    units = recorder.given("Separately controlled units", sum(count for _, count in heating), "", "loads")
    many = recorder.parameter("optional_many_units", "Units for the lower share")
    few = not recorder.at_least("Enough units for the lower share", units, many, clause="optional_dwelling")
    key = "optional_heating_few_share" if few else "optional_heating_many_share"
    share = recorder.parameter(key, "Share of space heating")
    demand = recorder.multiply(
        "Space heating, demand",
        sum_of(recorder, "Space heating", heating),
        share,
        unit="VA",
        clause="optional_dwelling",
    )
    return Selection(f"Space heating at {'65' if few else '40'} %", heating, demand)
