"""The permit sheet: one-line, loads, feeder schedule, bonding and grounding, findings, cautions."""

from __future__ import annotations

from io import BytesIO
from xml.sax.saxutils import escape

from reportlab.lib.pagesizes import landscape, letter
from reportlab.lib.units import inch
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, KeepTogether, Paragraph, SimpleDocTemplate, Spacer, Table

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.clauses.wiring_methods import METHOD_WORDS
from nelvor.judges.run import RunAnswer
from nelvor.paper.along_runs import along_runs
from nelvor.paper.one_line import one_line, shown_length
from nelvor.paper.schedule import NOT_KNOWN, heading, schedule
from nelvor.paper.style import BOLD, FAINT, INK, REGULAR, paragraph, register_fonts
from nelvor.report.check import Report
from nelvor.report.subjects import SUBJECTS
from nelvor.report.words import (
    CAUTIONS,
    DECISION_WORDS,
    MATERIAL_WORDS,
    METHOD_OF_LOADS,
    OUTCOME_WORDS,
    figures_words,
    group_name,
    thing_words,
)
from nelvor.topology.names import name_of, run_name
from nelvor.working import shown

PAGE = landscape(letter)
MARGIN = 0.5 * inch


def permit_sheet(report: Report, revision: int | None = None) -> bytes:
    """Return the permit sheet of a report as a PDF."""
    register_fonts()
    buffer = BytesIO()
    title = report.site.document.name or "Job"
    template = SimpleDocTemplate(
        buffer,
        pagesize=PAGE,
        leftMargin=MARGIN,
        rightMargin=MARGIN,
        topMargin=0.75 * inch,
        bottomMargin=0.6 * inch,
        title=f"Permit sheet: {title}",
        author="Nelvor",
    )
    width = PAGE[0] - 2 * MARGIN

    def furnish(canvas: Canvas, _: object) -> None:
        _title_block(canvas, report, title, revision)

    template.build(_story(report, width), onFirstPage=furnish, onLaterPages=furnish)
    return buffer.getvalue()


def _story(report: Report, width: float) -> list[Flowable]:
    return [
        heading("One-line, proposed"),
        one_line(report, width),
        Spacer(1, 6),
        heading("Loads"),
        *_loads(report, width),
        heading("Feeder schedule"),
        _feeders(report, width),
        *along_runs(report, width),
        heading("Bonding and grounding"),
        _bonds(report, width),
        *_plain_answers(report, width),
        *_findings(report, width),
        KeepTogether([heading("Cautions"), *[Paragraph(escape(text), paragraph(after=2)) for text in CAUTIONS]]),
    ]


def _title_block(canvas: Canvas, report: Report, title: str, revision: int | None) -> None:
    canvas.saveState()
    canvas.setFillColor(INK)
    canvas.setFont(BOLD, 12)
    canvas.drawString(MARGIN, PAGE[1] - 0.5 * inch, f"Permit sheet: {title[:80]}")
    canvas.setFont(REGULAR, 7)
    canvas.setFillColor(FAINT)
    settings, signature = report.site.document.settings, report.signature
    right = f"{signature.edition} rules"
    if settings.authority:
        right += f" · {settings.authority[:60]}"
    if revision is not None:
        right += f" · revision {revision}"
    canvas.drawRightString(PAGE[0] - MARGIN, PAGE[1] - 0.5 * inch, right)
    canvas.drawString(
        MARGIN,
        0.35 * inch,
        f"Computed by Nelvor {signature.engine}, rulebook {signature.rulebook}. "
        "Local code and the authority having jurisdiction govern.",
    )
    canvas.drawRightString(PAGE[0] - MARGIN, 0.35 * inch, f"Page {canvas.getPageNumber()}")
    canvas.restoreState()


def _loads(report: Report, width: float) -> list[Flowable]:
    rows = []
    for enclosure_id in report.site.walking_order:
        level = report.levels.get(enclosure_id)
        name = name_of(report.site, enclosure_id)
        if not isinstance(level, LevelLoad):
            rows.append([name, "", NOT_KNOWN if level is None else f"{NOT_KNOWN}: {level.reason.reason}", "", "", ""])
            continue
        for group in level.groups:
            method = f"{group_name(report, group)}: {METHOD_OF_LOADS[group.method]}"
            for line in group.lines:
                rows.append([name, method, line.label, f"{line.connected_va.text} VA", f"{line.demand_va.text} VA", ""])
        legs = ", ".join(f"{leg.leg} {leg.actual.text} A (design {leg.design.text} A)" for leg in level.legs)
        rows.append(
            [
                name,
                "",
                "Total",
                f"{level.connected_va.text} VA",
                f"{level.demand_va.text} VA",
                f"{legs}, neutral {level.neutral.text} A",
            ]
        )
    return [
        schedule(("At", "Method", "Load", "Connected", "Calculated", "Per leg"), rows, (14, 20, 24, 12, 12, 34), width)
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
            return f"{figures[part].text}{unit}"
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
        f"{shown(total.number, 3)} %" if total else NOT_KNOWN,
    ]


def _bonds(report: Report, width: float) -> Table:
    rows = []
    for enclosure_id, bond in report.bonds.items():
        electrodes = report.electrodes.get(enclosure_id)
        figures = {**bond.figures, **(electrodes.figures if electrodes else {})}
        sizes = [
            f"{words} {figures[name].text} Cu"
            for name, words in (
                ("main_bonding_jumper", "main bonding jumper"),
                ("electrode_conductor", "electrode conductor"),
                ("electrode_conductor_rods", "to rods alone"),
            )
            if name in figures
        ]
        rows.append(
            [
                name_of(report.site, enclosure_id),
                DECISION_WORDS[bond.decision],
                bond.reason,
                "; ".join(bond.parts),
                ", ".join(bond.conductors),
                "; ".join(sizes),
                bond.section,
            ]
        )
    head = ("Enclosure", "Neutral and ground", "Why", "Parts", "Conductors", "Sizes", "Section")
    return schedule(head, rows, (14, 14, 32, 28, 16, 24, 10), width)


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
