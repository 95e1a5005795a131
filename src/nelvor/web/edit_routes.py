"""Routes that answer about a stored revision with the edits since: what a page asks while one types."""

from __future__ import annotations

import json

from flask import Response

from nelvor.pool.question import Progress, Told
from nelvor.report.check import Report
from nelvor.report.sent import WorkingOut
from nelvor.report.summary import signed_summary
from nelvor.report.wire import ReportOut, report_out, working_out
from nelvor.store import jobs
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.asking import ask_about
from nelvor.web.endpoint import response_of
from nelvor.web.session import current_member, database
from nelvor.web.stored import StoredJob, stored_jobs


def _asked(work: str, job_id: str, body: wire.EditBody) -> Response:
    job = jobs.find_job(database(), current_member(), job_id)
    return response_of(ask_about(work, job, body.base, body))


def _report(stored: StoredJob, body: wire.EditBody) -> Report:
    return stored_jobs.report(stored, body.operations, body.state)


@api.route("POST", "/jobs/<job_id>/check", body=wire.EditCheckBody, answer=ReportOut, guests=True)
def check_edit(job_id: str, body: wire.EditCheckBody) -> Response:
    """Check a revision with the edits since; open workings and looked-at runs come along."""
    return _asked("edit_checked", job_id, body)


@api.work
def edit_checked(about: tuple[StoredJob, wire.EditCheckBody], progress: Progress) -> ReportOut:
    """Check a revision with the edits since."""
    stored, body = about
    return report_out(_report(stored, body), body.looked_at, body.workings)


@api.route("POST", "/jobs/<job_id>/working", body=wire.EditWorkingBody, answer=WorkingOut, guests=True)
def read_edit_working(job_id: str, body: wire.EditWorkingBody) -> Response:
    """Return the steps behind one figure of the report just made."""
    return _asked("edit_working", job_id, body)


@api.work
def edit_working(about: tuple[StoredJob, wire.EditWorkingBody], progress: Progress) -> WorkingOut:
    """Return the steps behind one figure."""
    stored, body = about
    return working_out(_report(stored, body), body.key)


@api.work
def signed_answers(about: tuple[StoredJob, None], progress: Progress) -> Told:
    """Work out the signed answers of a stored revision."""
    return Told(json.dumps(signed_summary(stored_jobs.report(about[0], (), "proposed"))).encode())
