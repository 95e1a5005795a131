"""Sheets of things to cut out: directories of doors, cards of boxes, signs."""

from __future__ import annotations

from io import BytesIO

from reportlab.lib.pagesizes import letter
from reportlab.platypus import Flowable, SimpleDocTemplate

from nelvor.paper.style import Paragraph, paragraph

CUT_MARGIN = 36
SHEET_WIDTH = letter[0] - 2 * CUT_MARGIN


def cut_out_sheet(title: str, parts: list[Flowable], if_none: str) -> bytes:
    """Return the parts, made with the fonts registered, one below the other as a PDF; where there are none, a page that says so."""
    buffer = BytesIO()
    margins = dict.fromkeys(("leftMargin", "rightMargin", "topMargin", "bottomMargin"), CUT_MARGIN)
    template = SimpleDocTemplate(buffer, pagesize=letter, title=title, author="Nelvor", **margins)
    template.build(parts or [Paragraph(if_none, paragraph(9))])
    return buffer.getvalue()
