"""Members, sessions, links that work once, local rules."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nelvor.model.base import MOST_THINGS
from nelvor.model.changes.operations import Operation
from nelvor.model.shop_defaults import ShopDefaults
from nelvor.model.source_plates import SourcePlate
from nelvor.model.things import Amendment
from nelvor.store.access import Role
from nelvor.web.endpoint import Body
from nelvor.web.wire.base import Answer


class MemberOut(Answer):
    """Who is signed in; ``only_job`` is the one that a guest may read."""

    name: str
    email: str
    role: str
    may_write: bool
    may_delete_jobs: bool
    may_read_history: bool
    only_job: str | None = None


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


class LocalRulesOut(Answer):
    """The local rules of the shop; ``number`` counts their changes."""

    number: int
    rules: list[Amendment]
    may_write: bool


class LocalRulesBody(Body):
    base: Annotated[int, Field(ge=0)]
    rules: Annotated[list[Amendment], Field(max_length=200)]


class ShopDefaultsOut(Answer):
    """What new jobs of the shop begin with; ``number`` counts its changes."""

    number: int
    defaults: ShopDefaults
    may_write: bool


class ShopDefaultsBody(Body):
    base: Annotated[int, Field(ge=0)]
    defaults: ShopDefaults


class AmendmentsBody(Body):
    amendments: Annotated[list[Amendment], Field(max_length=MOST_THINGS)]


class MissingRulesOut(Answer):
    rules: list[Amendment]


class BringingInOut(Answer):
    operations: list[Operation]


class ShopSourcesOut(Answer):
    """The plates that the shop keeps, and as CSV; ``examples``: it keeps none yet, and these are made up."""

    number: int
    may_write: bool
    examples: bool
    plates: list[SourcePlate]
    text: str


class ShopSourcesBody(Body):
    base: Annotated[int, Field(ge=0)]
    text: Annotated[str, Field(max_length=200_000)]


class HistoryLine(Answer):
    """Something that was done; ``job`` is the name of the job where it still stands."""

    number: int
    at: str
    member: str
    action: str
    detail: str
    job_id: str | None
    job: str | None


class HistoryOut(Answer):
    entries: list[HistoryLine]
    older: bool
