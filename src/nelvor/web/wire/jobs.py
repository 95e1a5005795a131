"""Jobs, their revisions, their log on site, their papers."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from nelvor.model.changes.operations import Operation
from nelvor.model.document import Document
from nelvor.model.field_log import FieldEntry
from nelvor.web.endpoint import Body
from nelvor.web.wire.base import Answer, DifferenceOut, Operations, SaveId


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


class JobOut(Answer):
    """A job with its newest document. ``judged`` tells whether its signed answers are there yet; ``then`` is what was
    worked out when it was saved, if that was by other rules."""

    id: str
    head: int
    may_write: bool
    may_share: bool
    may_remark: bool
    may_write_on_site: bool
    may_see_revisions: bool
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
