"""The tables. Revisions and history are only ever added to; triggers of the migration hold that."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import JSON, Boolean, DateTime, ForeignKey, LargeBinary, Text, UniqueConstraint, false, func
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Base of all tables."""


class Shop(Base):
    __tablename__ = "shops"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    name: Mapped[str] = mapped_column(Text, unique=True)


class Member(Base):
    __tablename__ = "members"
    __allow_unmapped__ = True

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    shop_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("shops.id"), index=True)
    email: Mapped[str] = mapped_column(Text, unique=True)
    name: Mapped[str] = mapped_column(Text)
    role: Mapped[str] = mapped_column(Text)
    password_hash: Mapped[str] = mapped_column(Text)
    removed_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    only_job: uuid.UUID | None = None
    """A guest reads this one job of the shop and no other; members have none."""


class SignIn(Base):
    """A member signed in at one browser. Its cookie holds a token of which only the digest is kept here."""

    __tablename__ = "sign_ins"

    token_digest: Mapped[str] = mapped_column(Text, primary_key=True)
    member_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("members.id"), index=True)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    ended_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class OneTimeLink(Base):
    """A link that an owner hands over: an invitation to the shop, or the reset of a password. It works once."""

    __tablename__ = "one_time_links"

    token_digest: Mapped[str] = mapped_column(Text, primary_key=True)
    shop_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("shops.id"), index=True)
    kind: Mapped[str] = mapped_column(Text)
    email: Mapped[str] = mapped_column(Text)
    role: Mapped[str] = mapped_column(Text)
    made_by: Mapped[str] = mapped_column(Text)
    expires_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    used_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class Job(Base):
    """A job with what its list shows of the newest document, so that no document is read for it."""

    __tablename__ = "jobs"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    shop_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("shops.id"), index=True)
    name: Mapped[str] = mapped_column(Text)
    head: Mapped[int]
    last_number: Mapped[int]
    updated_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    address: Mapped[str] = mapped_column(Text, server_default="")
    customer: Mapped[str] = mapped_column(Text, server_default="")
    edition: Mapped[str] = mapped_column(Text, server_default="")
    status: Mapped[str] = mapped_column(Text, server_default="")
    author: Mapped[str] = mapped_column(Text, server_default="")
    archived: Mapped[bool] = mapped_column(Boolean, server_default=false())


class Revision(Base):
    """One saved state. ``base`` is what it was made from, ``met`` the newest revision that it met there.

    ``kind`` is main, joined (with what it met), sibling (kept beside what it met) or restored. ``digest`` tells the
    content of the request, since an id belongs to one content for ever. The document is packed.
    """

    __tablename__ = "revisions"
    __table_args__ = (UniqueConstraint("job_id", "number"), UniqueConstraint("job_id", "save_id"))

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    job_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("jobs.id"), index=True)
    number: Mapped[int]
    base: Mapped[int | None]
    kind: Mapped[str] = mapped_column(Text)
    save_id: Mapped[str] = mapped_column(Text)
    summary: Mapped[str] = mapped_column(Text)
    met: Mapped[int | None]
    digest: Mapped[str] = mapped_column(Text, server_default="")
    edition: Mapped[str] = mapped_column(Text)
    packed: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    author: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class Judgement(Base):
    """The signed answers of a revision, appended after it was committed; or why there are none."""

    __tablename__ = "judgements"

    revision_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("revisions.id"), primary_key=True)
    answers: Mapped[dict[str, Any]] = mapped_column(JSON)
    failure: Mapped[str] = mapped_column(Text, server_default="")
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class FieldLogEntry(Base):
    """Something done or measured on site. Only ever added to, so that two phones never collide."""

    __tablename__ = "field_log"

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("jobs.id"), index=True)
    entry: Mapped[dict[str, Any]] = mapped_column(JSON)
    author: Mapped[str] = mapped_column(Text)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class SharedLink(Base):
    """A read-only link to one job. Its token is told once; only the digest is kept here."""

    __tablename__ = "shared_links"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    token_digest: Mapped[str] = mapped_column(Text, unique=True)
    job_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("jobs.id"), index=True)
    shop_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("shops.id"))
    made_by: Mapped[str] = mapped_column(Text)
    meant_for: Mapped[str] = mapped_column(Text, server_default="")
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    expires_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    revoked_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class Remark(Base):
    """What somebody remarked on a revision of a job. Only ever added to."""

    __tablename__ = "remarks"

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("jobs.id"), index=True)
    revision: Mapped[int]
    about: Mapped[str] = mapped_column(Text, server_default="")
    words: Mapped[str] = mapped_column(Text)
    author: Mapped[str] = mapped_column(Text)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class Picture(Base):
    """A picture taken on site, of one thing of a job, small and cleared of what a camera writes beside it."""

    __tablename__ = "pictures"
    __table_args__ = (UniqueConstraint("job_id", "thing_id", "digest"),)

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    job_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("jobs.id"), index=True)
    thing_id: Mapped[str] = mapped_column(Text)
    caption: Mapped[str] = mapped_column(Text, server_default="")
    content: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    size: Mapped[int]
    digest: Mapped[str] = mapped_column(Text)
    author: Mapped[str] = mapped_column(Text)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class HistoryEntry(Base):
    __tablename__ = "history"

    id: Mapped[int] = mapped_column(primary_key=True)
    shop_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("shops.id"), index=True)
    member: Mapped[str] = mapped_column(Text)
    job_id: Mapped[uuid.UUID | None]
    action: Mapped[str] = mapped_column(Text)
    detail: Mapped[str] = mapped_column(Text)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class KeptByShop(Base):
    """Something that a shop keeps for all its jobs, as it stood after one change. Only ever added to."""

    __abstract__ = True
    __table_args__: Any = (UniqueConstraint("shop_id", "number"),)

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    shop_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("shops.id"), index=True)
    number: Mapped[int]
    author: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class LocalRules(KeptByShop):
    """The local rules of a shop."""

    __tablename__ = "local_rules"

    rules: Mapped[list[dict[str, Any]]] = mapped_column(JSON)


class KeptDefaults(KeptByShop):
    """What the new jobs of a shop begin with."""

    __tablename__ = "shop_defaults"

    settings: Mapped[dict[str, Any]] = mapped_column(JSON)


class KeptSources(KeptByShop):
    """The plates of sources that a shop uses."""

    __tablename__ = "shop_sources"

    plates: Mapped[list[dict[str, Any]]] = mapped_column(JSON)


class SignInFailure(Base):
    """Failed sign-ins, kept in the database so that all worker processes count together."""

    __tablename__ = "sign_in_failures"

    id: Mapped[int] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(Text, index=True)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
