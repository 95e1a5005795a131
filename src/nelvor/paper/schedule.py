"""Headings and tables as every part of the permit sheet has them."""

from __future__ import annotations

from collections.abc import Sequence
from xml.sax.saxutils import escape

from reportlab.platypus import Table, TableStyle

from nelvor.paper.style import RULE, SHADE, Paragraph, paragraph

NOT_KNOWN = "cannot tell"


def heading(text: str) -> Paragraph:
    """Return the heading of a part."""
    return Paragraph(escape(text), paragraph(9.5, bold=True, before=8, after=3, with_next=True))


def schedule(head: Sequence[str], rows: Sequence[Sequence[str]], shares: Sequence[float], width: float) -> Table:
    """Return a table whose columns share a width."""
    whole = sum(shares)
    cells = [[Paragraph(escape(text), paragraph(7, bold=True)) for text in head]]
    cells += [[Paragraph(escape(text), paragraph(7)) for text in row] for row in rows]
    table = Table(cells, colWidths=[width * share / whole for share in shares], repeatRows=1)
    table.setStyle(
        TableStyle(
            [
                ("BACKGROUND", (0, 0), (-1, 0), SHADE),
                ("LINEBELOW", (0, 0), (-1, -1), 0.4, RULE),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("TOPPADDING", (0, 0), (-1, -1), 2),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 2.5),
                ("LEFTPADDING", (0, 0), (-1, -1), 3),
            ]
        )
    )
    return table
