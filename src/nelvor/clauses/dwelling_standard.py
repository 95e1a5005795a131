"""Dwelling load by the standard method of Article 220, part III, for the dwelling units of one level."""

from __future__ import annotations

from fractions import Fraction

from nelvor.clauses.cooking_and_drying import dryer_line, range_line
from nelvor.clauses.demand import CATEGORY_LABELS, UNIT_SOURCE, DemandLine, Kinds, of_category, sum_of, weights
from nelvor.clauses.heating_cooling import larger_season
from nelvor.clauses.load_kind import LoadKind
from nelvor.working import Figure, Recorder, shown

AT_NAMEPLATE = ("motor", "kitchen", "lighting", "receptacles", "sign", "show_window", "track_lighting", "other")


def demand_lines(kinds: Kinds, recorder: Recorder, three_phase: bool = False) -> list[DemandLine]:
    """Return the demand of each group of loads of one dwelling unit, or of several on one feeder taken together.

    ``three_phase`` tells that they lie on all three legs of a wye, where ranges and dryers are counted between legs.

    Source: 220.42 to 220.61 (2023 numbering), standard calculation.

    Raises:
        CannotCompute, MissingFigure: a load outside the tables.
    """
    lines = [
        _general_lighting(kinds, recorder),
        _fastened(kinds, recorder),
        dryer_line(kinds, recorder, three_phase),
        range_line(kinds, recorder, three_phase),
        *larger_season(kinds, recorder),
        vehicle_line(kinds, recorder),
    ]
    lines += [nameplate_line(kinds, recorder, category) for category in AT_NAMEPLATE]
    return [line for line in lines if line is not None]


def general_lighting_parts(kinds: Kinds, recorder: Recorder) -> list[tuple[LoadKind, Figure]]:
    """Return what is connected for lighting by area and for small-appliance and laundry circuits, in VA, each with the
    kind by which it lies on the legs: to neutral, and not continuous."""
    areas = of_category(kinds, "lighting_area")
    parts = [(kind, part) for kind, count in areas for part in [_area(kind, count, recorder)] if part is not None]
    for kind, count in of_category(kinds, "small_appliance", "laundry"):
        per_circuit = recorder.parameter(f"{kind.category}_va", f"{CATEGORY_LABELS[kind.category]}, each")
        number = recorder.given(CATEGORY_LABELS[kind.category], kind.each * count, "circuits", UNIT_SOURCE)
        parts.append((kind, recorder.multiply(CATEGORY_LABELS[kind.category], per_circuit, number, unit="VA")))
    return [(kind._replace(continuous=False, uses_neutral=True), part) for kind, part in parts]


def _general_lighting(kinds: Kinds, recorder: Recorder) -> DemandLine | None:
    parts = general_lighting_parts(kinds, recorder)
    if not parts:
        return None
    figures = [part for _, part in parts]
    connected = recorder.add("Lighting, small-appliance and laundry", *figures, clause="lighting_demand")
    demand = by_lighting_table(connected, "dwelling", recorder)
    spread = tuple((kind, part.number) for kind, part in parts)
    return DemandLine("Lighting, small appliance, laundry", connected, demand, spread)


def _area(kind: LoadKind, count: int, recorder: Recorder) -> Figure | None:
    counts = recorder.parameter(f"area_counts_{kind.space_kind}", f"{kind.space_kind.replace('_', ' ')} space counts")
    if counts.number == 0 or kind.each == 0:
        return None
    area = recorder.given(f"Area, {kind.space_kind.replace('_', ' ')}", kind.each * count, "ft2", UNIT_SOURCE)
    per_area = recorder.parameter("lighting_va_per_ft2", "Lighting")
    return recorder.multiply("Lighting by area", area, per_area, counts, unit="VA", clause="lighting_va_ft2")


def by_lighting_table(connected: Figure, occupancy: str, recorder: Recorder) -> Figure:
    """Take each slice of the sum at its own percentage (Table 220.45).

    Raises:
        MissingFigure: the edition holds no percentages for this occupancy.
    """
    rows = recorder.rules.lighting_slices(occupancy)
    title = recorder.rules.table_title("lighting_demand")
    hundred = recorder.given("per cent", Fraction(1, 100), "", "per cent")
    parts: list[Figure] = []
    below: Figure | None = None
    for row in rows:
        if below is not None and connected.number <= below.number:
            break
        end = connected
        if row["up_to_va"]:
            limit = recorder.given(f"Limit at {row['percent']} %", int(row["up_to_va"]), "VA", title)
            end = recorder.least(f"Sum up to {limit.text} VA", connected, limit)
        part = end if below is None else recorder.subtract(f"Part above {below.text} VA", end, below)
        percent = recorder.table(
            f"Percentage {'of the first part' if below is None else f'above {below.text} VA'}",
            "lighting_demand",
            (occupancy, row["up_to_va"]),
            "percent",
        )
        label = f"{shown(part.number, 7)} VA at {percent.text} %"
        parts.append(recorder.multiply(label, part, percent, hundred, unit="VA"))
        below = end
    return recorder.add("Lighting demand", *parts, unit="VA", clause="lighting_demand")


def _fastened(kinds: Kinds, recorder: Recorder) -> DemandLine | None:
    chosen = of_category(kinds, "water_heater", "fastened_appliance")
    if not chosen:
        return None
    connected = sum_of(recorder, "Fastened appliances", chosen)
    least_va = recorder.rules.parameter("fixed_appliance_least_va")
    counted = sum(count for kind, count in chosen if kind.each >= Fraction(least_va.value))
    needed = recorder.parameter("fixed_appliance_count", "Appliances for the reduction")
    demand = connected
    if counted >= needed.number:
        number = recorder.given(f"Appliances of {least_va.value} VA and more", counted, "", UNIT_SOURCE)
        recorder.at_least("enough appliances for the reduction", number, needed, clause="fixed_appliance_75pct")
        share = recorder.parameter("fixed_appliance_share", "Share")
        reduced = sum_of(
            recorder, "Appliances reduced", [pair for pair in chosen if pair[0].each >= Fraction(least_va.value)]
        )
        demand = recorder.multiply(
            "Fastened appliances, demand", reduced, share, unit="VA", clause="fixed_appliance_75pct"
        )
        small = [pair for pair in chosen if pair[0].each < Fraction(least_va.value)]
        if small:
            demand = recorder.add("with the smaller ones whole", demand, sum_of(recorder, "Smaller appliances", small))
    return DemandLine("Fastened appliances", connected, demand, weights(chosen), motor=_any_motor(chosen))


def _any_motor(chosen: list[tuple[LoadKind, int]]) -> bool:
    return any(kind.is_motor for kind, _ in chosen)


def vehicle_line(kinds: Kinds, recorder: Recorder) -> DemandLine | None:
    """Vehicle charging: its rating, or the edition's least for each piece where it is larger (220.57, 625.42).

    The setting of a listed load-management system stands in place of both.
    """
    chosen = of_category(kinds, "vehicle_charging")
    if not chosen:
        return None
    least = recorder.parameter("vehicle_charging_least_va", "Least for a charger")
    parts = []
    for kind, count in chosen:
        rating = recorder.given("Charger rating", kind.each, "VA", UNIT_SOURCE)
        taken = rating if kind.managed else recorder.greatest("Charger", rating, least, clause="ev_load")
        parts.append(recorder.multiply("Chargers", taken, recorder.given("pieces", count, "", UNIT_SOURCE), unit="VA"))
    connected = sum_of(recorder, "Chargers, rating", chosen)
    demand = parts[0] if len(parts) == 1 else recorder.add("Vehicle charging", *parts)
    return DemandLine("Vehicle charging", connected, demand, weights(chosen))


def nameplate_line(kinds: Kinds, recorder: Recorder, category: str) -> DemandLine | None:
    """Loads of one category at their nameplate, nothing taken off."""
    chosen = of_category(kinds, category)
    if not chosen:
        return None
    connected = sum_of(recorder, CATEGORY_LABELS[category], chosen)
    return DemandLine(CATEGORY_LABELS[category], connected, connected, weights(chosen), motor=_any_motor(chosen))
