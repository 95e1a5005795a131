"""The routes of the API. Each takes a shop's member, calls the core or the store, and answers with a model."""

from __future__ import annotations

import re

from flask import Response, current_app, jsonify, request, session
from flask_wtf.csrf import generate_csrf

from nelvor import ENGINE_VERSION
from nelvor.errors import Conflict, NotFound, NotSignedIn
from nelvor.exchange.interval import read_record
from nelvor.exchange.load_sheet import load_sheet_xlsx
from nelvor.exchange.loads_csv import read_loads, write_loads
from nelvor.exchange.record_summary import summary
from nelvor.figures import FigureAnswer, all_figures, work_out
from nelvor.model.differences import Difference, between, proposal
from nelvor.model.document import Document, Settings
from nelvor.model.parse import parse_bytes, parse_value
from nelvor.model.resolve import resolve
from nelvor.model.schema import job_schema
from nelvor.paper.permit import permit_sheet
from nelvor.report.check import check
from nelvor.report.comparison import ComparisonOut, compare_run
from nelvor.report.edition_change import EditionChangeOut, edition_change
from nelvor.report.levels import LevelTableOut, level_table
from nelvor.report.wire import ReportOut, WorkingOut, report_out, working_out
from nelvor.rulebook.rules import rulebook
from nelvor.store import jobs, members
from nelvor.store.tables import Job, Revision
from nelvor.web import wire
from nelvor.web.endpoint import Api
from nelvor.web.session import current_member, database, demo_allowed, member_out, remember

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"

api = Api(guard=current_member)


# -- session -----------------------------------------------------------------------------------


@api.route("GET", "/session", answer=wire.SessionOut, public=True)
def read_session() -> wire.SessionOut:
    """Tell who is signed in, and hand out the token that every change must carry."""
    return _session_out()


def _session_out() -> wire.SessionOut:
    try:
        member = member_out(current_member())
    except NotSignedIn:
        member = None
    return wire.SessionOut(member=member, demo=demo_allowed(), csrf=generate_csrf())


@api.route("POST", "/session", body=wire.SignInBody, answer=wire.SessionOut, public=True)
def sign_in(body: wire.SignInBody) -> wire.SessionOut:
    """Sign in with email and password."""
    store = database()
    try:
        member = members.sign_in(store, body.email, body.password, request.remote_addr or "")
    finally:
        store.commit()
    remember(member)
    return _session_out()


@api.route("POST", "/session/demo", answer=wire.SessionOut, public=True)
def sign_in_demo() -> wire.SessionOut:
    """Sign in to the demo shop, on loopback in demo mode alone."""
    member = members.demo_member(database()) if demo_allowed() else None
    if member is None:
        raise NotFound("The demo is not open here.")
    remember(member)
    return _session_out()


@api.route("DELETE", "/session", answer=wire.SessionOut, public=True)
def sign_out() -> wire.SessionOut:
    """Sign out."""
    session.clear()
    return _session_out()


# -- jobs --------------------------------------------------------------------------------------


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
    """Begin an empty job."""
    document = Document(name=body.name, settings=Settings(edition=body.edition))
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


# -- revisions ---------------------------------------------------------------------------------


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
    return _differences(between(before, after))


def _differences(found: list[Difference]) -> wire.DifferenceList:
    return wire.DifferenceList(differences=[wire.DifferenceOut(**vars(item)) for item in found])


# -- stateless ---------------------------------------------------------------------------------


@api.route("POST", "/check", body=wire.CheckBody, answer=ReportOut)
def check_document(body: wire.CheckBody) -> ReportOut:
    """Check a document in one state, without saving it."""
    return report_out(check(parse_value(body.document), body.state))


@api.route("POST", "/working", body=wire.WorkingBody, answer=WorkingOut)
def read_working(body: wire.WorkingBody) -> WorkingOut:
    """Return the steps behind one figure of a check."""
    try:
        return working_out(check(parse_value(body.document), body.state), body.book, body.step)
    except (KeyError, IndexError):
        raise NotFound("This figure is not part of the answers any more.") from None


@api.route("POST", "/levels", body=wire.DocumentBody, answer=LevelTableOut)
def compare_levels(body: wire.DocumentBody) -> LevelTableOut:
    """Return the load of each level, existing and proposed side by side."""
    document = parse_value(body.document)
    return level_table(*(check(document, state, alternatives=False) for state in ("existing", "proposed")))


@api.route("POST", "/runs/compare", body=wire.RunBody, answer=ComparisonOut)
def compare_ways(body: wire.RunBody) -> ComparisonOut:
    """Return the lawful alternatives for one run with drop, trade size, limit and price."""
    return compare_run(check(parse_value(body.document), body.state, alternatives=False), body.run_id)


@api.route("POST", "/loads/read", body=wire.LoadListBody, answer=wire.LoadListOut)
def read_load_list(body: wire.LoadListBody) -> wire.LoadListOut:
    """Read a load list, pasted or as CSV, without saving it."""
    document = resolve(parse_value(body.document), body.state)
    return wire.LoadListOut(loads=read_loads(body.text, document, body.panel, body.state))


@api.route("POST", "/records/read", answer=wire.RecordOut)
def read_meter_record() -> wire.RecordOut:
    """Read a meter's record, CSV or XML, and tell what it shows. Nothing of it is kept."""
    found = summary(read_record(request.get_data()))
    return wire.RecordOut.model_validate(
        {
            **vars(found),
            "peak_at": found.peak_at.isoformat(sep=" ", timespec="minutes"),
            "began_on": found.began_on.isoformat(),
            "ended_on": found.ended_on.isoformat(),
            "daily": [{"day": item.day.isoformat(), "kw": item.kw} for item in found.daily],
            "warnings": list(found.warnings),
        }
    )


@api.route("POST", "/editions/compare", body=wire.EditionBody, answer=EditionChangeOut)
def compare_editions(body: wire.EditionBody) -> EditionChangeOut:
    """Tell what another edition would change of a document, before it is accepted."""
    document = parse_value(body.document)
    settings = document.settings.model_copy(update={"edition": body.edition})
    other = document.model_copy(update={"settings": settings})
    return edition_change(check(document, alternatives=False), check(other, alternatives=False))


@api.route("GET", "/figures", answer=wire.FigureList)
def list_figures() -> wire.FigureList:
    """List the quick figures with the schemas of their inputs."""
    return wire.FigureList(
        figures=[
            wire.FigureLine(
                name=item.name,
                title=item.title,
                question=item.question,
                group=item.group,
                input_schema=item.schema(),
                example=item.example,
            )
            for item in all_figures().values()
        ]
    )


@api.route("POST", "/figures/<name>", body=wire.FigureBody, answer=FigureAnswer)
def work_out_figure(name: str, body: wire.FigureBody) -> FigureAnswer:
    """Work out one quick figure."""
    return work_out(name, body.inputs)


@api.route("POST", "/differences", body=wire.DocumentBody, answer=wire.DifferenceList)
def proposal_differences(body: wire.DocumentBody) -> wire.DifferenceList:
    """List what the proposal of a document changes of what stands."""
    return _differences(proposal(parse_value(body.document)))


@api.route("GET", "/editions", answer=wire.EditionsOut, public=True)
def read_editions() -> wire.EditionsOut:
    """List the editions whose rules are held, and the amendments that are understood."""
    book = rulebook()
    return wire.EditionsOut(
        editions=list(book.editions), rulebook=book.version, amendment_keys=list(book.amendment_kinds)
    )


@api.route("GET", "/schema/job.json", public=True)
def read_job_schema() -> Response:
    """Return the JSON Schema of the job document."""
    return jsonify(job_schema())


@api.route("GET", "/openapi.json", public=True)
def read_openapi() -> Response:
    """Return the description of this API."""
    from nelvor.web.description import describe  # the description reads this module's endpoints

    return jsonify(describe(api))


@api.route("GET", "/health", public=True)
def health() -> Response:
    """Tell that the server and its database answer."""
    with current_app.extensions["nelvor_sessions"]() as store:
        store.connection()
    return jsonify({"ok": True})
