"""The permit sheet: one-line, loads, feeder schedule, bonding and grounding, findings, cautions, panel schedules."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from io import BytesIO
from xml.sax.saxutils import escape

from reportlab.platypus import Flowable, KeepTogether, SimpleDocTemplate, Spacer, Table

from nelvor.clauses.wiring_methods import METHOD_WORDS
from nelvor.judges.run import RunAnswer
from nelvor.paper.along_runs import along_runs
from nelvor.paper.bonding import bonding_table
from nelvor.paper.devices import devices_schedule
from nelvor.paper.loads import loads_schedule
from nelvor.paper.one_line import one_line, shown_length
from nelvor.paper.panels import panel_schedules
from nelvor.paper.schedule import NOT_KNOWN, heading, schedule
from nelvor.paper.signs import signs_schedule
from nelvor.paper.style import Paragraph, paragraph, register_fonts
from nelvor.paper.title_block import BOTTOM, MARGIN, PAGE, TOP, sheets
from nelvor.report.check import Report
from nelvor.report.order_of_work import OrderOfWork, order_of_work
from nelvor.report.subjects import SUBJECTS
from nelvor.report.words import (
    CAUTIONS,
    MATERIAL_WORDS,
    OUTCOME_WORDS,
    figures_words,
    thing_words,
)
from nelvor.topology.names import name_of, run_name

FRAME_PADDING = 6
"""What the page leaves free around all that flows, in points."""


def permit_sheet(
    proposed: Report,
    existing: Report,
    revision: int | None = None,
    on: date | None = None,
    progress: Callable[[int, int], None] | None = None,
) -> bytes:
    """Return the packet for the office as a PDF: what is proposed beside what stands, in the given revision, as of a day.

    ``progress`` is told how many of its parts are laid out, and how many there are.
    """
    register_fonts()
    buffer = BytesIO()
    template = SimpleDocTemplate(
        buffer,
        pagesize=PAGE,
        leftMargin=MARGIN,
        rightMargin=MARGIN,
        topMargin=TOP,
        bottomMargin=BOTTOM,
        title=f"Permit sheet: {proposed.site.document.name or 'Job'}",
        author="Nelvor",
    )
    width = PAGE[0] - 2 * MARGIN
    story = _story(proposed, existing, width)
    if progress is not None:
        parts = len(story)
        template.setProgressCallBack(lambda kind, done: kind == "PROGRESS" and progress(min(done, parts), parts))
    template.build(story, canvasmaker=sheets(proposed, revision, on))
    return buffer.getvalue()


def _story(report: Report, existing: Report, width: float) -> list[Flowable]:
    order = order_of_work(existing, report)
    return [
        heading("One-line, proposed"),
        one_line(report, width - 2 * FRAME_PADDING),
        Spacer(1, 6),
        KeepTogether([heading("Cautions"), *[Paragraph(escape(text), paragraph(after=2)) for text in CAUTIONS]]),
        heading("Loads"),
        loads_schedule(report, existing, width),
        heading("Feeder schedule"),
        _feeders(report, width),
        *along_runs(report, width),
        heading("Devices"),
        devices_schedule(report, width),
        heading("Bonding and grounding"),
        bonding_table(report, existing, order, width),
        *signs_schedule(report, width),
        *_plain_answers(report, width),
        *_findings(report, width),
        *_steps(order, width),
        *panel_schedules(report, existing, width - 2 * FRAME_PADDING),
    ]


def _feeders(report: Report, width: float) -> Table:
    rows = [_feeder(report, answer) for answer in report.runs.values() if answer.kind != "utility"]
    head = (
        "Run",
        "From, to",
        "Length",
        "Load",
        "Device",
        "Hots",
        "Neutral",
        "Ground",
        "Type, raceway",
        "Cover",
        "Drop",
    )
    return schedule(head, rows, (16, 20, 8, 9, 8, 8, 8, 8, 22, 7, 10), width)


def _feeder(report: Report, answer: RunAnswer) -> list[str]:
    run = answer.run
    figures = answer.figures

    def told(part: str, unit: str = "") -> str:
        if part in figures:
            text = f"{figures[part].text}{unit}"
            return f"not read ({text} would do)" if answer.is_unread(part) else text
        return NOT_KNOWN if part in answer.gaps else "none"

    metal = MATERIAL_WORDS.get(answer.material or "", "?")
    sets = f"{run.sets} × " if run.sets > 1 else ""
    raceway = f" {figures['raceway'].text} in" if "raceway" in figures else ""
    ends = (
        f"{name_of(report.site, report.site.upstream_of(run))} → {name_of(report.site, report.site.downstream_of(run))}"
    )
    total = figures.get("total_drop")
    return [
        run_name(report.site, run),
        ends,
        shown_length(answer),
        told("load", " A"),
        told("device", " A"),
        f"{sets}{told('hots')} {metal}",
        told("neutral"),
        told("ground"),
        f"{run.insulation or '?'}, {METHOD_WORDS.get(run.method or '', run.method or '?')}{raceway}",
        told("cover", " in"),
        f"{total.text} %" if total else NOT_KNOWN,
    ]


def _steps(order: OrderOfWork, width: float) -> list[Flowable]:
    if not order.stages:
        return []
    rows = [
        [str(number), stage.title if at == 0 else "", step.text]
        for number, stage in enumerate(order.stages, 1)
        for at, step in enumerate(stage.steps)
    ]
    return [heading("Order of work"), schedule(("", "Stage", "Step"), rows, (3, 22, 84), width)]


def _plain_answers(report: Report, width: float) -> list[Flowable]:
    """What has no form of its own on this sheet, kind by kind: the figures of each thing."""
    parts: list[Flowable] = []
    for subject in SUBJECTS:
        answers = report.of(subject.kind)
        if answers and not subject.shown_apart:
            rows = [[thing_words(report, thing_id), figures_words(answer)] for thing_id, answer in answers.items()]
            parts += [heading(subject.title), schedule(("At", "Figures"), rows, (24, 76), width)]
    return parts


def _findings(report: Report, width: float) -> list[Flowable]:
    if not report.findings:
        return []
    rows = [
        [OUTCOME_WORDS[item.outcome], thing_words(report, item.id), item.text, item.section] for item in report.findings
    ]
    return [heading("Open findings"), schedule(("", "At", "What", "Section"), rows, (9, 16, 70, 14), width)]
