"""A table of the code as read from its data file, with its pedigree."""

from __future__ import annotations

import csv
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cache, cached_property
from itertools import accumulate, takewhile
from pathlib import Path
from typing import Any

from nelvor.errors import RulebookBroken
from nelvor.rulebook.ladder import Ladder

Row = dict[str, str]


@cache
def cell_number(text: str) -> Fraction:
    """Return the exact number of a cell; the same few cells are read again and again."""
    return Fraction(text)


@dataclass(frozen=True)
class Table:
    """Rows of one table: the clause it belongs to, the unit of its cells, the editions it holds for.

    ``key`` names the columns that tell rows apart; a banded table has ``band_to`` (an upper limit,
    empty for none) and perhaps ``band_from`` instead.
    """

    name: str
    file: str
    title: str
    clause: str
    unit: str
    editions: tuple[str, ...]
    key: tuple[str, ...]
    band_from: str
    band_to: str
    text_columns: tuple[str, ...]
    rows: tuple[Row, ...]
    column_units: dict[str, str] = field(default_factory=dict)

    def unit_of(self, column: str) -> str:
        """Return the unit of the cells of a column: its own, or the table's."""
        return self.column_units.get(column, self.unit)

    def find(self, key: tuple[str, ...]) -> Row | None:
        """Return the row with these key cells, or None."""
        return self._index.get(key)

    @cached_property
    def _index(self) -> dict[tuple[str, ...], Row]:
        return {tuple(row[column] for column in self.key): row for row in self.rows}

    def find_band(self, value: Fraction) -> Row | None:
        """Return the first row whose band holds ``value``, or None below the first or above the last."""
        place = self._uppers.below(value)
        if place == len(self.rows):
            return None
        row = self.rows[place]
        lower = row[self.band_from] if self.band_from else ""
        return None if lower and value < cell_number(lower) else row

    @cached_property
    def _uppers(self) -> Ladder:
        """The upper limits of the bands up to one that has none, in order."""
        limited = takewhile(bool, (row[self.band_to] for row in self.rows))
        return Ladder(cell_number(upper) for upper in limited)

    def rows_of(self, column: str, word: str) -> tuple[Row, ...]:
        """Return the rows that have a word in a column, in their order."""
        kept: dict[tuple[str, str], tuple[Row, ...]] = self._rows_of
        if (column, word) not in kept:
            kept[column, word] = tuple(row for row in self.rows if row[column] == word)
        return kept[column, word]

    @cached_property
    def _rows_of(self) -> dict[tuple[str, str], tuple[Row, ...]]:
        return {}

    def ladder(self, column: str, of: str = "", word: str = "") -> Ladder:
        """Return the rising cells of a column, of all rows or of those with a word in another column; a blank cell counts
        as the one before it."""
        kept: dict[tuple[str, str, str], Ladder] = self._ladders
        if (column, of, word) not in kept:
            rows = self.rows_of(of, word) if of else self.rows
            cells = (cell_number(row[column] or "0") for row in rows)
            kept[column, of, word] = Ladder(accumulate(cells, max))
        return kept[column, of, word]

    @cached_property
    def _ladders(self) -> dict[tuple[str, str, str], Ladder]:
        return {}


def read_table(folder: Path, entry: dict[str, Any]) -> Table:
    """Read one table named in the manifest.

    Raises:
        RulebookBroken: missing file, unknown key column, duplicate row, overlapping bands, a cell that is no number.
    """
    path = folder / entry["file"]
    if not path.exists():
        raise RulebookBroken(f"{path.name}: the manifest names it but it is not there.")
    with path.open(newline="", encoding="utf-8") as stream:
        reader = csv.DictReader(stream, strict=True)
        columns = list(reader.fieldnames or [])
        rows = tuple(dict(row) for row in reader)
    table = Table(
        name=entry["name"],
        file=entry["file"],
        title=entry.get("table", ""),
        clause=entry["clause"],
        unit=entry["unit"],
        editions=tuple(entry["editions"]),
        key=tuple(entry.get("key", ())),
        band_from=entry.get("band_from", ""),
        band_to=entry.get("band_to", ""),
        text_columns=tuple(entry.get("text_columns", ())),
        rows=rows,
        column_units=entry.get("column_units", {}),
    )
    _check_columns(table, columns)
    _check_rows(table)
    return table


def _check_columns(table: Table, columns: list[str]) -> None:
    named = [*table.key, *table.text_columns, *(name for name in (table.band_from, table.band_to) if name)]
    unknown = [name for name in named if name not in columns]
    if unknown or len(set(columns)) != len(columns):
        raise RulebookBroken(f"{table.file}: column {unknown or columns} is unknown or stands twice.")


def _check_rows(table: Table) -> None:
    seen: set[tuple[str, ...]] = set()
    last_upper: Fraction | None = None
    for number, row in enumerate(table.rows, 2):
        if None in row or None in row.values():
            raise RulebookBroken(f"{table.file}:{number}: too many or too few cells.")
        identity = tuple(row[column] for column in table.key)
        if identity and identity in seen:
            raise RulebookBroken(f"{table.file}:{number}: {identity} stands twice.")
        seen.add(identity)
        last_upper = _check_band(table, number, row, last_upper)
        for column, cell in row.items():
            if column not in table.text_columns and column not in table.key and cell:
                _number(table, number, cell)


def _number(table: Table, line: int, cell: str) -> Fraction:
    try:
        return Fraction(cell)
    except ValueError:
        raise RulebookBroken(f"{table.file}:{line}: {cell!r} is not a number.") from None


def _check_band(table: Table, line: int, row: Row, last_upper: Fraction | None) -> Fraction | None:
    if not table.band_to or not row[table.band_to]:
        return last_upper
    upper = _number(table, line, row[table.band_to])
    lower = _number(table, line, row[table.band_from]) if table.band_from else None
    if last_upper is not None and (upper <= last_upper or (lower is not None and lower <= last_upper)):
        raise RulebookBroken(f"{table.file}:{line}: the band overlaps the one before.")
    return upper
