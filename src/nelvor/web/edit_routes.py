"""Routes that answer about a stored revision with the edits since: what a page asks while one types."""

from __future__ import annotations

from nelvor.report.check import Report
from nelvor.report.sent import WorkingOut
from nelvor.report.wire import ReportOut, report_out, working_out
from nelvor.store import jobs
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.reports import reports
from nelvor.web.session import current_member, database


def _report(job_id: str, body: wire.EditBody) -> Report:
    store = database()
    job = jobs.find_job(store, current_member(), job_id)

    base = f"{job.id} {body.base}"
    return reports.of_edit(base, lambda: jobs.known_job(store, job, body.base), body.operations, body.state)


@api.route("POST", "/jobs/<job_id>/check", body=wire.EditCheckBody, answer=ReportOut)
def check_edit(job_id: str, body: wire.EditCheckBody) -> ReportOut:
    """Check a revision with the edits since; open workings and looked-at runs come along."""
    return report_out(_report(job_id, body), body.looked_at, body.workings)


@api.route("POST", "/jobs/<job_id>/working", body=wire.EditWorkingBody, answer=WorkingOut)
def read_edit_working(job_id: str, body: wire.EditWorkingBody) -> WorkingOut:
    """Return the steps behind one figure of the report just made."""
    return working_out(_report(job_id, body), body.key)
