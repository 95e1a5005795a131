"""Loads of no dwelling unit: connected, or with the demand factors of other occupancies."""

from __future__ import annotations

from collections.abc import Iterator
from collections.abc import Set as AbstractSet
from dataclasses import replace
from fractions import Fraction

from nelvor.clauses.demand import CATEGORY_LABELS, DemandLine, Kinds, of_category, sum_of, weights
from nelvor.clauses.dwelling_standard import by_lighting_table, nameplate_line, vehicle_line
from nelvor.clauses.heating_cooling import CLIMATE, larger_season
from nelvor.clauses.load_kind import LoadKind
from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder

BANK_OR_OFFICE = frozenset({"bank", "office"})
WITH_LIGHTING_DEMAND = frozenset({"hospital", "hotel_motel", "warehouse"})
DWELLING_ONLY = ("small_appliance", "laundry")
BY_OTHER_RULES = frozenset({"lighting", "lighting_area", "receptacles", "vehicle_charging", *DWELLING_ONLY})


def connected_lines(kinds: Kinds, recorder: Recorder) -> list[DemandLine]:
    """Return the loads of no dwelling unit, by category, with nothing taken off.

    Raises:
        CannotCompute: loads that only a dwelling unit has, or an area without its occupancy.
    """
    _refuse_dwelling_loads(kinds)
    lines = [
        *_lighting(kinds, recorder, with_demand=False),
        *_at_nameplate(kinds, recorder, BY_OTHER_RULES),
        _receptacles_connected(kinds, recorder),
        vehicle_line(kinds, recorder),
    ]
    return [line for line in lines if line is not None]


def demand_factor_lines(kinds: Kinds, recorder: Recorder) -> list[DemandLine]:
    """Return the loads of another occupancy with the demand factors of Article 220, part III.

    Lighting by Table 220.45, receptacles by 220.47, kitchen equipment by 220.56, heating or cooling
    whichever is larger (220.60); all else at its nameplate.

    Raises:
        CannotCompute, MissingFigure: as ``connected_lines``.
    """
    _refuse_dwelling_loads(kinds)
    lines = [
        *_lighting(kinds, recorder, with_demand=True),
        _receptacles(kinds, recorder),
        _kitchen(kinds, recorder),
        *_at_nameplate(kinds, recorder, {*BY_OTHER_RULES, "kitchen", *CLIMATE}),
        *larger_season(kinds, recorder),
        vehicle_line(kinds, recorder),
    ]
    return [line for line in lines if line is not None]


def _at_nameplate(kinds: Kinds, recorder: Recorder, but: AbstractSet[str]) -> Iterator[DemandLine | None]:
    """Each category that is present but for some, at its nameplate."""
    present = {kind.category for kind in kinds} - but
    return (nameplate_line(kinds, recorder, category) for category in CATEGORY_LABELS if category in present)


def _refuse_dwelling_loads(kinds: Kinds) -> None:
    present = {kind.category for kind in kinds}
    for category in DWELLING_ONLY:
        if category in present:
            raise CannotCompute(
                f"{CATEGORY_LABELS[category]} belong to no dwelling unit.",
                "Choose the dwelling unit, or enter the load in VA.",
            )


def _lighting(kinds: Kinds, recorder: Recorder, *, with_demand: bool) -> list[DemandLine]:
    """Lighting by area against the lighting that is connected, the larger of the two, occupancy by occupancy.

    What is connected belongs to no occupancy of its own, so it is compared with all areas together.
    """
    areas = of_category(kinds, "lighting_area")
    if not areas:
        line = nameplate_line(kinds, recorder, "lighting")
        return [line] if line else []
    connected = of_category(kinds, "lighting")
    by_area = [_by_area(kind, count, recorder) for kind, count in areas]
    raised = recorder.rules.parameter("area_lighting_continuous").number == 1
    least = by_area[0] if len(by_area) == 1 else recorder.add("Lighting by area", *by_area, clause="unit_load")
    if connected:
        entered = sum_of(recorder, "Lighting connected", connected)
        compared = entered if raised else _raised(connected, entered, recorder)
        if recorder.at_least("What is connected reaches the least by area", compared, least, clause="unit_load"):
            return [DemandLine("Lighting", entered, entered, weights(connected))]
    lines = []
    for (kind, _), area in zip(areas, by_area, strict=True):
        demand = area
        if with_demand and kind.space_kind in WITH_LIGHTING_DEMAND:
            demand = by_lighting_table(area, kind.space_kind, recorder)
        spread = kind._replace(each=area.number, continuous=raised, uses_neutral=True)
        label = f"Lighting by area, {kind.space_kind.replace('_', ' ')}"
        lines.append(DemandLine(label, area, demand, ((spread, area.number),)))
    return lines


def _raised(connected: list[tuple[LoadKind, int]], entered: Figure, recorder: Recorder) -> Figure:
    """Connected lighting as the unit load sees it: that already holds the 125 % of continuous load (220.42(A))."""
    steady = [pair for pair in connected if pair[0].continuous]
    if not steady:
        return entered
    more = recorder.parameter("continuous_extra", "Added for continuous load")
    part = recorder.multiply("A quarter of it", sum_of(recorder, "Continuous lighting", steady), more, unit="VA")
    return recorder.add("Connected lighting, its continuous part at 125 %", entered, part)


def _by_area(kind: LoadKind, count: int, recorder: Recorder) -> Figure:
    if not kind.space_kind:
        raise CannotCompute(
            "A lighted area of no dwelling unit has no occupancy.", "Choose its occupancy, or its dwelling unit."
        )
    name = kind.space_kind.replace("_", " ")
    area = recorder.given(f"Area, {name}", kind.each * count, "ft2", "loads")
    each = recorder.table(f"Unit load, {name}", "unit_load", (kind.space_kind,), "va_per_ft2")
    return recorder.multiply(f"Lighting by area, {name}", area, each, unit="VA", clause="unit_load")


def _receptacles(kinds: Kinds, recorder: Recorder) -> DemandLine | None:
    """Receptacles: the first 10 kVA whole, the rest at half (220.47)."""
    line = _receptacles_connected(kinds, recorder)
    if line is None:
        return None
    first = recorder.parameter("receptacle_first_va", "First part, taken whole")
    within = recorder.least("First part of the receptacles", line.connected_va, first)
    rest = recorder.subtract("The rest of the receptacles", line.connected_va, within)
    share = recorder.parameter("receptacle_rest_share", "Share of the rest")
    reduced = recorder.multiply("The rest, reduced", rest, share, unit="VA", clause="receptacle_demand")
    return replace(line, demand_va=recorder.add("Receptacle demand", within, reduced, clause="receptacle_demand"))


def _receptacles_connected(kinds: Kinds, recorder: Recorder) -> DemandLine | None:
    """The outlets at 180 VA; in banks and offices at least 1 VA for each square foot (220.14(K))."""
    line = nameplate_line(kinds, recorder, "receptacles")
    if line is None:
        return line
    offices = [
        (kind, count) for kind, count in of_category(kinds, "lighting_area") if kind.space_kind in BANK_OR_OFFICE
    ]
    if not offices:
        return line
    area = recorder.given(
        "Area of banks and offices", sum(kind.each * count for kind, count in offices), "ft2", "loads"
    )
    each = recorder.parameter("office_receptacle_va_per_ft2", "Receptacles for each square foot")
    by_area = recorder.multiply("Receptacles by area", area, each, unit="VA", clause="office_receptacles")
    larger = recorder.greatest(
        "The larger of outlets and area", line.connected_va, by_area, clause="office_receptacles"
    )
    return replace(line, connected_va=larger, demand_va=larger)


def _kitchen(kinds: Kinds, recorder: Recorder) -> DemandLine | None:
    """Kitchen equipment by the number of pieces, never below the two largest (220.56)."""
    chosen = of_category(kinds, "kitchen")
    if not chosen:
        return None
    connected = sum_of(recorder, "Kitchen equipment", chosen)
    number = recorder.given("Pieces of kitchen equipment", sum(count for _, count in chosen), "", "loads")
    percent = recorder.band("Kitchen demand", "kitchen_demand", number, "percent")
    hundred = recorder.given("per cent", Fraction(1, 100), "", "per cent")
    share = recorder.multiply("At its percentage", connected, percent, hundred, unit="VA", clause="kitchen_demand")
    largest = sorted((kind.each for kind, count in chosen for _ in range(count)), reverse=True)[:2]
    two = recorder.given("The two largest pieces", sum(largest, Fraction(0)), "VA", "loads")
    demand = recorder.greatest("Kitchen demand, not below the two largest", share, two, clause="kitchen_demand")
    return DemandLine("Kitchen equipment", connected, demand, weights(chosen))
