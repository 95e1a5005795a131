"""Routes of jobs: list, begin, read, save, restore; their revisions and the log on site."""

from __future__ import annotations

from collections.abc import Iterable

from flask import request

from nelvor import ENGINE_VERSION
from nelvor.errors import BadInput, Conflict, Issue
from nelvor.model.document import Document, Settings
from nelvor.model.field_log import FieldEntry
from nelvor.model.local_rules import copies_for
from nelvor.model.parse import parse_job, read_json
from nelvor.model.shop_defaults import with_defaults
from nelvor.rulebook.rules import rulebook
from nelvor.starters import STARTERS, started
from nelvor.store import field_log, jobs, local_rules, shop_defaults
from nelvor.store.access import GUEST, allowed
from nelvor.store.tables import Job, Revision
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.session import current_member, database, judging

LARGEST_NUMBER = 2**31 - 1


def _line(job: Job, counts: dict[str, int] | None) -> wire.JobLine:
    return wire.JobLine(
        id=str(job.id),
        name=job.name,
        head=job.head,
        updated_at=job.updated_at.isoformat(),
        address=job.address,
        customer=job.customer,
        edition=job.edition,
        status=job.status,
        author=job.author,
        archived=job.archived,
        counts=wire.JobCounts(**counts) if counts else None,
    )


def job_out(job: Job, revision: Revision) -> wire.JobOut:
    """Return a job with one of its revisions for sending."""
    judgement = jobs.judgement_of(database(), revision)
    if judgement is None:
        judging().submit(revision.id)
    then, member = judgement.answers if judgement else None, current_member()
    return wire.JobOut(
        id=str(job.id),
        head=job.head,
        may_write=allowed(member, "change"),
        may_share=allowed(member, "share"),
        may_remark=allowed(member, "remark"),
        may_write_on_site=allowed(member, "write_on_site"),
        may_see_revisions=member.role != GUEST,
        document=jobs.document_of(revision),
        judged=judgement is not None,
        then=then if then and not _same_rules(then["signature"]) else None,
    )


def _same_rules(signature: dict[str, str]) -> bool:
    return signature["rulebook"] == rulebook().version and signature["engine"] == ENGINE_VERSION


@api.route("GET", "/jobs", answer=wire.JobList)
def list_jobs() -> wire.JobList:
    """List the jobs of the shop."""
    return _jobs_of_shop()


def _jobs_of_shop() -> wire.JobList:
    return wire.JobList(jobs=[_line(job, counts) for job, counts in jobs.list_jobs(database(), current_member())])


@api.route("POST", "/jobs", body=wire.NewJobBody, answer=wire.JobOut, status=201)
def create_job(body: wire.NewJobBody) -> wire.JobOut:
    """Begin a job, empty or from a starter, with the defaults and the local rules of the shop."""
    _, rules = local_rules.newest(database(), current_member())
    if body.starter and body.starter not in STARTERS:
        remedy = f"Choose one of {', '.join(STARTERS)}, or none."
        raise BadInput([Issue("unknown_starter", "starter", f"there is no starter {body.starter}.", remedy)])
    begun = (
        started(body.starter, body.name, body.edition)
        if body.starter
        else Document(name=body.name, settings=Settings(edition=body.edition))
    )
    _, defaults = shop_defaults.newest(database(), current_member())
    begun = with_defaults(begun, defaults)
    document = begun.model_copy(update={"amendments": [*begun.amendments, *copies_for(begun, rules)]})
    return _created(document, "New job")


@api.route("POST", "/jobs/<job_id>/copy", answer=wire.JobOut, status=201)
def copy_job(job_id: str) -> wire.JobOut:
    """Begin a job with the newest document of another."""
    member, store = current_member(), database()
    job = jobs.copy_job(store, member, job_id)
    store.commit()
    return job_out(job, jobs.find_revision(store, job, job.head))


@api.route("POST", "/jobs/<job_id>/archive", body=wire.ArchiveBody, answer=wire.JobList)
def archive_job(job_id: str, body: wire.ArchiveBody) -> wire.JobList:
    """Put a job away, or fetch it back, and list the jobs anew."""
    jobs.put_away(database(), current_member(), job_id, body.archived)
    database().commit()
    return _jobs_of_shop()


@api.route("POST", "/jobs/import", answer=wire.JobOut, status=201, reads="application/json")
def import_job() -> wire.JobOut:
    """Begin a job from a job document."""
    file = parse_job(read_json(request.get_data()))
    return _created(file.document, "Imported", file.field_log)


def _created(document: Document, summary: str, log: Iterable[FieldEntry] = ()) -> wire.JobOut:
    job, store = begun(document, summary, log), database()
    store.commit()
    return job_out(job, jobs.find_revision(store, job, job.head))


def begun(document: Document, summary: str, log: Iterable[FieldEntry] = ()) -> Job:
    """Add a job with its log on site; the caller commits it."""
    member, store = current_member(), database()
    job = jobs.create_job(store, member, document, summary)
    field_log.append(store, member, job, log)
    return job


@api.route("GET", "/jobs/<job_id>", answer=wire.JobOut, guests=True)
def read_job(job_id: str) -> wire.JobOut:
    """Return a job with its newest document."""
    job = jobs.find_job(database(), current_member(), job_id)
    return job_out(job, jobs.find_revision(database(), job, job.head))


@api.route("POST", "/jobs/<job_id>/revisions", body=wire.SaveBody, answer=wire.SavedOut, status=201)
def save_revision(job_id: str, body: wire.SaveBody) -> wire.SavedOut:
    """Save what changed since ``base`` as a new revision, joined with what others saved meanwhile."""
    member, store = current_member(), database()
    wanted = jobs.Save(body.base, body.save_id, body.summary, body.operations)
    try:
        revision = jobs.save(store, member, job_id, wanted)
    except Conflict:
        store.commit()
        raise
    store.commit()
    judging().submit(revision.id)
    if revision.kind != "joined":
        return wire.SavedOut(number=revision.number)
    job = jobs.find_job(store, member, job_id)
    came = wire.difference_list(jobs.what_came(store, job, revision)).differences
    return wire.SavedOut(number=revision.number, document=jobs.document_of(revision), came=came)


@api.route("GET", "/jobs/<job_id>/revisions", answer=wire.RevisionList)
def list_revisions(job_id: str) -> wire.RevisionList:
    """List the newest revisions of a job, the newest first."""
    return _revisions(job_id, None)


@api.route("GET", "/jobs/<job_id>/revisions/before/<int:number>", answer=wire.RevisionList)
def list_older_revisions(job_id: str, number: int) -> wire.RevisionList:
    """List the revisions of a job before one, the newest first."""
    return _revisions(job_id, min(number, LARGEST_NUMBER))


def _revisions(job_id: str, before: int | None) -> wire.RevisionList:
    job = jobs.find_job(database(), current_member(), job_id)
    found = jobs.list_revisions(database(), job, before)
    lines = [
        wire.RevisionLine(
            number=item.number,
            base=item.base,
            kind=item.kind,
            summary=item.summary,
            author=item.author,
            created_at=item.created_at.isoformat(),
            edition=item.edition,
        )
        for item in found
    ]
    return wire.RevisionList(head=job.head, revisions=lines, older=bool(found) and found[-1].number > 1)


@api.route("GET", "/jobs/<job_id>/revisions/<int:number>", answer=wire.RevisionOut)
def read_revision(job_id: str, number: int) -> wire.RevisionOut:
    """Return one revision with the answers stored with it."""
    job = jobs.find_job(database(), current_member(), job_id)
    revision = jobs.find_revision(database(), job, number)
    judgement = jobs.judgement_of(database(), revision)
    answers = judgement.answers if judgement else None
    return wire.RevisionOut(number=number, document=jobs.document_of(revision), answers=answers)


@api.route("POST", "/jobs/<job_id>/revisions/<int:number>/restore", answer=wire.SavedOut, status=201)
def restore_revision(job_id: str, number: int) -> wire.SavedOut:
    """Make an earlier revision the newest again, by appending a copy."""
    revision = jobs.restore(database(), current_member(), job_id, number)
    database().commit()
    judging().submit(revision.id)
    return wire.SavedOut(number=revision.number)


@api.route("GET", "/jobs/<job_id>/field-log", answer=wire.FieldLogOut, guests=True)
def read_field_log(job_id: str) -> wire.FieldLogOut:
    """Return what was done and measured on site, the oldest first."""
    job = jobs.find_job(database(), current_member(), job_id)
    return wire.FieldLogOut(entries=field_log.entries(database(), job))


@api.route("POST", "/jobs/<job_id>/field-log", body=wire.FieldLogBody, answer=wire.FieldLogOut, status=201)
def append_to_field_log(job_id: str, body: wire.FieldLogBody) -> wire.FieldLogOut:
    """Add to the log of what was done and measured on site; nothing in it is ever changed."""
    job = jobs.find_job(database(), current_member(), job_id)
    field_log.append(database(), current_member(), job, body.entries)
    database().commit()
    return wire.FieldLogOut(entries=field_log.entries(database(), job))
