"""Raceway fill: the smallest trade size that holds the conductors (Chapter 9 Tables 1, 4 and 5)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import partial
from typing import NamedTuple

from nelvor.errors import CannotCompute
from nelvor.rulebook.table import Row, cell_number
from nelvor.working import Figure, PassedOver, Recorder, asked_once

RACEWAY_ROWS = {
    "pvc40": "PVC40",
    "pvc80": "PVC80",
    "emt": "EMT",
    "rmc": "RMC",
    "imc": "IMC",
    "fmc": "FMC",
    "lfmc": "LFMC",
    "lfnc_b": "LFNC-B",
    "ent": "ENT",
}
TABLE_5_ROWS = {
    "THHN": "THHN",
    "THWN": "THHN",
    "THWN-2": "THHN",
    "XHHW": "XHHW",
    "XHHW-2": "XHHW",
    "RHW-2": "RHW-2-bare",
}
PI = Fraction("3.14159265359")
ROUNDED_ABOVE = 2


@dataclass(frozen=True)
class Alike:
    """Conductors of one size: how many, and the area of each in in²."""

    count: int
    each: Figure


class Fill(NamedTuple):
    """A trade size: whether it holds, by rounding up the last conductor or not, and how it is filled in words."""

    trade_size: str
    figure: Figure
    fits: bool
    rounded_up: bool
    words: str


@asked_once
def conductors_area(recorder: Recorder, insulation: str, sizes: tuple[str, ...], bare: str | None = None) -> Figure:
    """Return the area in in² of insulated conductors (Chapter 9 Table 5) and of a bare one beside them (Table 8).

    Raises:
        MissingFigure: a type or size that the table does not hold.
    """
    row = TABLE_5_ROWS.get(insulation)
    if row is None:
        raise CannotCompute(
            f"Areas of {insulation} are not held.", "Choose THWN-2, XHHW-2 or RHW-2 without outer covering."
        )
    parts = []
    for size in dict.fromkeys(sizes):
        each = recorder.table(f"Area of {size} {insulation}", "conductor_area", (row, size), "area_in2")
        count = recorder.given(f"Conductors of {size}", sizes.count(size), "", "run")
        parts.append(recorder.multiply(f"Area of all {size}", each, count, unit="in²", clause="fill_ch9"))
    if bare is not None:
        parts.append(bare_area(recorder, bare, 1))
    return parts[0] if len(parts) == 1 else recorder.add("Area of all conductors", *parts, clause="fill_ch9")


def bare_area(recorder: Recorder, size: str, count: int) -> Figure:
    """Return the area of bare conductors in in², stranded (Chapter 9 Table 8).

    Raises:
        MissingFigure: a size that the table does not hold.
    """
    each = recorder.table(f"Area of {size} bare", "bare_conductor", (size,), "area_in2")
    number = recorder.given(f"Bare conductors of {size}", count, "", "run")
    return recorder.multiply(f"Area of all bare {size}", each, number, unit="in²", clause="fill_ch9")


def cables_area(recorder: Recorder, diameters_in: Sequence[Fraction]) -> Figure:
    """Return the area of cables in in², each counted as one conductor by the diameter on its marking."""
    parts = []
    for diameter in diameters_in:
        given = recorder.given("Cable diameter", diameter, "in", "marking of the cable")
        quarter = recorder.given("a quarter of π", PI / 4, "", "area of a circle")
        parts.append(recorder.multiply("Area of the cable", given, given, quarter, unit="in²", clause="fill_ch9"))
    return parts[0] if len(parts) == 1 else recorder.add("Area of all cables", *parts, clause="fill_ch9")


def jam_ratio(recorder: Recorder, method: str, trade_size: str, insulation: str, size: str) -> tuple[Figure, bool]:
    """Return the ratio of raceway to conductor diameter, and whether three equal conductors may jam (2.8 to 3.2)."""
    inside = recorder.table(
        f"Inside diameter of {trade_size} in", "raceway", (RACEWAY_ROWS[method], trade_size), "id_in"
    )
    outside = recorder.table(
        f"Diameter of {size} {insulation}", "conductor_area", (TABLE_5_ROWS[insulation], size), "od_in"
    )
    ratio = recorder.divide("Raceway over conductor diameter", inside, outside, "", "fill_ch9")
    low, high = (recorder.parameter(f"jam_ratio_{end}", "Jamming") for end in ("low", "high"))
    return ratio, low.number <= ratio.number <= high.number


@asked_once
def alike_area(recorder: Recorder, insulation: str, sizes: tuple[str, ...], bare: str | None = None) -> Alike | None:
    """Return number and area of conductors that are all of one size, so that note 7 of Chapter 9 may round up; else None.

    Raises:
        MissingFigure: a type or size that the table does not hold.
    """
    if bare is not None or len(set(sizes)) != 1 or len(sizes) <= ROUNDED_ABOVE:
        return None
    row = TABLE_5_ROWS[insulation]
    return Alike(
        len(sizes), recorder.table(f"Area of {sizes[0]} {insulation}", "conductor_area", (row, sizes[0]), "area_in2")
    )


def allowed_fill(recorder: Recorder, count: int, length_in: Figure) -> Figure:
    """Return the allowed fill in per cent: by the number of conductors, or 60 % in a nipple of 24 in or less."""
    nipple = recorder.parameter("nipple_longest_in", "Longest nipple")
    if recorder.at_least("It is a nipple", nipple, length_in, clause="fill_ch9"):
        return recorder.table("Allowed fill of a nipple", "fill", ("nipple",), "percent")
    return _allowed_by_number(recorder, count)


@asked_once
def _allowed_by_number(recorder: Recorder, count: int) -> Figure:
    key = str(count) if count <= 2 else "over2"
    return recorder.table(f"Allowed fill with {count} conductors", "fill", (key,), "percent")


def fill_of(
    recorder: Recorder,
    method: str,
    trade_size: str,
    area: Figure,
    allowed: Figure,
    alike: Alike | None = None,
    refused: PassedOver = "",
) -> Fill:
    """Return how a trade size is filled. Conductors that are ``alike`` fit too where eight tenths of the last one do.

    Raises:
        MissingFigure: this kind of raceway has no such trade size.
    """
    whole = recorder.table(f"Area inside {trade_size} in", "raceway", (RACEWAY_ROWS[method], trade_size), "area_in2")
    hundred = recorder.given("per cent", 100, "%", "per cent")
    share = recorder.divide("Filled share", area, whole, "")
    filled = recorder.multiply(f"{trade_size} in is filled to", share, hundred, unit="%", clause="fill_ch9")
    fits = recorder.at_least(f"{trade_size} in holds the conductors", allowed, filled, clause="fill_ch9")
    rounded_up = not fits and alike is not None and _fits_rounded_up(recorder, trade_size, whole, allowed, alike)
    figure = recorder.choose(
        "Raceway", trade_size, "trade size", [recorder.last_comparison()], clause="fill_ch9", refused=refused
    )
    why = "; all of one size, the last conductor is rounded up" if rounded_up else ""
    words = f"{trade_size} in is filled to {float(filled.number):.1f} % of {float(allowed.number):g} %{why}"
    return Fill(trade_size, figure, fits or rounded_up, rounded_up, words)


def _fits_rounded_up(recorder: Recorder, trade_size: str, whole: Figure, allowed: Figure, alike: Alike) -> bool:
    """Conductors of one size: a number that ends in 0.8 or more is rounded up (Chapter 9, note 7)."""
    hundredth = recorder.given("per cent", Fraction(1, 100), "", "per cent")
    usable = recorder.multiply(f"Usable area of {trade_size} in", whole, allowed, hundredth, unit="in²")
    room = recorder.divide(f"Conductors that {trade_size} in holds", usable, alike.each, "", "fill_rounding")
    part = recorder.parameter("fill_rounds_up_from", "The last one counts from")
    all_but_one = recorder.given("Conductors but the last", alike.count - 1, "", "run")
    need = recorder.add("Room that is enough", all_but_one, part, clause="fill_rounding")
    return recorder.at_least(f"{trade_size} in holds them, rounded up", room, need, clause="fill_rounding")


def _overfull(row: Row, area: Figure) -> str:
    filled = area.number / cell_number(row["area_in2"]) * 100
    return f"{row['trade_size']} in would be filled to {float(filled):.1f} %"


@asked_once
def smallest_raceway(
    recorder: Recorder, method: str, area: Figure, allowed: Figure, alike: Alike | None = None
) -> Fill:
    """Return the smallest trade size that holds the conductors.

    Raises:
        CannotCompute: none does.
    """
    table, of_kind = recorder.rules.table("raceway"), ("kind", RACEWAY_ROWS[method])
    rows, areas = table.rows_of(*of_kind), table.ladder("area_in2", *of_kind)
    first = areas.below(area.number / allowed.number * 100)
    begin = max(first - 1, 0) if alike else first  # rounding up, the one below may hold them
    refused: PassedOver = partial(_overfull, rows[begin - 1], area) if begin else ""
    for row in rows[begin:]:
        mark = recorder.mark()
        fill = fill_of(recorder, method, row["trade_size"], area, allowed, alike, refused)
        if fill.fits:
            return fill
        recorder.forget(mark)
        refused = partial(_overfull, row, area)
    raise CannotCompute(
        f"No {RACEWAY_ROWS[method]} trade size holds these conductors.", "Use parallel sets in separate raceways."
    )
