"""Routes of jobs: list, begin, read, write as files, save, restore, compare revisions."""

from __future__ import annotations

import re

from flask import Response, request

from nelvor import ENGINE_VERSION
from nelvor.errors import Conflict
from nelvor.exchange.load_sheet import load_sheet_xlsx
from nelvor.exchange.loads_csv import write_loads
from nelvor.model.changes.differences import between
from nelvor.model.document import Document, Settings
from nelvor.model.local_rules import missing_from
from nelvor.model.parse import parse_bytes, parse_value
from nelvor.model.resolve import resolve
from nelvor.paper.permit import permit_sheet
from nelvor.report.check import check
from nelvor.rulebook.rules import rulebook
from nelvor.store import jobs, local_rules
from nelvor.store.tables import Job, Revision
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.session import current_member, database

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def _line(job: Job) -> wire.JobLine:
    return wire.JobLine(id=str(job.id), name=job.name, head=job.head, updated_at=job.updated_at.isoformat())


def _job_out(job: Job, revision: Revision) -> wire.JobOut:
    signature = revision.answers["signature"]
    same = signature["rulebook"] == rulebook().version and signature["engine"] == ENGINE_VERSION
    return wire.JobOut(
        id=str(job.id),
        head=job.head,
        may_write=jobs.may_write(current_member()),
        document=jobs.document_of(revision),
        then=None if same else revision.answers,
    )


@api.route("GET", "/jobs", answer=wire.JobList)
def list_jobs() -> wire.JobList:
    """List the jobs of the shop."""
    return wire.JobList(jobs=[_line(job) for job in jobs.list_jobs(database(), current_member())])


@api.route("POST", "/jobs", body=wire.NewJobBody, answer=wire.JobOut, status=201)
def create_job(body: wire.NewJobBody) -> wire.JobOut:
    """Begin an empty job, with the local rules of the shop."""
    _, rules = local_rules.newest(database(), current_member())
    empty = Document(name=body.name, settings=Settings(edition=body.edition))
    document = empty.model_copy(update={"amendments": missing_from(empty, rules)})
    return _created(document, "New job")


@api.route("POST", "/jobs/import", answer=wire.JobOut, status=201)
def import_job() -> wire.JobOut:
    """Begin a job from a job document."""
    return _created(parse_bytes(request.get_data()), "Imported")


def _created(document: Document, summary: str) -> wire.JobOut:
    member, store = current_member(), database()
    job = jobs.create_job(store, member, document, summary)
    store.commit()
    return _job_out(job, jobs.find_revision(store, job, job.head))


@api.route("GET", "/jobs/<job_id>", answer=wire.JobOut)
def read_job(job_id: str) -> wire.JobOut:
    """Return a job with its newest document."""
    job = jobs.find_job(database(), current_member(), job_id)
    return _job_out(job, jobs.find_revision(database(), job, job.head))


@api.route("GET", "/jobs/<job_id>/export")
def export_job(job_id: str) -> Response:
    """Return the newest document as a file."""
    job = jobs.find_job(database(), current_member(), job_id)
    text = jobs.find_revision(database(), job, job.head).document
    return _file(text.encode(), "application/json", f"{_file_name(job)}.json")


@api.route("GET", "/jobs/<job_id>/permit.pdf")
def permit_pdf(job_id: str) -> Response:
    """Return the permit sheet of the newest document."""
    job, document = _newest(job_id)
    return _file(
        permit_sheet(check(document), revision=job.head), "application/pdf", f"{_file_name(job)}-permit-sheet.pdf"
    )


@api.route("GET", "/jobs/<job_id>/loads.csv")
def loads_csv(job_id: str) -> Response:
    """Return the proposed loads of the newest document as CSV."""
    job, document = _newest(job_id)
    text = write_loads(resolve(document, "proposed"))
    return _file(text.encode(), "text/csv; charset=utf-8", f"{_file_name(job)}-loads.csv")


@api.route("GET", "/jobs/<job_id>/loads.xlsx")
def loads_xlsx(job_id: str) -> Response:
    """Return the load sheet of the newest document, with live formulas."""
    job, document = _newest(job_id)
    return _file(load_sheet_xlsx(check(document, alternatives=False)), XLSX, f"{_file_name(job)}-load-sheet.xlsx")


def _newest(job_id: str) -> tuple[Job, Document]:
    job = jobs.find_job(database(), current_member(), job_id)
    return job, jobs.document_of(jobs.find_revision(database(), job, job.head))


def _file_name(job: Job) -> str:
    return re.sub(r"[^a-z0-9]+", "-", job.name.lower()).strip("-")[:60] or "job"


def _file(content: bytes, kind: str, name: str) -> Response:
    return Response(content, mimetype=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


@api.route("POST", "/jobs/<job_id>/revisions", body=wire.SaveBody, answer=wire.SavedOut, status=201)
def save_revision(job_id: str, body: wire.SaveBody) -> wire.SavedOut:
    """Save the whole document as a new revision made from ``base``."""
    member, store = current_member(), database()
    document = parse_value(body.document)
    try:
        revision = jobs.save(store, member, job_id, document, body.base, body.save_id, body.summary)
    except Conflict:
        store.commit()
        raise
    store.commit()
    return wire.SavedOut(number=revision.number)


@api.route("GET", "/jobs/<job_id>/revisions", answer=wire.RevisionList)
def list_revisions(job_id: str) -> wire.RevisionList:
    """List the revisions of a job, the newest first."""
    job = jobs.find_job(database(), current_member(), job_id)
    lines = [
        wire.RevisionLine(
            number=item.number,
            base=item.base,
            kind=item.kind,
            summary=item.summary,
            author=item.author,
            created_at=item.created_at.isoformat(),
            edition=item.answers["signature"]["edition"],
        )
        for item in jobs.list_revisions(database(), job)
    ]
    return wire.RevisionList(head=job.head, revisions=lines)


@api.route("GET", "/jobs/<job_id>/revisions/<int:number>", answer=wire.RevisionOut)
def read_revision(job_id: str, number: int) -> wire.RevisionOut:
    """Return one revision with the answers stored with it."""
    job = jobs.find_job(database(), current_member(), job_id)
    revision = jobs.find_revision(database(), job, number)
    return wire.RevisionOut(number=number, document=jobs.document_of(revision), answers=revision.answers)


@api.route("POST", "/jobs/<job_id>/revisions/<int:number>/restore", answer=wire.SavedOut, status=201)
def restore_revision(job_id: str, number: int) -> wire.SavedOut:
    """Make an earlier revision the newest again, by appending a copy."""
    revision = jobs.restore(database(), current_member(), job_id, number)
    database().commit()
    return wire.SavedOut(number=revision.number)


@api.route("GET", "/jobs/<job_id>/revisions/<int:number>/differences/<int:other>", answer=wire.DifferenceList)
def revision_differences(job_id: str, number: int, other: int) -> wire.DifferenceList:
    """List what differs from one revision to another."""
    job = jobs.find_job(database(), current_member(), job_id)
    before, after = (jobs.document_of(jobs.find_revision(database(), job, each)) for each in (number, other))
    return wire.difference_list(between(before, after))
