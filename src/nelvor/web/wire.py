"""Bodies and answers of the API that are not the report itself."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from nelvor.additions.kinds import AdditionKind
from nelvor.model.changes.differences import Difference
from nelvor.model.changes.operations import Operation
from nelvor.model.document import Document
from nelvor.model.field_log import FieldEntry
from nelvor.model.things import Amendment, Circuit, Device, Load
from nelvor.store.access import Role
from nelvor.study.diagnosis.readings import MOST_READINGS, Meter, ObservableOut, Reading
from nelvor.study.situation import Situation
from nelvor.web.endpoint import Body

State = Literal["existing", "proposed"]
Operations = list[Operation]
SaveId = Annotated[str, Field(min_length=8, max_length=64)]


class Answer(BaseModel):
    """Base of answers: closed, so that the description is exact."""

    model_config = ConfigDict(extra="forbid")


class AdditionLine(Answer):
    """A kind of addition that can be asked for, with the schema of what is asked before it is made."""

    kind: AdditionKind
    title: str
    words: str
    options_schema: dict[str, Any]


class AdditionList(Answer):
    additions: list[AdditionLine]


class WantedForm(Answer):
    """The schema of what is asked of a source before the ways to connect it are looked for."""

    wanted_schema: dict[str, Any]


class MemberOut(Answer):
    name: str
    email: str
    role: str
    may_write: bool


class MemberLine(Answer):
    """A member of the shop; ``self`` is the one who reads."""

    id: str
    name: str
    email: str
    role: str
    self: bool


class MemberList(Answer):
    members: list[MemberLine]
    may_manage: bool


class InvitationBody(Body):
    email: Annotated[str, Field(min_length=3, max_length=200, pattern=r"^[^@\s]+@[^@\s]+$")]
    role: Role


class RoleBody(Body):
    role: Role


class LinkOut(Answer):
    """The token of a one-time link; it is told once, and only its digest is kept."""

    token: str


class TokenBody(Body):
    token: Annotated[str, Field(min_length=1, max_length=200)]


class LinkOpened(Answer):
    """What a one-time link is for."""

    kind: str
    shop: str
    email: str
    role: str
    made_by: str


class UseLinkBody(TokenBody):
    name: Annotated[str, Field(max_length=200)] = ""
    password: Annotated[str, Field(max_length=1000)]


class PasswordBody(Body):
    current: Annotated[str, Field(max_length=1000)]
    new: Annotated[str, Field(max_length=1000)]


class SessionOut(Answer):
    member: MemberOut | None
    demo: bool
    csrf: str


class SignInBody(Body):
    email: Annotated[str, Field(max_length=320)]
    password: Annotated[str, Field(max_length=1000)]


class JobCounts(Answer):
    must_fix: int
    advice: int
    cannot_tell: int
    holds: int


class JobLine(Answer):
    """A job in the list; ``counts`` are those of its newest judgement, none where that is still to come."""

    id: str
    name: str
    head: int
    updated_at: str
    address: str
    customer: str
    edition: str
    status: str
    author: str
    archived: bool
    counts: JobCounts | None


class JobList(Answer):
    jobs: list[JobLine]


class ArchiveBody(Body):
    archived: bool


class NewJobBody(Body):
    """``starter`` is the key of what the job begins from, "" for an empty one."""

    name: Annotated[str, Field(min_length=1, max_length=200)]
    edition: Annotated[str, Field(max_length=20)]
    starter: Annotated[str, Field(max_length=40)] = ""


class StarterOut(Answer):
    key: str
    title: str
    words: str


class JobOut(Answer):
    """A job with its newest document. ``judged`` tells whether its signed answers are there yet; ``then`` is what was
    worked out when it was saved, if that was by other rules."""

    id: str
    head: int
    may_write: bool
    document: Document
    judged: bool
    then: dict[str, Any] | None


class SaveBody(Body):
    """What changed since revision ``base``. ``save_id`` belongs to this content for ever."""

    base: Annotated[int, Field(ge=1)]
    save_id: SaveId
    summary: Annotated[str, Field(max_length=200)]
    operations: Annotated[list[Operation], Field(min_length=1, max_length=50_000)]


class FieldLogOut(Answer):
    entries: list[FieldEntry]


class FieldLogBody(Body):
    entries: Annotated[list[FieldEntry], Field(min_length=1, max_length=1000)]


class RevisionLine(Answer):
    number: int
    base: int | None
    kind: str
    summary: str
    author: str
    created_at: str
    edition: str


class RevisionList(Answer):
    """Revisions, the newest first; ``older`` tells that there are others before them."""

    head: int
    older: bool
    revisions: list[RevisionLine]


class HowFarOut(Answer):
    """How far a paper has come that is not ready: what is ahead of it, or how many of its parts are laid out."""

    begun: bool
    ahead: int
    done: int
    parts: int


class RevisionOut(Answer):
    number: int
    document: Document
    answers: dict[str, Any] | None


class DifferenceOut(Answer):
    list: str
    id: str
    name: str
    field: str
    before: Any
    after: Any


class DifferenceList(Answer):
    differences: list[DifferenceOut]


def difference_list(found: list[Difference]) -> DifferenceList:
    """Return differences for sending."""
    return DifferenceList(differences=[DifferenceOut(**vars(item)) for item in found])


class SavedOut(Answer):
    """The number of the new revision; where it was joined with others' saves, the whole and what came from them."""

    number: int
    document: Document | None = None
    came: list[DifferenceOut] = Field(default_factory=list)


class CollisionOut(Answer):
    """One property (or, with field "", a thing) that both changed, with the operations that take mine."""

    list: str
    id: str
    name: str
    field: str
    side: Literal["existing", "proposed"]
    base: Any
    mine: Any
    theirs: Any
    taking_mine: Operations


class ConflictOut(Answer):
    """Two saves that changed the same. ``joining`` brings all of mine that does not collide onto theirs."""

    mine: int
    theirs: int
    author: str
    theirs_document: Document
    joining: list[Operation]
    collisions: list[CollisionOut]


class DocumentBody(Body):
    document: dict[str, Any]


class StateBody(DocumentBody):
    state: State = "proposed"


FigureKey = Annotated[str, Field(max_length=300)]
ThingId = Annotated[str, Field(max_length=40)]


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


class CircuitListBody(DocumentBody):
    """A list of circuits as text, for one bus: CSV, or lines as on the door of a panel."""

    state: State = "proposed"
    text: Annotated[str, Field(max_length=200_000)]
    bus_id: Annotated[str, Field(max_length=40)]


class CircuitListOut(Answer):
    devices: list[Device]
    circuits: list[Circuit]


class BusBody(DocumentBody):
    """Which bus of a document a question is about."""

    state: State = "proposed"
    bus_id: Annotated[str, Field(max_length=40)]


class CircuitTextOut(Answer):
    csv: str


class TakeOverBody(DocumentBody):
    """Whose circuits are to go into which other bus, and how much further their cables have to reach."""

    bus_id: Annotated[str, Field(max_length=40)]
    to_bus_id: Annotated[str, Field(max_length=40)]
    distance_ft: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] | None = None


class AdditionBody(DocumentBody):
    """What is to be added to or ahead of which enclosure; ``options`` are told by the schema of the kind."""

    kind: AdditionKind
    enclosure_id: Annotated[str, Field(max_length=40)]
    options: dict[str, Any] = Field(default_factory=dict, max_length=20)


class WaysBody(DocumentBody):
    """A source that is wanted at a panel (``wanted`` is told by the schema of its form), or one that is drawn already."""

    source_id: Annotated[str, Field(max_length=40)] = ""
    enclosure_id: Annotated[str, Field(max_length=40)] = ""
    wanted: dict[str, Any] = Field(default_factory=dict, max_length=20)


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


class TextOut(Answer):
    """A file as text: a netlist, readings as CSV."""

    text: str


class BalanceBody(DocumentBody):
    """Which bus is to be balanced, and within how many amperes its legs are to come."""

    state: State = "proposed"
    bus_id: Annotated[str, Field(max_length=40)]
    within_a: Annotated[float, Field(ge=0, le=6000, allow_inf_nan=False)] = 5.0


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


class LocalRulesOut(Answer):
    """The local rules of the shop; ``number`` counts their changes."""

    number: int
    rules: list[Amendment]
    may_write: bool


class LocalRulesBody(Body):
    base: Annotated[int, Field(ge=0)]
    rules: Annotated[list[Amendment], Field(max_length=200)]


class MissingRulesOut(Answer):
    rules: list[Amendment]
    operations: list[Operation]


class EditionsOut(Answer):
    editions: list[str]
    starters: list[StarterOut]
    rulebook: str
    amendment_keys: list[str]


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


class IssueOut(Answer):
    code: str
    path: str
    reason: str
    remedy: str


class ErrorOut(Answer):
    """Every refusal: a code, a message and, for bad input, each issue."""

    error: str
    message: str
    issues: list[IssueOut]
    conflict: ConflictOut | None = None
