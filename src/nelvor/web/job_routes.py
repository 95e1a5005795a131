"""Routes of jobs: list, begin, read, write as files, save, restore, compare revisions."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable
from datetime import UTC, datetime

from flask import Response, request

from nelvor import ENGINE_VERSION
from nelvor.errors import BadInput, Conflict, Issue
from nelvor.exchange.load_sheet import load_sheet_xlsx
from nelvor.exchange.loads_csv import write_loads
from nelvor.model.changes.differences import between
from nelvor.model.document import Document, Settings
from nelvor.model.field_log import SECTION, FieldEntry
from nelvor.model.local_rules import missing_from
from nelvor.model.parse import parse_job, read_json
from nelvor.model.resolve import resolve
from nelvor.paper.bonding import bond_cards
from nelvor.paper.panels import door_labels
from nelvor.paper.permit import permit_sheet
from nelvor.paper.signs import sign_sheet
from nelvor.rulebook.rules import rulebook
from nelvor.starters import STARTERS, started
from nelvor.store import field_log, jobs, local_rules
from nelvor.store.access import allowed
from nelvor.store.tables import Job, Revision
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.reports import reports
from nelvor.web.session import current_member, database, judging

LARGEST_NUMBER = 2**31 - 1
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


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


def _job_out(job: Job, revision: Revision) -> wire.JobOut:
    judgement = jobs.judgement_of(database(), revision)
    if judgement is None:
        judging().submit(revision.id)
    then = judgement.answers if judgement else None
    return wire.JobOut(
        id=str(job.id),
        head=job.head,
        may_write=allowed(current_member(), "change"),
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
    """Begin a job, empty or from a starter, with the local rules of the shop."""
    _, rules = local_rules.newest(database(), current_member())
    if body.starter and body.starter not in STARTERS:
        remedy = f"Choose one of {', '.join(STARTERS)}, or none."
        raise BadInput([Issue("unknown_starter", "starter", f"there is no starter {body.starter}.", remedy)])
    begun = (
        started(body.starter, body.name, body.edition)
        if body.starter
        else Document(name=body.name, settings=Settings(edition=body.edition))
    )
    document = begun.model_copy(update={"amendments": missing_from(begun, rules)})
    return _created(document, "New job")


@api.route("POST", "/jobs/<job_id>/copy", answer=wire.JobOut, status=201)
def copy_job(job_id: str) -> wire.JobOut:
    """Begin a job with the newest document of another."""
    member, store = current_member(), database()
    job = jobs.copy_job(store, member, job_id)
    store.commit()
    return _job_out(job, jobs.find_revision(store, job, job.head))


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
    member, store = current_member(), database()
    job = jobs.create_job(store, member, document, summary)
    field_log.append(store, member, job, log)
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
    document = jobs.known_job(database(), job, job.head).value
    log = [entry.model_dump(mode="json") for entry in field_log.entries(database(), job)]
    text = json.dumps({**document, **({SECTION: log} if log else {})}, ensure_ascii=False, indent=1)
    return _file(text.encode(), "application/json", f"{_file_name(job)}.json")


@api.route("GET", "/jobs/<job_id>/permit.pdf")
def permit_pdf(job_id: str) -> Response:
    """Return the permit sheet of the newest document."""
    job, document = _newest(job_id)
    return _file(
        permit_sheet(
            reports.of_document(document), reports.of_document(document, "existing"), job.head, datetime.now(UTC).date()
        ),
        "application/pdf",
        f"{_file_name(job)}-permit-sheet.pdf",
    )


@api.route("GET", "/jobs/<job_id>/labels.pdf")
def labels_pdf(job_id: str) -> Response:
    """Return the directories of the proposed panels of the newest document, to be cut out for their doors."""
    job, document = _newest(job_id)
    return _file(door_labels(reports.of_document(document)), "application/pdf", f"{_file_name(job)}-labels.pdf")


@api.route("GET", "/jobs/<job_id>/bonds.pdf")
def bonds_pdf(job_id: str) -> Response:
    """Return a card for every box of the newest document: where neutral and ground meet in it, and what is to be done."""
    job, document = _newest(job_id)
    cards = bond_cards(reports.of_document(document), reports.of_document(document, "existing"), job.head)
    return _file(cards, "application/pdf", f"{_file_name(job)}-bond-cards.pdf")


@api.route("GET", "/jobs/<job_id>/signs.pdf")
def signs_pdf(job_id: str) -> Response:
    """Return the signs that the sources of the newest document ask for."""
    job, document = _newest(job_id)
    return _file(sign_sheet(reports.of_document(document)), "application/pdf", f"{_file_name(job)}-signs.pdf")


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
    return _file(load_sheet_xlsx(reports.of_document(document)), XLSX, f"{_file_name(job)}-load-sheet.xlsx")


def _newest(job_id: str) -> tuple[Job, Document]:
    job = jobs.find_job(database(), current_member(), job_id)
    return job, jobs.document_of(jobs.find_revision(database(), job, job.head))


def _file_name(job: Job) -> str:
    return re.sub(r"[^a-z0-9]+", "-", job.name.lower()).strip("-")[:60] or "job"


def _file(content: bytes, kind: str, name: str) -> Response:
    return Response(content, mimetype=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


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


@api.route("GET", "/jobs/<job_id>/field-log", answer=wire.FieldLogOut)
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


@api.route("GET", "/jobs/<job_id>/revisions/<int:number>/differences/<int:other>", answer=wire.DifferenceList)
def revision_differences(job_id: str, number: int, other: int) -> wire.DifferenceList:
    """List what differs from one revision to another."""
    job = jobs.find_job(database(), current_member(), job_id)
    before, after = (jobs.document_of(jobs.find_revision(database(), job, each)) for each in (number, other))
    return wire.difference_list(between(before, after))
