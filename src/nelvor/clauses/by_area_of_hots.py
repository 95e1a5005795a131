"""Sizes read by the area of the ungrounded conductors: what jumpers and electrode conductors have in common."""

from __future__ import annotations

from fractions import Fraction

from nelvor.clauses.ampacity import COLUMN, circular_mils
from nelvor.errors import CannotCompute, MissingFigure
from nelvor.model.vocabulary import SIZES
from nelvor.rulebook.rules import Rules
from nelvor.working import Figure, Recorder

SMALLEST_KCMIL = 250


def size_of_area(recorder: Recorder, need: Fraction) -> str:
    """Return the smallest size with at least an area in circular mils (Chapter 9 Table 8).

    Raises:
        MissingFigure: no size is as large.
    """
    for size in SIZES:
        if recorder.rules.cell("conductor_dc", (size,), "area_cmil") >= need:
            return size
    raise MissingFigure("Chapter 9 Table 8", f"{float(need):.0f} cmil", recorder.rules.edition, "up to 2000 kcmil")


def size_by_hots(
    recorder: Recorder, table_name: str, hots: str, sets: int, material: str, own_material: str, label: str
) -> Figure:
    """Return the size that a table gives for the ungrounded conductors of ``sets`` sets of a metal.

    Raises:
        CannotCompute: aluminum and copper mixed above the table.
    """
    table = recorder.rules.table(table_name)
    limit_column = f"{COLUMN[material]}_service_max"
    value_column = COLUMN[own_material] if table_name == "bonding_jumper" else f"gec_{COLUMN[own_material]}"
    area = circular_mils(recorder, hots)
    if sets > 1:
        number = recorder.given("Parallel sets", sets, "", "run")
        area = recorder.multiply("Area of all sets", area, number, unit="cmil")
    for row in table.rows:
        limit = row[limit_column]
        if limit == "" or area.number <= _area_of_limit(recorder.rules, limit):
            if row[value_column].endswith("%"):
                return _share_of_area(recorder, area, material, own_material, label)
            return recorder.table_text(label, table_name, row[value_column], "AWG/kcmil", [area])
    raise MissingFigure(recorder.rules.table_title(table_name), hots, recorder.rules.edition, "all sizes")


def _area_of_limit(rules: Rules, limit: str) -> Fraction:
    """Return a table limit in circular mils; limits such as 1100 kcmil lie between the listed sizes."""
    if "/" not in limit and int(limit) >= SMALLEST_KCMIL:
        return Fraction(limit) * 1000
    return rules.cell("conductor_dc", (limit,), "area_cmil")


def _share_of_area(recorder: Recorder, area: Figure, material: str, own_material: str, label: str) -> Figure:
    if material != own_material:
        raise CannotCompute(
            f"{label} of {own_material} for {material} conductors above the table needs their equal in {own_material}.",
            "Choose the same metal, or have it sized by hand.",
        )
    share = recorder.parameter("jumper_above_table_share", "Share above the table")
    need = recorder.multiply(f"{label}, area", area, share, unit="cmil", clause="supply_side_bonding_jumper")
    return recorder.choose(
        label, size_of_area(recorder, need.number), "AWG/kcmil", [need], clause="supply_side_bonding_jumper"
    )
