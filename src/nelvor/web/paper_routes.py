"""Routes that give a job as files: the job itself, its papers, its loads; and what two revisions differ in.

All but the job itself is made in the pool. A paper asked for with ``?soon=1`` is answered within two seconds: with the
file, or with 202 and how far it has come, to be asked for again.
"""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, date, datetime

from flask import Response, request

from nelvor.exchange.load_sheet import load_sheet_xlsx
from nelvor.exchange.loads_csv import write_loads
from nelvor.model.changes.differences import between
from nelvor.model.field_log import SECTION
from nelvor.model.resolve import State, resolve
from nelvor.paper.bonding import bond_cards
from nelvor.paper.panels import door_labels
from nelvor.paper.permit import permit_sheet
from nelvor.paper.signs import sign_sheet
from nelvor.paper.utility_application import application_sheet
from nelvor.pool.question import Progress, Question, Told
from nelvor.report.check import Report
from nelvor.store import field_log, jobs
from nelvor.store.tables import Job
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.asking import ask_about, fetch, stored_job, whole
from nelvor.web.endpoint import response_of
from nelvor.web.session import current_member, database
from nelvor.web.stored import StoredJob, stored_jobs

PDF = "application/pdf"
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
CSV = "text/csv; charset=utf-8"
PAPER_LIMIT_S = 180.0
PAPER_TAKES_S = 1.0


@dataclass(frozen=True)
class Sheet:
    """What a paper is made of: a job in both states, the number of its revision, the day, and how far it has come."""

    stored: StoredJob
    on: date
    progress: Progress

    def report(self, state: State = "proposed") -> Report:
        """Return the report on the job in one state."""
        return stored_jobs.report(self.stored, (), state)

    @property
    def loads(self) -> bytes:
        """The proposed loads as CSV."""
        return write_loads(resolve(stored_jobs.edited(self.stored).document, "proposed")).encode()


@dataclass(frozen=True)
class Paper:
    """A kind of paper: how it is made, its media type, and how its file is named behind the job's name."""

    make: Callable[[Sheet], bytes]
    kind: str
    ending: str


PAPERS = {
    "permit.pdf": Paper(
        lambda sheet: permit_sheet(
            sheet.report(), sheet.report("existing"), sheet.stored.number, sheet.on, sheet.progress
        ),
        PDF,
        "-permit-sheet.pdf",
    ),
    "labels.pdf": Paper(lambda sheet: door_labels(sheet.report()), PDF, "-labels.pdf"),
    "bonds.pdf": Paper(
        lambda sheet: bond_cards(sheet.report(), sheet.report("existing"), sheet.stored.number),
        PDF,
        "-bond-cards.pdf",
    ),
    "signs.pdf": Paper(lambda sheet: sign_sheet(sheet.report()), PDF, "-signs.pdf"),
    "application.pdf": Paper(
        lambda sheet: application_sheet(sheet.report(), sheet.stored.number, sheet.on), PDF, "-application.pdf"
    ),
    "loads.csv": Paper(lambda sheet: sheet.loads, CSV, "-loads.csv"),
    "loads.xlsx": Paper(lambda sheet: load_sheet_xlsx(sheet.report()), XLSX, "-load-sheet.xlsx"),
}


@api.work
def paper(about: tuple[StoredJob, tuple[str, str, date]], progress: Progress) -> Told:
    """Make one paper of a stored job."""
    stored, (name, file_name, on) = about
    found = PAPERS[name]
    return told_as_file(found.make(Sheet(stored, on, progress)), found.kind, f"{file_name}{found.ending}")


def _paper(job_id: str, name: str) -> Response:
    job = jobs.find_job(database(), current_member(), job_id)
    asked = (name, file_name(job), datetime.now(UTC).date())
    stored = whole(stored_job(job, job.head), job)
    question = Question("paper", stored.job_id, (stored, asked), PAPER_LIMIT_S, PAPER_TAKES_S)
    if request.args.get("soon") != "1":
        return response_of(api.ask(question))
    found = fetch(f"{job.id} {job.head} {asked}", question)
    if isinstance(found, Told):
        return response_of(found)
    told = wire.HowFarOut.model_validate(vars(found))
    return Response(told.model_dump_json(), status=202, mimetype="application/json")


@api.route("GET", "/jobs/<job_id>/permit.pdf", later=wire.HowFarOut, guests=True)
def permit_pdf(job_id: str) -> Response:
    """Return the permit sheet of the newest document."""
    return _paper(job_id, "permit.pdf")


@api.route("GET", "/jobs/<job_id>/labels.pdf", later=wire.HowFarOut, guests=True)
def labels_pdf(job_id: str) -> Response:
    """Return the directories of the proposed panels of the newest document, to be cut out for their doors."""
    return _paper(job_id, "labels.pdf")


@api.route("GET", "/jobs/<job_id>/bonds.pdf", later=wire.HowFarOut, guests=True)
def bonds_pdf(job_id: str) -> Response:
    """Return a card for every box of the newest document: where neutral and ground meet in it, and what is to be done."""
    return _paper(job_id, "bonds.pdf")


@api.route("GET", "/jobs/<job_id>/signs.pdf", later=wire.HowFarOut, guests=True)
def signs_pdf(job_id: str) -> Response:
    """Return the signs that the sources of the newest document ask for."""
    return _paper(job_id, "signs.pdf")


@api.route("GET", "/jobs/<job_id>/application.pdf", later=wire.HowFarOut, guests=True)
def application_pdf(job_id: str) -> Response:
    """Return the sheet for a utility's application, filled in from the newest document."""
    return _paper(job_id, "application.pdf")


@api.route("GET", "/jobs/<job_id>/loads.csv", later=wire.HowFarOut, guests=True)
def loads_csv(job_id: str) -> Response:
    """Return the proposed loads of the newest document as CSV."""
    return _paper(job_id, "loads.csv")


@api.route("GET", "/jobs/<job_id>/loads.xlsx", later=wire.HowFarOut, guests=True)
def loads_xlsx(job_id: str) -> Response:
    """Return the load sheet of the newest document, with live formulas."""
    return _paper(job_id, "loads.xlsx")


@api.route("GET", "/jobs/<job_id>/export", guests=True)
def export_job(job_id: str) -> Response:
    """Return the newest document as a file."""
    job = jobs.find_job(database(), current_member(), job_id)
    return response_of(told_as_file(export_text(job).encode(), "application/json", f"{file_name(job)}.json"))


def export_text(job: Job) -> str:
    """Return the newest document of a job with its log on site."""
    document = jobs.known_job(database(), job, job.head).value
    log = [entry.model_dump(mode="json") for entry in field_log.entries(database(), job)]
    return json.dumps({**document, **({SECTION: log} if log else {})}, ensure_ascii=False, indent=1)


def file_name(job: Job) -> str:
    """Return what a file of a job is called, without its ending."""
    return re.sub(r"[^a-z0-9]+", "-", job.name.lower()).strip("-")[:60] or "job"


def told_as_file(content: bytes, kind: str, name: str) -> Told:
    """Return a file to be kept under a name."""
    return Told(content, kind, headers=(("Content-Disposition", f'attachment; filename="{name}"'),))


@api.route("GET", "/jobs/<job_id>/revisions/<int:number>/differences/<int:other>", answer=wire.DifferenceList)
def revision_differences(job_id: str, number: int, other: int) -> Response:
    """List what differs from one revision to another."""
    job = jobs.find_job(database(), current_member(), job_id)
    stored = whole(stored_job(job, other), job)
    return response_of(ask_about("differences", job, number, stored))


@api.work
def differences(about: tuple[StoredJob, StoredJob], progress: Progress) -> wire.DifferenceList:
    """List what differs from one stored revision to another."""
    before, after = (stored_jobs.edited(each).document for each in about)
    return wire.difference_list(between(before, after))
