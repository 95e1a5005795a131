"""Questions about a document or an edit."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field

from nelvor.model.changes.operations import Operation
from nelvor.model.things import Load
from nelvor.web.endpoint import Body
from nelvor.web.wire.base import Answer, DocumentBody, FigureKey, State, StateBody, ThingId


class CheckBody(DocumentBody):
    """``looked_at`` names the runs whose alternatives are wanted, ``workings`` the figures whose workings are open."""

    state: State = "proposed"
    looked_at: Annotated[list[ThingId], Field(max_length=10)] = Field(default_factory=list)
    workings: Annotated[list[FigureKey], Field(max_length=50)] = Field(default_factory=list)


class WorkingBody(DocumentBody):
    state: State = "proposed"
    key: FigureKey


class EditBody(Body):
    """A stored revision of a job with what was done since: so that a check need not be sent the whole."""

    base: Annotated[int, Field(ge=1)]
    operations: Annotated[list[Operation], Field(max_length=5_000)]
    state: State = "proposed"


class EditCheckBody(EditBody):
    looked_at: Annotated[list[ThingId], Field(max_length=10)] = Field(default_factory=list)
    workings: Annotated[list[FigureKey], Field(max_length=50)] = Field(default_factory=list)


class EditWorkingBody(EditBody):
    key: FigureKey


class EditionBody(DocumentBody):
    edition: Annotated[str, Field(max_length=20)]


class RunBody(DocumentBody):
    state: State = "proposed"
    run_id: Annotated[str, Field(max_length=40)]


class EnclosureBody(StateBody):
    enclosure_id: ThingId


class MendBody(StateBody):
    """A document with what a mend would do to it."""

    operations: Annotated[list[Operation], Field(min_length=1, max_length=1000)]


class LoadListBody(DocumentBody):
    """A load list as text; loads that name no panel go to ``panel``."""

    state: State = "proposed"
    text: Annotated[str, Field(max_length=2_000_000)]
    panel: Annotated[str, Field(max_length=40)] | None = None


class LoadListOut(Answer):
    loads: list[Load]


class DayPeakOut(Answer):
    day: str
    kw: float


class RecordOut(Answer):
    """What a meter's record shows: its peak, its length, its gaps, and the peak of each day."""

    peak_kw: float
    peak_at: str
    interval_minutes: float
    began_on: str
    ended_on: str
    days: float
    readings: int
    missing_percent: float
    flowed_back: bool | None
    daily: list[DayPeakOut]
    warnings: list[str]


class FigureLine(Answer):
    """A quick figure with the JSON Schema of its inputs and inputs to begin with."""

    name: str
    title: str
    question: str
    group: str
    input_schema: dict[str, Any]
    example: dict[str, Any]


class FigureList(Answer):
    figures: list[FigureLine]


class FigureBody(Body):
    inputs: dict[str, Any]
