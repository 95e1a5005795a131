"""Household ranges and dryers on a feeder: the demand of 220.54 and 220.55, also where they lie on three phases."""

from __future__ import annotations

from collections import Counter
from fractions import Fraction
from math import ceil, floor

from nelvor.clauses.demand import UNIT_SOURCE, DemandLine, Kinds, of_category, sum_of, weights
from nelvor.clauses.load_kind import LoadKind
from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder

Chosen = list[tuple[LoadKind, int]]
PAIRS = ("L1-L2", "L2-L3", "L1-L3")


def most_between_phases(chosen: Chosen) -> int:
    """Return the most pieces between any two phases; those that lie nowhere yet are spread as evenly as can be."""
    on: Counter[str] = Counter()
    for kind, count in chosen:
        on[kind.connection] += count
    on_all = on["three_phase"]
    placed = [on[pair] for pair in PAIRS]
    elsewhere = sum(on.values()) - on_all - sum(placed)
    return on_all + max(*placed, ceil(Fraction(sum(placed) + elsewhere, len(PAIRS))))


def _pieces(recorder: Recorder, label: str, chosen: Chosen, three_phase: bool, clause: str) -> Figure:
    """Return how many pieces the table is asked for: all, or on three phases twice the most between two of them."""
    if not three_phase:
        return recorder.given(label, _number(chosen), "", UNIT_SOURCE)
    most = recorder.given(f"{label}, the most between two phases", most_between_phases(chosen), "", UNIT_SOURCE)
    return recorder.multiply(
        f"{label}, twice that", most, recorder.given("twice", 2, "", "220.54 and 220.55"), unit="", clause=clause
    )


def _scaled(
    recorder: Recorder, label: str, connected: Figure, chosen: Chosen, counted: Figure, three_phase: bool
) -> Figure:
    """Return what is connected of the pieces that are counted, each taken at the average of all."""
    if not three_phase:
        return connected
    share = recorder.divide(
        "Counted of all", counted, recorder.given("Pieces", _number(chosen), "", UNIT_SOURCE), unit=""
    )
    return recorder.multiply(f"{label}, as counted", connected, share, unit="VA")


def _number(chosen: Chosen) -> int:
    return sum(count for _, count in chosen)


def _on_three_phases(recorder: Recorder, label: str, demand: Figure, clause: str) -> Figure:
    """Half the demand of two phases' worth is that of one phase; the whole is three times that."""
    phases = recorder.given("Three phases of which the demand holds two", Fraction(3, 2), "", "220.54 and 220.55")
    return recorder.multiply(label, demand, phases, unit="VA", clause=clause)


def _spread(chosen: Chosen, three_phase: bool) -> tuple[tuple[LoadKind, Fraction], ...]:
    """Return how the demand lies on the legs: as connected, or evenly where it is worked out phase by phase."""
    if three_phase:
        chosen = [(kind._replace(connection="even_line_to_line"), count) for kind, count in chosen]
    return weights(chosen)


def _counts_by_phases(chosen: Chosen, three_phase: bool) -> bool:
    return three_phase and _number(chosen) > 1


def dryer_line(kinds: Kinds, recorder: Recorder, three_phase: bool = False) -> DemandLine | None:
    """Return the demand of household dryers (220.54): 5000 VA or the nameplate, at the table's percentage."""
    chosen = of_category(kinds, "dryer")
    if not chosen:
        return None
    by_phases = _counts_by_phases(chosen, three_phase)
    least = recorder.parameter("dryer_least_va", "Least for a dryer")
    parts = []
    for kind, count in chosen:
        nameplate = recorder.given("Dryer nameplate", kind.each, "VA", UNIT_SOURCE)
        taken = recorder.greatest("Dryer", nameplate, least, clause="dryer_demand")
        parts.append(recorder.multiply("Dryers", taken, recorder.given("pieces", count, "", UNIT_SOURCE), unit="VA"))
    connected = parts[0] if len(parts) == 1 else recorder.add("Dryers", *parts)
    number = _pieces(recorder, "Dryers", chosen, by_phases, "dryer_demand")
    percent = recorder.band("Demand, per cent", "dryer_demand", number, "base_percent")
    each = recorder.band("Change for each dryer more", "dryer_demand", number, "percent_per_dryer")
    if each.number:
        from_ = recorder.band("counted above", "dryer_demand", number, "counted_above")
        more = recorder.multiply("Change", recorder.subtract("Dryers above", number, from_), each, unit="%")
        percent = recorder.add("Demand, per cent", percent, more)
    hundred = recorder.given("per cent", Fraction(1, 100), "", "per cent")
    share = recorder.multiply(f"Demand for {number.text} dryers", percent, hundred, unit="")
    counted = _scaled(recorder, "Dryers", connected, chosen, number, by_phases)
    demand = recorder.multiply("Dryer demand", counted, share, unit="VA", clause="dryer_demand")
    if by_phases:
        demand = _on_three_phases(recorder, "Dryer demand on three phases", demand, "dryer_demand")
    return DemandLine("Dryers", connected, demand, _spread(chosen, by_phases))


def range_line(kinds: Kinds, recorder: Recorder, three_phase: bool = False) -> DemandLine | None:
    """Return the demand of household cooking appliances (220.55).

    Raises:
        CannotCompute: an appliance outside the table.
    """
    chosen = of_category(kinds, "range")
    if not chosen:
        return None
    connected = sum_of(recorder, "Ranges", chosen)
    limit = {
        name: recorder.rules.parameter(f"range_{name}_kw").number * 1000
        for name in ("counted_above", "small_limit", "middle_limit", "note_1_limit")
    }
    if any(kind.each <= limit["counted_above"] or kind.each > limit["note_1_limit"] for kind, _ in chosen):
        raise CannotCompute(
            "A cooking appliance of 1.75 kW or less, or above 27 kW, is outside Table 220.55.",
            "Enter it as a fastened appliance (small) or have it calculated by hand.",
        )
    by_phases = _counts_by_phases(chosen, three_phase)
    candidates = [_column_c(chosen, by_phases, recorder)]
    if all(kind.each <= limit["middle_limit"] for kind, _ in chosen):
        candidates.append(_columns_a_and_b(chosen, limit["small_limit"], by_phases, recorder))
    demand = (
        candidates[0] if len(candidates) == 1 else recorder.least("Range demand", *candidates, clause="range_demand")
    )
    if by_phases:
        demand = _on_three_phases(recorder, "Range demand on three phases", demand, "range_demand")
    return DemandLine("Ranges", connected, demand, _spread(chosen, by_phases))


def _column_c(chosen: Chosen, by_phases: bool, recorder: Recorder) -> Figure:
    """Column C for appliances over 3.5 kW to 27 kW, with note 1 (equal) or note 2 (unequal ratings)."""
    limit = recorder.rules.parameter("range_column_c_limit_kw").number
    number = _number(chosen)
    base = _column_c_base(_pieces(recorder, "Cooking appliances", chosen, by_phases, "range_demand"), recorder)
    average_kw = sum((max(kind.each / 1000, limit) * count for kind, count in chosen), Fraction(0)) / number
    above = floor(average_kw - limit + Fraction(1, 2))
    if above <= 0:
        return base
    step = recorder.parameter("range_note_1_step", "For each kW above 12")
    over = recorder.given("kW above 12, a major fraction counting as one", above, "kW", UNIT_SOURCE)
    more = recorder.multiply("Increase", base, step, over, unit="VA", clause="range_demand")
    return recorder.add("Column C with the increase", base, more, clause="range_demand")


def _column_c_base(count: Figure, recorder: Recorder) -> Figure:
    kilowatts = recorder.band("Column C", "range_demand", count, "col_c_base_kw")
    each = recorder.band("Column C, for each appliance", "range_demand", count, "col_c_per_appliance_kw")
    if each.number:
        kilowatts = recorder.add("Column C", kilowatts, recorder.multiply("All appliances", count, each, unit="kW"))
    thousand = recorder.given("VA in a kW", 1000, "VA/kW", "unit")
    label = f"Column C, {count.text} appliance(s)"
    return recorder.multiply(label, kilowatts, thousand, unit="VA", clause="range_demand")


def _columns_a_and_b(chosen: Chosen, small_limit: Fraction, by_phases: bool, recorder: Recorder) -> Figure:
    """Note 3: nameplates of each column added and multiplied by that column's factor for its number."""
    parts = []
    for column, small in (("a", True), ("b", False)):
        mine = [(kind, count) for kind, count in chosen if (kind.each < small_limit) == small]
        if not mine:
            continue
        label = f"Appliances in column {column.upper()}"
        number = _pieces(recorder, label, mine, by_phases, "range_demand")
        percent = recorder.band(f"Column {column.upper()}", "range_demand", number, f"col_{column}_percent")
        hundred = recorder.given("per cent", Fraction(1, 100), "", "per cent")
        label = f"Nameplates in column {column.upper()}"
        total = _scaled(recorder, label, sum_of(recorder, label, mine), mine, number, by_phases)
        parts.append(
            recorder.multiply(
                f"Column {column.upper()} demand", total, percent, hundred, unit="VA", clause="range_demand"
            )
        )
    return parts[0] if len(parts) == 1 else recorder.add("Columns A and B", *parts)
