"""What stands on every sheet: the title block with job, address, people, permit, date, sheet n of m and revision."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Any

from reportlab.lib.pagesizes import landscape, letter
from reportlab.lib.units import inch
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas

from nelvor.paper.style import BOLD, FAINT, INK, REGULAR, RULE
from nelvor.report.check import Report

PAGE = landscape(letter)
MARGIN = 0.5 * inch
TOP, BOTTOM = 0.95 * inch, 0.6 * inch
TITLE_SIZE, SMALL_SIZE = 12.0, 7.0


def sheets(report: Report, revision: int | None, on: date | None) -> Callable[..., Canvas]:
    """Return a kind of canvas that knows how many sheets there are, and puts the title block on each of them."""

    class Sheets(Canvas):  # type: ignore[misc]  # the library has no types
        def __init__(self, *arguments: Any, **options: Any) -> None:
            super().__init__(*arguments, **options)
            self._kept: list[dict[str, Any]] = []

        def showPage(self) -> None:  # noqa: N802 (the library's name)
            self._kept.append(dict(self.__dict__))
            self._startPage()

        def save(self) -> None:
            for number, page in enumerate(self._kept, 1):
                self.__dict__.update(page)
                _title_block(self, report, revision, on, f"Sheet {number} of {len(self._kept)}")
                super().showPage()
            super().save()

    return Sheets


def _title_block(canvas: Canvas, report: Report, revision: int | None, on: date | None, sheet: str) -> None:
    document, signature = report.site.document, report.signature
    settings, width = document.settings, PAGE[0] - 2 * MARGIN
    number = f"permit {settings.permit_number}" if settings.permit_number else ""
    who = f"{settings.contractor}{f', license {settings.license}' if settings.license else ''}"
    at = f"revision {revision}" if revision is not None else ""
    rows = (
        (settings.address, settings.owner and f"Owner: {settings.owner}", who and f"Contractor: {who}"),
        (f"{signature.edition} rules", settings.authority, number, at, on.isoformat() if on else ""),
    )
    canvas.saveState()
    canvas.setFillColor(INK)
    top = PAGE[1] - 0.45 * inch
    _within(canvas, f"Permit sheet: {document.name or 'Job'}", MARGIN, top, width - 90, BOLD, TITLE_SIZE)
    canvas.setFont(BOLD, 9)
    canvas.drawRightString(PAGE[0] - MARGIN, top, sheet)
    canvas.setFillColor(FAINT)
    told_rows = [" · ".join(word for word in words if word) for words in rows]
    for line, told in enumerate([told for told in told_rows if told], 1):
        _within(canvas, told, MARGIN, top - 11.0 * line, width, REGULAR, SMALL_SIZE)
    canvas.setStrokeColor(RULE)
    canvas.line(MARGIN, top - 29, PAGE[0] - MARGIN, top - 29)
    computed = f"Computed by Nelvor {signature.engine}, rulebook {signature.rulebook}."
    canvas.setFont(REGULAR, SMALL_SIZE)
    canvas.drawString(MARGIN, 0.35 * inch, f"{computed} Local code and the authority having jurisdiction govern.")
    canvas.restoreState()


def _within(canvas: Canvas, text: str, x: float, y: float, room: float, font: str, size: float) -> None:
    """Draw text that ends before the margin, shortened where it must be."""
    canvas.setFont(font, size)
    while text and stringWidth(text, font, size) > room:
        text = f"{text[:-2]}…"
    canvas.drawString(x, y, text)
