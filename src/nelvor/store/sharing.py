"""Read-only links to one job: each expires, can be revoked, and is seen in the history of the shop."""

from __future__ import annotations

import secrets
import uuid
from datetime import UTC, datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from nelvor.errors import BadInput, Issue, NotFound
from nelvor.store.access import require
from nelvor.store.jobs import note
from nelvor.store.members import digest_of_token
from nelvor.store.tables import Job, Member, SharedLink

LONGEST_DAYS = 365
MOST_LINKS = 50


def share(session: Session, member: Member, job: Job, days: int, meant_for: str) -> tuple[SharedLink, str]:
    """Make a link by which anyone who has it reads a job for so many days; return it with its token.

    Raises:
        Refused: the member may not share.
        BadInput: too long, or too many links are open.
    """
    require(member, "share", job)
    if not 1 <= days <= LONGEST_DAYS:
        remedy = f"Choose 1 to {LONGEST_DAYS} days."
        raise BadInput([Issue("out_of_range", "days", "a link cannot last so long.", remedy)])
    if len([link for link in links_of(session, member, job) if is_open(link)]) >= MOST_LINKS:
        remedy = "Revoke one of them first."
        raise BadInput([Issue("too_many", "links", f"{MOST_LINKS} links to this job are open.", remedy)])
    token = secrets.token_urlsafe(24)
    link = SharedLink(
        id=uuid.uuid4(),
        token_digest=digest_of_token(token),
        job_id=job.id,
        shop_id=job.shop_id,
        made_by=member.name,
        meant_for=meant_for,
        expires_at=datetime.now(UTC) + timedelta(days=days),
    )
    session.add(link)
    session.flush()
    note(session, member, job, "shared", f"for {meant_for or 'whoever has the link'}, {days} days")
    return link, token


def links_of(session: Session, member: Member, job: Job) -> list[SharedLink]:
    """Return the links of a job, the newest first.

    Raises:
        Refused: the member may not share.
    """
    require(member, "share", job)
    return list(session.scalars(select(SharedLink).where(SharedLink.job_id == job.id).order_by(SharedLink.at.desc())))


def revoke(session: Session, member: Member, job: Job, link_id: str) -> None:
    """Close a link: whoever reads by it reads nothing more.

    Raises:
        Refused: the member may not share.
        NotFound: the job has no such link.
    """
    found = next((link for link in links_of(session, member, job) if str(link.id) == link_id), None)
    if found is None:
        raise NotFound("This job has no such link.")
    if found.revoked_at is None:
        found.revoked_at = datetime.now(UTC)
        note(session, member, job, "link revoked", found.meant_for)


def is_open(link: SharedLink) -> bool:
    """Tell whether a link still opens its job."""
    return link.revoked_at is None and link.expires_at > datetime.now(UTC)


def guest_of(session: Session, token: str) -> Member | None:
    """Return the guest to whom a link belongs: one who reads that one job and does nothing else. None where it is closed."""
    query = select(SharedLink).where(
        SharedLink.token_digest == digest_of_token(token),
        SharedLink.revoked_at.is_(None),
        SharedLink.expires_at > func.now(),
    )
    link = session.scalar(query)
    if link is None:
        return None
    guest = Member(id=link.id, shop_id=link.shop_id, email="", name=link.meant_for or "Guest", role="guest")
    guest.only_job = link.job_id
    return guest
