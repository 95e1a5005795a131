"""Where the current flows, and readings."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nelvor.study.diagnosis.readings import MOST_READINGS, Meter, ObservableOut, Reading
from nelvor.study.situation import Situation
from nelvor.web.wire.base import Answer, DocumentBody, State


class PositionBody(DocumentBody):
    """Which position of the gear is looked at; "" is the ordinary one."""

    state: State = "proposed"
    position: Annotated[str, Field(max_length=400)] = ""


class StudyBody(PositionBody):
    """Which situation is studied in it."""

    situation: Situation = Situation()


class ReadingsBody(StudyBody):
    """Readings of a site as it is drawn, with how far they can be trusted."""

    readings: list[Reading] = Field(default_factory=list, max_length=MOST_READINGS)
    meter: Meter = Field(default_factory=Meter)


class PracticeBody(StudyBody):
    """What is read with the simulated meter at a site with the fault that a number hides."""

    number: Annotated[int, Field(ge=0, le=999_999)]
    observable: Annotated[str, Field(max_length=120)]
    meter: Meter = Field(default_factory=Meter)


class ReadingsTextBody(StudyBody):
    """Readings as CSV."""

    text: Annotated[str, Field(max_length=200_000)]


class ReadingList(Answer):
    readings: list[Reading]


class ReadableList(Answer):
    """What can be read at a site."""

    observables: list[ObservableOut]


class HiddenOut(Answer):
    """The fault that a number hides, in words."""

    words: str
