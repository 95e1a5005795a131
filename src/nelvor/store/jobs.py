"""Jobs and their revisions. Nothing is ever overwritten: saving, restoring and conflicts all append."""

from __future__ import annotations

import json
import uuid
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from nelvor.errors import Conflict, NotFound, Refused
from nelvor.model.changes.differences import between
from nelvor.model.document import Document
from nelvor.model.parse import parse_bytes
from nelvor.report.check import check
from nelvor.report.summary import signed_summary
from nelvor.store.tables import HistoryEntry, Job, Member, Revision

WRITING_ROLES = frozenset({"owner", "designer"})


def may_write(member: Member) -> bool:
    return member.role in WRITING_ROLES


def require_writer(member: Member) -> None:
    """Refuse a member who may only read.

    Raises:
        Refused: the member's role does not write.
    """
    if not may_write(member):
        raise Refused(f"A {member.role} may read but not change anything.")


def list_jobs(session: Session, member: Member) -> list[Job]:
    """Return the jobs of the member's shop, the last changed first."""
    return list(session.scalars(select(Job).where(Job.shop_id == member.shop_id).order_by(Job.updated_at.desc())))


def find_job(session: Session, member: Member, job_id: str, lock: bool = False) -> Job:
    """Return one job of the member's shop.

    Raises:
        NotFound: no such job within this shop.
    """
    try:
        identity = uuid.UUID(job_id)
    except ValueError:
        raise NotFound("There is no such job.") from None
    query = select(Job).where(Job.id == identity, Job.shop_id == member.shop_id)
    job = session.scalar(query.with_for_update() if lock else query)
    if job is None:
        raise NotFound("There is no such job.")
    return job


def find_revision(session: Session, job: Job, number: int) -> Revision:
    """Return a revision of a job that was found for this member.

    Raises:
        NotFound: the job has no revision of that number.
    """
    revision = session.scalar(select(Revision).where(Revision.job_id == job.id, Revision.number == number))
    if revision is None:
        raise NotFound(f"The job has no revision {number}.")
    return revision


def list_revisions(session: Session, job: Job) -> list[Revision]:
    """Return the revisions of a job, the newest first."""
    return list(session.scalars(select(Revision).where(Revision.job_id == job.id).order_by(Revision.number.desc())))


def document_of(revision: Revision) -> Document:
    return parse_bytes(revision.document.encode())


def document_text(document: Document) -> str:
    """Return the document as stored and exported: stable order, readable."""
    return json.dumps(document.model_dump(mode="json"), ensure_ascii=False, indent=1)


def create_job(session: Session, member: Member, document: Document, summary: str) -> Job:
    """Add a job with its first revision.

    Raises:
        Refused: the member may not write.
        UnknownEdition: the rulebook does not hold the job's edition.
    """
    require_writer(member)
    job = Job(shop_id=member.shop_id, name=document.name, head=1, last_number=1)
    session.add(job)
    session.flush()
    _append(
        session, member, job, document, number=1, base=None, kind="main", save_id=str(uuid.uuid4()), summary=summary
    )
    note(session, member, job, "created", document.name)
    return job


def save(
    session: Session, member: Member, job_id: str, document: Document, base: int, save_id: str, summary: str
) -> Revision:
    """Append a revision made from revision ``base``. A repeated ``save_id`` returns what was saved then.

    Raises:
        Conflict: another revision came first. This one is kept as a sibling; the caller commits it all the same.
        Refused, NotFound, UnknownEdition.
    """
    require_writer(member)
    job = find_job(session, member, job_id, lock=True)
    repeated = session.scalar(select(Revision).where(Revision.job_id == job.id, Revision.save_id == save_id))
    if repeated is not None:
        return repeated
    number = job.last_number + 1
    conflict = base != job.head
    revision = _append(
        session,
        member,
        job,
        document,
        number=number,
        base=base,
        kind="sibling" if conflict else "main",
        save_id=save_id,
        summary=summary,
    )
    job.last_number = number
    if conflict:
        note(session, member, job, "conflict", f"revision {number} kept beside {job.head}")
        raise _conflict(session, job, revision, document)
    job.head, job.name, job.updated_at = number, document.name, func.now()
    note(session, member, job, "saved", f"revision {number}: {summary}")
    return revision


def _conflict(session: Session, job: Job, mine: Revision, document: Document) -> Conflict:
    theirs = find_revision(session, job, job.head)
    differences = between(document_of(theirs), document)
    return Conflict(
        mine={"number": mine.number, "document": json.loads(mine.document)},
        theirs={"number": theirs.number, "author": theirs.author, "document": json.loads(theirs.document)},
        differences=[vars(difference) for difference in differences],
    )


def restore(session: Session, member: Member, job_id: str, number: int) -> Revision:
    """Append a copy of an earlier revision as the newest.

    Raises:
        Refused, NotFound.
    """
    require_writer(member)
    job = find_job(session, member, job_id, lock=True)
    document = document_of(find_revision(session, job, number))
    job.last_number += 1
    revision = _append(
        session,
        member,
        job,
        document,
        number=job.last_number,
        base=job.head,
        kind="restored",
        save_id=str(uuid.uuid4()),
        summary=f"Restored revision {number}",
    )
    job.head, job.name, job.updated_at = revision.number, document.name, func.now()
    note(session, member, job, "restored", f"revision {number} as {revision.number}")
    return revision


def _append(session: Session, member: Member, job: Job, document: Document, **facts: Any) -> Revision:
    answers = signed_summary(check(document, alternatives=False))
    revision = Revision(job_id=job.id, document=document_text(document), answers=answers, author=member.name, **facts)
    session.add(revision)
    session.flush()
    return revision


def note(session: Session, member: Member, job: Job | None, action: str, detail: str) -> None:
    """Add to the shop's history what a member did, to a job or to the shop itself."""
    job_id = job.id if job else None
    session.add(HistoryEntry(shop_id=member.shop_id, member=member.email, job_id=job_id, action=action, detail=detail))
