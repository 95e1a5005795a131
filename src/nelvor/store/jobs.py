"""Jobs and their revisions. Nothing is ever overwritten: saving, joining, restoring and collisions all append."""

from __future__ import annotations

import hashlib
import json
import uuid
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from sqlalchemy import func, select, true
from sqlalchemy.orm import Session, undefer

from nelvor.errors import BadInput, Conflict, Issue, NotFound, Refused, SaveReused
from nelvor.model.base import NAME_LIMIT
from nelvor.model.changes.differences import Difference, between
from nelvor.model.changes.merge import Joined, join, taking_mine
from nelvor.model.changes.operations import Operation
from nelvor.model.document import LISTS, Document
from nelvor.model.edited import KnownJob
from nelvor.model.parse import LARGEST_DOCUMENT_BYTES, parse_stored, parse_value
from nelvor.rulebook.rules import rulebook
from nelvor.store.access import require
from nelvor.store.known_jobs import MadeFrom, known_jobs
from nelvor.store.packing import packed, unpacked
from nelvor.store.tables import HistoryEntry, Job, Judgement, Member, Revision

TRIES_TO_BE_NEXT = 5
REVISIONS_AT_ONCE = 100
Json = dict[str, Any]


def list_jobs(session: Session, member: Member) -> list[tuple[Job, dict[str, int] | None]]:
    """Return the jobs of the member's shop with the counts of their newest judgement, None where there is none yet.

    The last changed stand first, those changed together by name.
    """
    query = (
        select(Job, Judgement.answers["counts"])
        .outerjoin(Revision, (Revision.job_id == Job.id) & (Revision.number == Job.head))
        .outerjoin(Judgement, Judgement.revision_id == Revision.id)
        .where(Job.shop_id == member.shop_id, Job.id == member.only_job if member.only_job else true())
        .order_by(Job.updated_at.desc(), Job.name)
    )
    return [(job, counts) for job, counts in session.execute(query)]


def _show_in_list(job: Job, head: int, document: Document, member: Member) -> None:
    """Take over what the list of jobs shows of a document that becomes the newest."""
    settings = document.settings
    job.head, job.name, job.updated_at, job.author = head, document.name, func.now(), member.name
    job.address, job.customer, job.edition, job.status = (
        settings.address,
        settings.owner,
        settings.edition,
        settings.status,
    )


def put_away(session: Session, member: Member, job_id: str, archived: bool) -> Job:
    """Put a job away, or fetch it back: nothing of it is lost, it only leaves the list.

    Raises:
        Refused, NotFound.
    """
    require(member, "change")
    job = find_job(session, member, job_id, lock=True)
    if job.archived != archived:
        job.archived = archived
        note(session, member, job, "archived" if archived else "fetched back", job.name)
    return job


def delete_job(session: Session, member: Member, job_id: str, name: str) -> None:
    """Delete a whole job with all its revisions, judgements, remarks, links and its field log; that it was is kept.

    Raises:
        Refused, NotFound.
        BadInput: the name given is not that of the job.
    """
    job = find_job(session, member, job_id, lock=True)
    require(member, "delete_job", job)
    if name != job.name:
        remedy = "Write its name as it stands, to be sure that it is the right one."
        raise BadInput([Issue("other_name", "name", "this is not the name of the job.", remedy)])
    note(session, member, job, "deleted", f"{job.name}, {job.last_number} revisions")
    session.flush()
    session.execute(select(func.delete_job(job.id)))
    session.expunge(job)


def copy_job(session: Session, member: Member, job_id: str) -> Job:
    """Begin a job with the newest document of another; its history and field log stay behind.

    Raises:
        Refused, NotFound, UnknownEdition.
    """
    job = find_job(session, member, job_id)
    document = known_job(session, job, job.head).document
    name = f"Copy of {document.name}"[:NAME_LIMIT]
    return create_job(session, member, document.model_copy(update={"name": name}), f"Copied from {document.name}")


def find_job(session: Session, member: Member, job_id: str, lock: bool = False) -> Job:
    """Return one job of the member's shop.

    Raises:
        NotFound: no such job within this shop.
    """
    try:
        identity = uuid.UUID(job_id)
    except ValueError:
        raise NotFound("There is no such job.") from None
    if member.only_job not in (None, identity):
        raise NotFound("There is no such job.")
    query = select(Job).where(Job.id == identity, Job.shop_id == member.shop_id)
    if lock:
        query = query.with_for_update().execution_options(populate_existing=True)
    job = session.scalar(query)
    if job is None:
        raise NotFound("There is no such job.")
    return job


def find_revision(session: Session, job: Job, number: int) -> Revision:
    """Return a revision of a job that was found for this member, with its document.

    Raises:
        NotFound: the job has no revision of that number.
    """
    if number > job.last_number:
        raise NotFound(f"The job has no revision {number}.")
    query = select(Revision).where(Revision.job_id == job.id, Revision.number == number)
    revision = session.scalar(query.options(undefer(Revision.packed)))
    if revision is None:
        raise NotFound(f"The job has no revision {number}.")
    return revision


def list_revisions(
    session: Session, job: Job, before: int | None = None, most: int = REVISIONS_AT_ONCE
) -> list[Revision]:
    """Return the newest revisions of a job, or those before one, the newest first, without their documents."""
    query = select(Revision).where(Revision.job_id == job.id)
    if before is not None:
        query = query.where(Revision.number < before)
    return list(session.scalars(query.order_by(Revision.number.desc()).limit(most)))


def document_of(revision: Revision) -> Document:
    return parse_stored(unpacked(revision.packed))


def known_job(session: Session, job: Job, number: int) -> KnownJob:
    """Return a revision of a job that was found for this member, ready to be edited.

    Raises:
        NotFound: the job has no revision of that number.
    """
    return known_jobs.of(job.id, number, lambda: KnownJob.of(document_of(find_revision(session, job, number))))


def made_from(job_id: uuid.UUID, number: int) -> MadeFrom | None:
    """Return how a revision was made from another by operations alone, where this process made it lately."""
    return known_jobs.made_from(job_id, number)


def document_text(document: Document) -> str:
    """Return the document as stored and exported: stable order, readable."""
    return document.model_dump_json(indent=1)


def judgement_of(session: Session, revision: Revision) -> Judgement | None:
    """Return the signed answers of a revision, None where it was not judged yet."""
    return session.get(Judgement, revision.id)


def create_job(session: Session, member: Member, document: Document, summary: str) -> Job:
    """Add a job with its first revision.

    Raises:
        Refused: the member may not write.
        UnknownEdition: the rulebook does not hold the job's edition.
    """
    require(member, "change")
    job = Job(shop_id=member.shop_id, last_number=1)
    _show_in_list(job, 1, document, member)
    session.add(job)
    session.flush()
    facts = {"number": 1, "base": None, "kind": "main", "save_id": str(uuid.uuid4()), "summary": summary}
    _append(session, member, job, document, **facts)
    note(session, member, job, "created", document.name)
    return job


@dataclass(frozen=True)
class Save:
    """What a save asks for: operations on a base revision, under an id that belongs to this content for ever."""

    base: int
    save_id: str
    summary: str
    operations: list[Operation]

    @property
    def digest(self) -> str:
        """What tells this content from any other."""
        content = [self.base, self.summary, [item.model_dump(mode="json") for item in self.operations]]
        return hashlib.sha256(json.dumps(content, sort_keys=True).encode()).hexdigest()


def save(session: Session, member: Member, job_id: str, wanted: Save) -> Revision:
    """Append a revision: the operations on their base, joined with what came since. A repeated save is answered as then.

    Everything is worked out before the job's row is locked; where another save came between, it is worked out again.

    Raises:
        Conflict: both changed the same. This one is kept as a sibling; the caller commits it all the same.
        SaveReused: the id belongs to another content.
        BadInput: the operations do not fit their base, or leave a document that is not valid.
        Refused, NotFound, UnknownEdition.
    """
    require(member, "change")
    job = find_job(session, member, job_id)
    base = known_job(session, job, wanted.base)
    for _ in range(TRIES_TO_BE_NEXT):
        before = _saved_before(session, job, wanted)
        if before is not None:
            return _answered_again(session, job, before)
        head = job.head
        mine = base.edited(wanted.operations)
        joined = None if head == wanted.base else _joined(session, job, base, head, mine)
        job = find_job(session, member, job_id, lock=True)
        if job.head == head and _saved_before(session, job, wanted) is None:
            return _saved(session, member, job, wanted, mine, joined)
        session.rollback()
        job = find_job(session, member, job_id)
    raise Refused("Others save this job all the time; try again in a moment.")


def _saved_before(session: Session, job: Job, wanted: Save) -> Revision | None:
    query = select(Revision.number, Revision.digest)
    query = query.where(Revision.job_id == job.id, Revision.save_id == wanted.save_id)
    before = session.execute(query).one_or_none()
    if before is None:
        return None
    if before.digest != wanted.digest:
        raise SaveReused("Something else was saved under this id; nothing of this save was kept.")
    return find_revision(session, job, before.number)


def _answered_again(session: Session, job: Job, before: Revision) -> Revision:
    """Answer a repeated save as it was answered then, a collision too."""
    if before.kind == "sibling" and before.met is not None and before.base is not None:
        base, mine = (known_job(session, job, number) for number in (before.base, before.number))
        raise _conflict(session, job, before, mine, _joined(session, job, base, before.met, mine))
    return before


def _joined(session: Session, job: Job, base: KnownJob, met: int, mine: KnownJob) -> Joined:
    theirs = known_job(session, job, met).value
    found = join(base.value, theirs, mine.value)
    try:
        parse_value(found.document)
    except BadInput:  # what cannot be joined to a valid whole collides as a whole
        return Joined(theirs, found.collisions or (), ())
    return found


def _saved(session: Session, member: Member, job: Job, wanted: Save, mine: KnownJob, joined: Joined | None) -> Revision:
    number, collides = job.last_number + 1, joined is not None and bool(joined.collisions)
    kept = KnownJob.of(parse_value(joined.document)) if joined is not None and not collides else mine
    document = kept.document
    revision = _append(
        session,
        member,
        job,
        document,
        number=number,
        base=wanted.base,
        met=None if joined is None else job.head,
        kind="main" if joined is None else "sibling" if collides else "joined",
        save_id=wanted.save_id,
        digest=wanted.digest,
        summary=wanted.summary,
    )
    made_from = (wanted.base, tuple(wanted.operations)) if kept is mine else None
    known_jobs.keep_when_committed(session, (job.id, number), kept, made_from)
    job.last_number = number
    if joined is not None and collides:
        note(session, member, job, "conflict", f"revision {number} kept beside {job.head}")
        raise _conflict(session, job, revision, mine, joined)
    _show_in_list(job, number, document, member)
    how = "saved" if joined is None else "joined"
    note(session, member, job, how, f"revision {number}: {wanted.summary}")
    return revision


def _conflict(session: Session, job: Job, sibling: Revision, kept: KnownJob, joined: Joined) -> Conflict:
    assert sibling.met is not None  # a sibling met another revision
    theirs, mine = find_revision(session, job, sibling.met), kept.value
    collisions = [
        {
            **vars(item),
            "name": _name_in((mine, joined.document), item.list, item.id),
            "taking_mine": list(taking_mine(joined.document, mine, item)),
        }
        for item in joined.collisions
    ]
    return Conflict(
        mine=sibling.number,
        theirs=theirs.number,
        author=theirs.author,
        theirs_document=known_job(session, job, theirs.number).value,
        joining=list(joined.from_theirs),
        collisions=collisions,
    )


def _name_in(jobs: Iterable[Json], list_name: str, thing_id: str) -> str:
    """Return what a person calls a thing that at least one of several documents holds."""
    for job in jobs:
        for thing in job.get(list_name, []) if list_name in LISTS else []:
            if thing["id"] == thing_id:
                return str(thing.get("name") or list_name.rstrip("s").replace("_", " "))
    return "Job"


def what_came(session: Session, job: Job, revision: Revision) -> list[Difference]:
    """Return what a joined revision took over from others: all that they changed since its base."""
    if revision.kind != "joined" or revision.base is None or revision.met is None:
        return []
    base, met = (document_of(find_revision(session, job, number)) for number in (revision.base, revision.met))
    return between(base, met)


def restore(session: Session, member: Member, job_id: str, number: int) -> Revision:
    """Append a copy of an earlier revision as the newest.

    Raises:
        Refused, NotFound.
    """
    require(member, "change")
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
    _show_in_list(job, revision.number, document, member)
    note(session, member, job, "restored", f"revision {number} as {revision.number}")
    return revision


def _append(session: Session, member: Member, job: Job, document: Document, **facts: Any) -> Revision:
    edition = document.settings.edition
    rulebook().resolve(edition)
    revision = Revision(job_id=job.id, packed=packed(_fitting(document)), edition=edition, author=member.name, **facts)
    session.add(revision)
    session.flush()
    return revision


def _fitting(document: Document) -> str:
    """Return the text of a document, which has to be read again: with all that it leaves open it is larger than it came.

    Raises:
        BadInput: it is larger than what is read.
    """
    text = document_text(document)
    if len(text.encode()) > LARGEST_DOCUMENT_BYTES:
        most = LARGEST_DOCUMENT_BYTES // 1024 // 1024
        raise BadInput([Issue("too_large", "", f"the job is larger than {most} MB.", "Split the job in two.")])
    return text


def note(session: Session, member: Member, job: Job | None, action: str, detail: str) -> None:
    """Add to the shop's history what a member did, to a job or to the shop itself."""
    job_id = job.id if job else None
    session.add(HistoryEntry(shop_id=member.shop_id, member=member.email, job_id=job_id, action=action, detail=detail))
