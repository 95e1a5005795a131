"""What a meter's record shows: its peak averaged over 15 minutes, its length, its gaps, and a curve to look at."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from nelvor.exchange.interval import Reading, Record

WINDOW_SECONDS = 900
SECONDS_PER_DAY = 86_400


@dataclass(frozen=True)
class DayPeak:
    """The largest average of one day, in kW."""

    day: date
    kw: float


@dataclass(frozen=True)
class Summary:
    """What 220.87 asks of a record. ``warnings`` are said in words, each with what follows from it."""

    peak_kw: float
    peak_at: datetime
    interval_minutes: float
    began_on: date
    ended_on: date
    days: float
    readings: int
    missing_percent: float
    flowed_back: bool | None
    daily: tuple[DayPeak, ...]
    warnings: tuple[str, ...]


def summary(record: Record) -> Summary:
    """Return what a record shows. Readings shorter than 15 minutes are averaged over 15 minutes."""
    readings = _averaged(record.readings)
    peak = max(readings, key=lambda item: item.kw)
    first, last = readings[0], readings[-1]
    span = (last.start - first.start).total_seconds() + last.seconds
    held = sum(item.seconds for item in readings)
    missing = max(0.0, 100 * (1 - held / span)) if span else 0.0
    days: dict[date, float] = {}
    for item in readings:
        day = item.start.date()
        days[day] = max(days.get(day, item.kw), item.kw)
    return Summary(
        peak_kw=round(peak.kw, 4),
        peak_at=peak.start,
        interval_minutes=peak.seconds / 60,
        began_on=first.start.date(),
        ended_on=last.start.date(),
        days=round(span / SECONDS_PER_DAY, 2),
        readings=len(record.readings),
        missing_percent=round(missing, 2),
        flowed_back=record.flowed_back,
        daily=tuple(DayPeak(day, round(kw, 3)) for day, kw in sorted(days.items())),
        warnings=tuple(_warnings(record, readings, missing)),
    )


def _averaged(readings: Sequence[Reading]) -> list[Reading]:
    """Average readings shorter than 15 minutes over whole quarters of an hour; a quarter with gaps keeps what it has."""
    if readings[0].seconds >= WINDOW_SECONDS:
        return list(readings)
    windows: dict[datetime, list[Reading]] = {}
    for item in readings:
        start = item.start - timedelta(seconds=(item.start.minute % 15) * 60 + item.start.second)
        windows.setdefault(start, []).append(item)
    return [
        Reading(
            start,
            WINDOW_SECONDS,
            sum(item.kw * item.seconds for item in inside) / sum(item.seconds for item in inside),
        )
        for start, inside in sorted(windows.items())
    ]


def _warnings(record: Record, readings: Sequence[Reading], missing: float) -> list[str]:
    found = []
    if missing >= 1:
        found.append(f"{missing:.1f} % of the time is missing; a peak may lie in a gap.")
    doubled = len(record.readings) - len({item.start for item in record.readings})
    if doubled:
        found.append(f"{doubled} readings stand for a time that another reading holds too.")
    if record.flowed_back:
        found.append("Energy flowed back: the record is net of generation and hides the peak of the load.")
    if any(item.seconds > WINDOW_SECONDS for item in readings):
        found.append("The intervals are longer than 15 minutes; the true peak may be higher.")
    if all(item.kw == 0 for item in readings):
        found.append("Every reading is zero; check that the right meter was read.")
    return found
