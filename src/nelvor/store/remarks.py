"""Remarks on a job: a stream of their own beside its revisions, never among its findings, never changed."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from nelvor.store.access import require
from nelvor.store.jobs import note
from nelvor.store.tables import Job, Member, Remark


def remark(session: Session, member: Member, job: Job, words: str, about: str) -> Remark:
    """Add a remark on the newest revision of a job, about one of its things or the whole.

    Raises:
        Refused: the member may not remark.
    """
    require(member, "remark", job)
    added = Remark(job_id=job.id, revision=job.head, words=words, about=about, author=member.name)
    session.add(added)
    note(session, member, job, "remark", f"on revision {job.head}")
    return added


def remarks_on(session: Session, job: Job) -> list[Remark]:
    """Return the remarks on a job that was found for this member, the oldest first."""
    return list(session.scalars(select(Remark).where(Remark.job_id == job.id).order_by(Remark.id)))
