"""Dwelling load by the standard method of Article 220, part III, for one dwelling unit at one level."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from math import floor

from nelvor.clauses.demand import CATEGORY_LABELS, UNIT_SOURCE, DemandLine, Kinds, of_category, sum_of, weights
from nelvor.clauses.heating_cooling import larger_season
from nelvor.clauses.load_kind import LoadKind
from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder, shown

AT_NAMEPLATE = ("motor", "kitchen", "lighting", "receptacles", "sign", "show_window", "track_lighting", "other")
MOTOR_DRIVEN = frozenset({"motor", "cooling", "heat_pump"})


def demand_lines(kinds: Kinds, recorder: Recorder) -> list[DemandLine]:
    """Return the demand of each group of loads of one dwelling unit.

    Source: 220.42 to 220.61 (2023 numbering), standard calculation.

    Raises:
        CannotCompute, MissingFigure: a load outside the tables.
    """
    lines = [
        _general_lighting(kinds, recorder),
        _fastened(kinds, recorder),
        dryer_line(kinds, recorder),
        range_line(kinds, recorder),
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
    return [(replace(kind, continuous=False, uses_neutral=True), part) for kind, part in parts]


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
    return DemandLine("Fastened appliances", connected, demand, weights(chosen))


def dryer_line(kinds: Kinds, recorder: Recorder) -> DemandLine | None:
    """Return the demand of household dryers (220.54): 5000 VA or the nameplate, at the table's percentage."""
    chosen = of_category(kinds, "dryer")
    if not chosen:
        return None
    least = recorder.parameter("dryer_least_va", "Least for a dryer")
    parts = []
    for kind, count in chosen:
        nameplate = recorder.given("Dryer nameplate", kind.each, "VA", UNIT_SOURCE)
        taken = recorder.greatest("Dryer", nameplate, least, clause="dryer_demand")
        parts.append(recorder.multiply("Dryers", taken, recorder.given("pieces", count, "", UNIT_SOURCE), unit="VA"))
    connected = parts[0] if len(parts) == 1 else recorder.add("Dryers", *parts)
    number = recorder.given("Dryers", sum(count for _, count in chosen), "", UNIT_SOURCE)
    percent = recorder.band("Demand, per cent", "dryer_demand", number, "base_percent")
    each = recorder.band("Change for each dryer more", "dryer_demand", number, "percent_per_dryer")
    if each.number:
        from_ = recorder.band("counted above", "dryer_demand", number, "counted_above")
        more = recorder.multiply("Change", recorder.subtract("Dryers above", number, from_), each, unit="%")
        percent = recorder.add("Demand, per cent", percent, more)
    hundred = recorder.given("per cent", Fraction(1, 100), "", "per cent")
    share = recorder.multiply(f"Demand for {number.text} dryers", percent, hundred, unit="")
    demand = recorder.multiply("Dryer demand", connected, share, unit="VA", clause="dryer_demand")
    return DemandLine("Dryers", connected, demand, weights(chosen))


def range_line(kinds: Kinds, recorder: Recorder) -> DemandLine | None:
    """Return the demand of household cooking appliances (220.55).

    Raises:
        CannotCompute: an appliance outside the table.
    """
    chosen = of_category(kinds, "range")
    if not chosen:
        return None
    connected = sum_of(recorder, "Ranges", chosen)
    limit = {
        name: Fraction(recorder.rules.parameter(f"range_{name}_kw").value) * 1000
        for name in ("counted_above", "small_limit", "middle_limit", "note_1_limit")
    }
    if any(kind.each <= limit["counted_above"] or kind.each > limit["note_1_limit"] for kind, _ in chosen):
        raise CannotCompute(
            "A cooking appliance of 1.75 kW or less, or above 27 kW, is outside Table 220.55.",
            "Enter it as a fastened appliance (small) or have it calculated by hand.",
        )
    candidates = [_column_c(chosen, recorder)]
    if all(kind.each <= limit["middle_limit"] for kind, _ in chosen):
        candidates.append(_columns_a_and_b(chosen, limit["small_limit"], recorder))
    demand = (
        candidates[0] if len(candidates) == 1 else recorder.least("Range demand", *candidates, clause="range_demand")
    )
    return DemandLine("Ranges", connected, demand, weights(chosen))


def _column_c(chosen: list[tuple[LoadKind, int]], recorder: Recorder) -> Figure:
    """Column C for appliances over 3.5 kW to 27 kW, with note 1 (equal) or note 2 (unequal ratings)."""
    limit = Fraction(recorder.rules.parameter("range_column_c_limit_kw").value)
    number = sum(count for _, count in chosen)
    base = _column_c_base(number, recorder)
    average_kw = sum((max(kind.each / 1000, limit) * count for kind, count in chosen), Fraction(0)) / number
    above = floor(average_kw - limit + Fraction(1, 2))
    if above <= 0:
        return base
    step = recorder.parameter("range_note_1_step", "For each kW above 12")
    over = recorder.given("kW above 12, a major fraction counting as one", above, "kW", UNIT_SOURCE)
    more = recorder.multiply("Increase", base, step, over, unit="VA", clause="range_demand")
    return recorder.add("Column C with the increase", base, more, clause="range_demand")


def _column_c_base(number: int, recorder: Recorder) -> Figure:
    count = recorder.given("Cooking appliances", number, "", UNIT_SOURCE)
    kilowatts = recorder.band("Column C", "range_demand", count, "col_c_base_kw")
    each = recorder.band("Column C, for each appliance", "range_demand", count, "col_c_per_appliance_kw")
    if each.number:
        kilowatts = recorder.add("Column C", kilowatts, recorder.multiply("All appliances", count, each, unit="kW"))
    thousand = recorder.given("VA in a kW", 1000, "VA/kW", "unit")
    label = f"Column C, {number} appliance(s)"
    return recorder.multiply(label, kilowatts, thousand, unit="VA", clause="range_demand")


def _columns_a_and_b(chosen: list[tuple[LoadKind, int]], small_limit: Fraction, recorder: Recorder) -> Figure:
    """Note 3: nameplates of each column added and multiplied by that column's factor for its number."""
    parts = []
    for column, small in (("a", True), ("b", False)):
        mine = [(kind, count) for kind, count in chosen if (kind.each < small_limit) == small]
        if not mine:
            continue
        number = recorder.given(
            f"Appliances in column {column.upper()}", sum(count for _, count in mine), "", UNIT_SOURCE
        )
        percent = recorder.band(f"Column {column.upper()}", "range_demand", number, f"col_{column}_percent")
        hundred = recorder.given("per cent", Fraction(1, 100), "", "per cent")
        total = sum_of(recorder, f"Nameplates in column {column.upper()}", mine)
        parts.append(
            recorder.multiply(
                f"Column {column.upper()} demand", total, percent, hundred, unit="VA", clause="range_demand"
            )
        )
    return parts[0] if len(parts) == 1 else recorder.add("Columns A and B", *parts)


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
    return DemandLine(CATEGORY_LABELS[category], connected, connected, weights(chosen), motor=category in MOTOR_DRIVEN)
