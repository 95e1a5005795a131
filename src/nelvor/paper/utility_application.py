"""The sheet for the utility's application: what is told, and lines to write on for what is read elsewhere."""

from __future__ import annotations

from datetime import date
from xml.sax.saxutils import escape

from reportlab.platypus import Flowable, Spacer

from nelvor.paper.cut_out import SHEET_WIDTH, cut_out_sheet
from nelvor.paper.schedule import heading, schedule
from nelvor.paper.style import FAINT, Paragraph, paragraph, register_fonts
from nelvor.report.check import Report
from nelvor.report.utility_application import Entry, utility_application

TITLE = "For the utility's application"
BEFORE_USE = (
    "Utilities have forms of their own: this sheet gathers what they ask for. What is open is read at the place named. "
    "Nothing is connected before the utility has agreed."
)
LINE = "_" * 34
SHARES = (30, 70)


def application_sheet(report: Report, revision: int, on: date) -> bytes:
    """Return the sheet as a PDF, of the given revision, as of a day."""
    register_fonts()
    parts: list[Flowable] = []
    for part in utility_application(report):
        rows = [[entry.asked, _told(entry)] for entry in part.entries]
        parts += [heading(part.title), schedule(("Asked", "Told"), rows, SHARES, SHEET_WIDTH), Spacer(1, 4)]
    if parts:
        name = report.site.document.name or "Job"
        parts[:0] = [
            Paragraph(escape(f"{TITLE}: {name}"), paragraph(12, bold=True, after=2)),
            Paragraph(f"Revision {revision}, {on.isoformat()}", paragraph(7.5, colour=FAINT, after=2)),
            Paragraph(escape(BEFORE_USE), paragraph(7.5, after=4)),
        ]
    return cut_out_sheet(TITLE, parts, "No source is drawn, so nothing is to be applied for.")


def _told(entry: Entry) -> str:
    return f"{entry.told}{' ' if entry.told else ''}{f'{LINE} ({entry.read_at})' if entry.read_at else ''}" or LINE
