"""Interval data of a customer's meter: CSV, and the open XML format for customers' energy data (ESPI, an Atom feed)."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any, NoReturn
from xml.etree.ElementTree import ParseError

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import iterparse

from nelvor.errors import BadInput, Issue

MOST_BYTES = 10 * 1024 * 1024
MOST_READINGS = 400_000
WATT_HOURS = "72"
FORWARD, REVERSE = "1", "19"
TIME_COLUMNS = ("start", "time", "timestamp", "date_time", "datetime", "interval_start", "date")
ENERGY_COLUMNS = {"kwh": 1.0, "wh": 0.001, "usage_kwh": 1.0, "energy_kwh": 1.0}
POWER_COLUMNS = {"kw": 1.0, "w": 0.001, "demand_kw": 1.0}
TIME_FORMATS = ("%Y-%m-%d %H:%M:%S", "%Y-%m-%d %H:%M", "%Y-%m-%dT%H:%M:%S", "%Y-%m-%dT%H:%M")
SECONDS_PER_HOUR = 3600


@dataclass(frozen=True)
class Reading:
    """The average power over one interval, in kW; ``start`` in UTC, or local time where the record names no zone."""

    start: datetime
    seconds: int
    kw: float


@dataclass(frozen=True)
class Record:
    """The readings of a meter in order of time, and whether energy flowed back (None where the record cannot show it)."""

    readings: tuple[Reading, ...]
    flowed_back: bool | None


def _refuse(code: str, path: str, reason: str, remedy: str) -> NoReturn:
    raise BadInput([Issue(code, path, reason, remedy)])


def read_record(raw: bytes) -> Record:
    """Return the record of a CSV or XML file.

    Raises:
        BadInput: too large, neither format, wrong units, values that are no numbers.
    """
    if len(raw) > MOST_BYTES:
        _refuse("too_large", "", f"the file is larger than {MOST_BYTES // 1024 // 1024} MB.", "Bring one year.")
    start = raw.lstrip(b"\xef\xbb\xbf \r\n\t")
    record = _from_xml(raw) if start.startswith(b"<") else _from_csv(raw)
    if not record.readings:
        _refuse("empty", "", "the file holds no readings.", "Check what was exported.")
    return record


# -- CSV ---------------------------------------------------------------------------------------


def _from_csv(raw: bytes) -> Record:
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        _refuse("not_utf8", "", "the file is not UTF-8 text.", "Save it as UTF-8.")
    head = text.split("\n", 1)[0]
    delimiter = max(("\t", ";", ","), key=head.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
    names = [name.strip().lower().replace(" ", "_") for name in next(reader, [])]
    time_at = next((names.index(name) for name in TIME_COLUMNS if name in names), None)
    value_name = next((name for name in (*ENERGY_COLUMNS, *POWER_COLUMNS) if name in names), None)
    if time_at is None or value_name is None:
        _refuse(
            "columns",
            "line 1",
            "the file names no column of times with one of kWh, Wh, kW or W.",
            f"Name them, for instance start and kwh. Found: {', '.join(names)[:200] or 'nothing'}.",
        )
    try:
        pairs = list(_pairs(reader, time_at, names.index(value_name)))
    except csv.Error as failure:
        _refuse("not_csv", "", f"it is no table: {failure}.", "Check the quotation marks and the longest cell.")
    seconds = _usual_step([time for time, _ in pairs])
    factor = POWER_COLUMNS.get(value_name) or ENERGY_COLUMNS[value_name] * SECONDS_PER_HOUR / seconds
    readings = sorted((Reading(time, seconds, value * factor) for time, value in pairs), key=lambda item: item.start)
    return Record(tuple(readings), True if any(item.kw < 0 for item in readings) else None)


def _pairs(reader: Any, time_at: int, value_at: int) -> Iterator[tuple[datetime, float]]:
    form: str | None = None
    for line, row in enumerate(reader, 2):
        if not row or not any(cell.strip() for cell in row):
            continue
        if line > MOST_READINGS:
            _refuse("too_large", "", f"more than {MOST_READINGS} readings.", "Bring one year.")
        if len(row) <= max(time_at, value_at):
            _refuse("columns", f"line {line}", "cells are missing.", "Check the line.")
        form, moment = _moment(row[time_at].strip(), form, line)
        try:
            value = float(row[value_at].replace(",", ".") if "." not in row[value_at] else row[value_at])
        except ValueError:
            _refuse("not_a_number", f"line {line}", f"{row[value_at][:40]!r} is no number.", "Correct the cell.")
        if value != value or value in (float("inf"), float("-inf")):
            _refuse("not_a_number", f"line {line}", "the value is not finite.", "Correct the cell.")
        yield moment, value


def _moment(text: str, form: str | None, line: int) -> tuple[str | None, datetime]:
    if form is not None:
        try:
            return form, datetime.strptime(text, form)
        except ValueError:
            pass
    for candidate in TIME_FORMATS:
        try:
            return candidate, datetime.strptime(text, candidate)
        except ValueError:
            continue
    try:
        return None, datetime.fromisoformat(text).astimezone(UTC).replace(tzinfo=None)
    except (ValueError, OverflowError):
        _refuse("bad_time", f"line {line}", f"{text[:40]!r} is no time.", "Write it as 2026-01-31 17:45.")


def _usual_step(times: list[datetime]) -> int:
    """The most usual distance between readings, in seconds."""
    steps: dict[int, int] = {}
    ordered = sorted(times)
    for before, after in zip(ordered, ordered[1:], strict=False):
        step = int((after - before).total_seconds())
        if step > 0:
            steps[step] = steps.get(step, 0) + 1
    if not steps:
        _refuse("too_short", "", "one reading alone shows no interval.", "Bring at least two readings.")
    return max(steps, key=lambda step: (steps[step], -step))


# -- XML ---------------------------------------------------------------------------------------


@dataclass
class _Kind:
    """The reading type in force: how a value becomes Wh, and the way it flows."""

    unit: str = WATT_HOURS
    power_of_ten: int = 0
    flow: str = FORWARD


def _from_xml(raw: bytes) -> Record:
    kind = _Kind()
    readings: list[Reading] = []
    back = False
    try:
        for _, element in iterparse(io.BytesIO(raw), events=("end",), forbid_dtd=True):
            name = _name(element)
            if name == "ReadingType":
                kind = _kind(element)
                element.clear()
            elif name == "IntervalReading":
                reading = _reading(element, kind)
                if kind.flow == REVERSE:
                    back = back or reading.kw != 0
                else:
                    readings.append(reading)
                if len(readings) > MOST_READINGS:
                    _refuse("too_large", "", f"more than {MOST_READINGS} readings.", "Bring one year.")
                element.clear()
    except ParseError as failure:
        _refuse("not_xml", "", f"not XML: {failure}.", "Check that the file is whole.")
    except DefusedXmlException:
        _refuse("not_allowed", "", "the file declares entities or a document type.", "Export it anew without them.")
    except (LookupError, ValueError):
        _refuse("not_xml", "", "the file names a character encoding that is not read.", "Save it as UTF-8.")
    readings.sort(key=lambda item: item.start)
    return Record(tuple(readings), back or any(item.kw < 0 for item in readings))


def _name(element: Any) -> str:
    return str(element.tag).rsplit("}", 1)[-1]


def _child(element: Any, name: str) -> Any:
    return next((child for child in element.iter() if _name(child) == name), None)


def _text(element: Any, name: str, default: str = "") -> str:
    found = _child(element, name)
    return (found.text or "").strip() if found is not None else default


def _kind(element: Any) -> _Kind:
    unit = _text(element, "uom", WATT_HOURS)
    if unit != WATT_HOURS:
        _refuse(
            "wrong_unit",
            "ReadingType.uom",
            f"the readings are in unit {unit[:20]}, not in watt-hours (72).",
            "Ask for the energy record of the meter.",
        )
    power = _text(element, "powerOfTenMultiplier", "0")
    if not re.fullmatch(r"-?[0-9]{1,2}", power):
        where = "ReadingType.powerOfTenMultiplier"
        _refuse("not_a_number", where, f"{power[:20]!r} is no power of ten.", "Export it anew.")
    return _Kind(unit, int(power), _text(element, "flowDirection", FORWARD))


def _reading(element: Any, kind: _Kind) -> Reading:
    start, duration, value = (_text(element, name) for name in ("start", "duration", "value"))
    try:
        seconds = int(duration)
        moment = datetime(1970, 1, 1) + timedelta(seconds=int(start))
        watt_hours = int(value) * 10.0**kind.power_of_ten
    except (ValueError, OverflowError):
        _refuse(
            "not_a_number", "IntervalReading", "a reading has no whole start, duration or value.", "Export it anew."
        )
    if seconds <= 0:
        _refuse("bad_time", "IntervalReading.duration", "an interval lasts no time.", "Export it anew.")
    return Reading(moment, seconds, watt_hours / 1000 * SECONDS_PER_HOUR / seconds)
