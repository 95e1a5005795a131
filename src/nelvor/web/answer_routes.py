"""Routes that answer about a document or inputs without saving anything."""

from __future__ import annotations

from nelvor.exchange.interval import read_record
from nelvor.exchange.loads_csv import read_loads
from nelvor.exchange.record_summary import summary
from nelvor.figures import FigureAnswer, all_figures, work_out
from nelvor.model.changes.differences import proposal
from nelvor.model.changes.operations import apply
from nelvor.model.parse import parse_value
from nelvor.model.resolve import resolve
from nelvor.report.comparison import ComparisonOut, compare_run
from nelvor.report.edition_change import EditionChangeOut, edition_change
from nelvor.report.levels import LevelTableOut, level_table
from nelvor.report.mend_effect import MendEffectOut, mend_effect
from nelvor.report.order_of_work import OrderOfWork, order_of_work
from nelvor.report.sent import HeldList, WorkingOut
from nelvor.report.wire import ReportOut, held_out, report_out, working_out
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.reports import reports


@api.route("POST", "/check", body=wire.CheckBody, answer=ReportOut, heavy=True)
def check_document(body: wire.CheckBody) -> ReportOut:
    """Check a document in one state, without saving it; open workings and looked-at runs come along."""
    return report_out(reports.of(body.document, body.state), body.looked_at, body.workings)


@api.route("POST", "/working", body=wire.WorkingBody, answer=WorkingOut, heavy=True)
def read_working(body: wire.WorkingBody) -> WorkingOut:
    """Return the steps behind one figure of a check, from the report just made where it is kept."""
    return working_out(reports.of(body.document, body.state), body.key)


@api.route("POST", "/levels", body=wire.DocumentBody, answer=LevelTableOut, heavy=True)
def compare_levels(body: wire.DocumentBody) -> LevelTableOut:
    """Return the load of each level, existing and proposed side by side."""
    return level_table(*(reports.of(body.document, state) for state in ("existing", "proposed")))


@api.route("POST", "/runs/compare", body=wire.RunBody, answer=ComparisonOut, heavy=True)
def compare_ways(body: wire.RunBody) -> ComparisonOut:
    """Return the lawful alternatives for one run with drop, trade size, limit and price."""
    return compare_run(reports.of(body.document, body.state), body.run_id)


@api.route("POST", "/loads/read", body=wire.LoadListBody, answer=wire.LoadListOut, heavy=True)
def read_load_list(body: wire.LoadListBody) -> wire.LoadListOut:
    """Read a load list, pasted or as CSV, without saving it."""
    document = resolve(parse_value(body.document), body.state)
    return wire.LoadListOut(loads=read_loads(body.text, document, body.panel, body.state))


@api.route("POST", "/records/read", answer=wire.RecordOut, reads="text/plain", heavy=True)
def read_meter_record(content: bytes) -> wire.RecordOut:
    """Read a meter's record, CSV or XML, and tell what it shows. Nothing of it is kept."""
    found = summary(read_record(content))
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


@api.route("POST", "/editions/compare", body=wire.EditionBody, answer=EditionChangeOut, heavy=True)
def compare_editions(body: wire.EditionBody) -> EditionChangeOut:
    """Tell what another edition would change of a document, before it is accepted."""
    other = {**body.document, "settings": {**body.document.get("settings", {}), "edition": body.edition}}
    return edition_change(reports.of(body.document, "proposed"), reports.of(other, "proposed"))


@api.route("GET", "/figures", answer=wire.FigureList, guests=True)
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


@api.route("POST", "/figures/<name>", body=wire.FigureBody, answer=FigureAnswer, heavy=True)
def work_out_figure(name: str, body: wire.FigureBody) -> FigureAnswer:
    """Work out one quick figure."""
    return work_out(name, body.inputs)


@api.route("POST", "/held", body=wire.StateBody, answer=HeldList, heavy=True)
def read_held(body: wire.StateBody) -> HeldList:
    """List the checks that hold in one state of a document."""
    return held_out(reports.of(body.document, body.state))


@api.route("POST", "/mends/weigh", body=wire.MendBody, answer=MendEffectOut, heavy=True)
def weigh_mend(body: wire.MendBody) -> MendEffectOut:
    """Tell what a mend would do before it is taken: the change in words, and what else it moves."""
    mended = apply(body.document, list(body.operations))
    return mend_effect(reports.of(body.document, body.state), reports.of(mended, body.state), body.operations)


@api.route("POST", "/order-of-work", body=wire.DocumentBody, answer=OrderOfWork, heavy=True)
def read_order_of_work(body: wire.DocumentBody) -> OrderOfWork:
    """Tell the steps of the work from what stands to what is proposed, in a safe order."""
    return order_of_work(reports.of(body.document, "existing"), reports.of(body.document, "proposed"))


@api.route("POST", "/differences", body=wire.DocumentBody, answer=wire.DifferenceList, heavy=True)
def proposal_differences(body: wire.DocumentBody) -> wire.DifferenceList:
    """List what the proposal of a document changes of what stands."""
    return wire.difference_list(proposal(parse_value(body.document)))
