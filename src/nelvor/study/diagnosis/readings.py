"""Readings as they are entered, and what a diagnosis answers."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from nelvor.model.base import Name, Part
from nelvor.report.sent import Wire
from nelvor.study.diagnosis.causes import CauseKind
from nelvor.study.diagnosis.observables import Care, Unit

MOST_READINGS = 200


class Reading(Part):
    """One reading: what was read (the id of an observable), its value as a magnitude, when, and with which instrument."""

    observable: Annotated[str, Field(min_length=1, max_length=120)]
    value: Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)]
    unit: Unit
    taken_at: Name = ""
    instrument: Name = ""


class Meter(Part):
    """How far readings can be trusted, and how well it is known which loads were on while they were taken."""

    accuracy_percent: Annotated[float, Field(ge=0, le=50)] = 2.0
    resolution: Annotated[float, Field(gt=0, le=10)] = 0.1
    load_doubt_percent: Annotated[float, Field(ge=0, le=100)] = 10.0


class ObservableOut(Wire):
    """Something that can be read. ``care``: from outside, or behind a cover, as work of qualified persons."""

    id: str
    place: str
    what: str
    unit: Unit
    care: Care


class MismatchOut(Wire):
    """A reading beside what a cause would give; ``sigmas`` is the difference in widths of its error."""

    observable: str
    words: str
    read: float
    expected: float
    unit: Unit
    sigmas: float


class CauseOut(Wire):
    """A cause, or two together. ``share`` is how much speaks for it among all, ``fits`` whether it gives every reading."""

    kinds: list[CauseKind]
    words: str
    share: float
    fits: bool
    worst: MismatchOut | None
    would_show: list[str]
    danger: Literal["none", "wrong", "lethal"]
    sentences: list[str]
    mend: list[str]
    bonds: dict[str, bool]


class NextReadingOut(Wire):
    """The reading that tells the leading causes apart best, and what each of them would show."""

    observable: ObservableOut
    bits: float
    expected: list[str]


class DiagnosisOut(Wire):
    """The causes that speak most, the next reading, and what has to be said of the readings as a whole."""

    told: str
    causes: list[CauseOut]
    next: NextReadingOut | None
    contradicting: list[str]
    readings: int
    cautions: list[str]
