"""Headings and tables as every part of the permit sheet has them."""

from __future__ import annotations

from collections.abc import Sequence
from xml.sax.saxutils import escape

from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.platypus import Table, TableStyle

from nelvor.paper.style import BOLD, INK, LEADING, REGULAR, RULE, SHADE, Paragraph, paragraph

NOT_KNOWN = "cannot tell"
SIZE, PADDING = 7, 3


def heading(text: str) -> Paragraph:
    """Return the heading of a part."""
    return Paragraph(escape(text), paragraph(9.5, bold=True, before=8, after=3, with_next=True))


def schedule(head: Sequence[str], rows: Sequence[Sequence[str]], shares: Sequence[float], width: float) -> Table:
    """Return a table whose columns share a width."""
    widths = [width * share / sum(shares) for share in shares]
    cells = [[_cell(text, room, BOLD) for text, room in zip(head, widths, strict=True)]]
    cells += [[_cell(text, room, REGULAR) for text, room in zip(row, widths, strict=True)] for row in rows]
    table = Table(cells, colWidths=widths, repeatRows=1)
    table.setStyle(
        TableStyle(
            [
                ("FONT", (0, 0), (-1, 0), BOLD, SIZE, SIZE * LEADING),
                ("FONT", (0, 1), (-1, -1), REGULAR, SIZE, SIZE * LEADING),
                ("TEXTCOLOR", (0, 0), (-1, -1), INK),
                ("BACKGROUND", (0, 0), (-1, 0), SHADE),
                ("LINEBELOW", (0, 0), (-1, -1), 0.4, RULE),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("TOPPADDING", (0, 0), (-1, -1), 2),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 2.5),
                ("LEFTPADDING", (0, 0), (-1, -1), PADDING),
                ("RIGHTPADDING", (0, 0), (-1, -1), 2 * PADDING),
            ]
        )
    )
    return table


def _cell(text: str, width: float, font: str) -> str | Paragraph:
    """Return a cell: a text that fits on its line as it is, which is laid out far sooner, and any other as a paragraph."""
    fits = "\n" not in text and stringWidth(text, font, SIZE) <= width - 3 * PADDING
    return text if fits else Paragraph(escape(text), paragraph(SIZE, bold=font == BOLD))
