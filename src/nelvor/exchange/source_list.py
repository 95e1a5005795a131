"""Lists of sources as CSV, a line for each plate: made-up examples ship, and a shop replaces them by its own.

The first line names the columns, those of ``SourcePlate``; an empty cell is not told, ``yes`` and ``no`` are facts.
"""

from __future__ import annotations

import csv
import io
from pathlib import Path
from typing import Any, get_args

from pydantic import TypeAdapter, ValidationError

from nelvor.errors import BadInput, Issue
from nelvor.exchange.cells import as_written, harmless
from nelvor.model.parse import issue_of
from nelvor.model.source_plates import MOST_PLATES, SourcePlate

EXAMPLES = Path(__file__).parent / "example_sources.csv"
COLUMNS = tuple(SourcePlate.model_fields)
MOST_TEXT, MOST_ISSUES = 200_000, 100
FACTS = {"yes": True, "no": False}
LINE = TypeAdapter(SourcePlate)
NUMBERS = frozenset(
    {
        "rated_kva",
        "rated_output_a",
        "rated_output_v",
        "power_factor",
        "largest_device_a",
        "charging_a",
        "fault_contribution_a",
    }
)
OF_FACTS = frozenset(name for name, field in SourcePlate.model_fields.items() if bool in get_args(field.annotation))
CLOSED = frozenset({"kind", "system", "output", "neutral_path", "relay", "marking"})


def example_sources() -> list[SourcePlate]:
    """Return the made-up examples that ship."""
    return read_sources(EXAMPLES.read_text())


def write_sources(plates: list[SourcePlate]) -> str:
    """Return a list as CSV."""
    out = io.StringIO(newline="")
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    writer.writerows([_cell(getattr(plate, column)) for column in COLUMNS] for plate in plates)
    return out.getvalue()


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:g}" if isinstance(value, (int, float)) else harmless(str(value))


def read_sources(text: str) -> list[SourcePlate]:
    """Return the plates of a list.

    Raises:
        BadInput: with each fault by its line and column; nothing is taken then.
    """
    if len(text) > MOST_TEXT:
        raise BadInput([Issue("too_large", "", "the list is too long.", f"Keep {MOST_PLATES} sources at most.")])
    try:
        rows = list(csv.reader(io.StringIO(text.lstrip("\ufeff"), newline=""), strict=True))
    except csv.Error as failure:
        raise BadInput([Issue("not_csv", "", f"this cannot be read as CSV: {failure}.", "Check its quotes.")]) from None
    rows = [row for row in rows if any(cell.strip() for cell in row)]
    columns = [cell.strip().lower().replace(" ", "_") for cell in rows[0]] if rows else []
    _refuse_columns(columns)
    plates: list[SourcePlate] = []
    issues: list[Issue] = []
    for number, row in enumerate(rows[1:], 2):
        _read_line(number, columns, row, plates, issues)
    if len(plates) > MOST_PLATES:
        issues.append(Issue("too_many", "", f"there are more than {MOST_PLATES} sources.", "Take some out."))
    if issues:
        raise BadInput(issues[:MOST_ISSUES])
    return plates


def _refuse_columns(columns: list[str]) -> None:
    known = ", ".join(COLUMNS)
    unknown = [column for column in columns if column not in COLUMNS]
    if unknown:
        raise BadInput(
            [Issue("unknown_column", "line 1", f"there is no column {unknown[0][:80]!r}.", f"Known: {known}.")]
        )
    missing = [column for column in ("name", "kind") if column not in columns]
    if missing:
        reason = f"the first line names no column {missing[0]}."
        raise BadInput([Issue("missing_column", "line 1", reason, f"Name the columns; known: {known}.")])


def _read_line(number: int, columns: list[str], row: list[str], plates: list[SourcePlate], issues: list[Issue]) -> None:
    if len(row) > len(columns):
        reason = f"it has {len(row)} cells for {len(columns)} columns."
        issues.append(Issue("too_many_cells", f"line {number}", reason, "Put texts with commas into quotes."))
        return
    cells = {column: as_written(cell.strip()) for column, cell in zip(columns, row, strict=False) if cell.strip()}
    try:
        plate = LINE.validate_python({column: _value(column, cell) for column, cell in cells.items()})
    except ValidationError as failure:
        issues.extend(issue_of(f"line {number}", error) for error in failure.errors())
        return
    if any(plate.name.casefold() == other.name.casefold() for other in plates):
        issues.append(Issue("twice", f"line {number}.name", f"{plate.name} stands twice.", "Name each once."))
        return
    plates.append(plate)


def _value(column: str, cell: str) -> Any:
    """A cell as its column takes it; what cannot be read is left as text, and the column refuses it."""
    if column in OF_FACTS:
        return FACTS.get(cell.lower(), cell)
    if column in NUMBERS:
        try:
            return float(cell.replace(",", "."))
        except ValueError:
            return cell
    return cell.lower() if column in CLOSED else cell
