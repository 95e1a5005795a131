"""Readings of a site as CSV: written without loss, read with every fault named by line and column."""

from __future__ import annotations

import csv
import io
from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence

from pydantic import ValidationError

from nelvor.errors import BadInput, Issue
from nelvor.exchange.cells import as_written, harmless
from nelvor.study.diagnosis.observables import Observable
from nelvor.study.diagnosis.readings import MOST_READINGS, Reading

COLUMNS = ("place", "what", "value", "unit", "taken_at", "instrument")


def write_readings(readings: Sequence[Reading], seen: Sequence[Observable]) -> str:
    """Return readings as CSV, places by their names, or by their ids where two are called alike."""
    known = {item.id: item for item in seen}
    named = Counter((item.place, item.short) for item in seen)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for reading in readings:
        item = known[reading.observable]
        place = item.place if named[item.place, item.short] == 1 else item.thing_id
        cells = (place, item.short, f"{reading.value:g}", reading.unit, reading.taken_at, reading.instrument)
        writer.writerow([harmless(cell) for cell in cells])
    return out.getvalue()


def read_readings(text: str, seen: Sequence[Observable]) -> list[Reading]:
    """Return the readings of a CSV with a heading; places by name or id.

    Raises:
        BadInput: with every issue found, by line and column.
    """
    lines = list(csv.reader(io.StringIO(text)))
    heading = [cell.strip().casefold() for cell in lines[0]] if lines else []
    missing = [column for column in ("place", "what", "value", "unit") if column not in heading]
    if missing:
        remedy = f"The first line names the columns: {', '.join(COLUMNS)}."
        raise BadInput([Issue("missing", "line 1", f"the column {missing[0]} is missing.", remedy)])
    if len(lines) - 1 > MOST_READINGS:
        raise BadInput([Issue("too_long", "", f"more than {MOST_READINGS} readings.", "Keep those that count.")])
    found: list[Reading] = []
    issues: list[Issue] = []
    for number, cells in enumerate(lines[1:], 2):
        if any(cell.strip() for cell in cells):
            row = {column: as_written(cell.strip()) for column, cell in zip(heading, cells, strict=False)}
            try:
                found.append(_reading(row, number, seen))
            except BadInput as failure:
                issues += failure.issues
    if issues:
        raise BadInput(issues)
    return found


def _reading(row: dict[str, str], number: int, seen: Sequence[Observable]) -> Reading:
    """Return the reading of a line.

    Raises:
        BadInput: with the fault found first.
    """
    item = _observable(row, number, seen)
    try:
        value = float(row.get("value", ""))
        given = {key: row.get(key, "") for key in ("unit", "taken_at", "instrument")}
        reading = Reading.model_validate({"observable": item.id, "value": value, **given})
    except ValidationError as failure:
        raise BadInput(list(_issues(failure, number))) from None
    except ValueError:
        raise _refused(number, "value", f"{row.get('value', '')!r} is no number.", "Enter what was shown.") from None
    if reading.unit != item.unit:
        raise _refused(number, "unit", f"{item.words} is read in {item.unit}.", f"Enter it in {item.unit}.")
    return reading


def _observable(row: dict[str, str], number: int, seen: Sequence[Observable]) -> Observable:
    at = _places(seen).get(row.get("place", "").casefold(), [])
    if not at:
        known = ", ".join(dict.fromkeys(item.place for item in seen))
        raise _refused(number, "place", f"{row.get('place', '')!r} is nothing here.", f"Known: {known}.")
    wanted = row.get("what", "").casefold()
    item = next((item for item in at if item.short.casefold() == wanted), None)
    if item is None:
        known = ", ".join(item.short for item in at)
        raise _refused(number, "what", f"{row.get('what', '')!r} is not read there.", f"Known: {known}.")
    return item


def _refused(number: int, column: str, reason: str, remedy: str) -> BadInput:
    return BadInput([Issue("not_read", f"line {number}, {column}", reason, remedy)])


def _places(seen: Sequence[Observable]) -> dict[str, list[Observable]]:
    found: dict[str, list[Observable]] = defaultdict(list)
    for item in seen:
        found[item.place.casefold()].append(item)
        found[item.thing_id.casefold()].append(item)
    return found


def _issues(failure: ValidationError, number: int) -> Iterator[Issue]:
    for error in failure.errors():
        path = f"line {number}, {error['loc'][0]}"
        yield Issue(error["type"], path, f"{error['msg'].lower()}.", "Enter a magnitude in A or V.")
