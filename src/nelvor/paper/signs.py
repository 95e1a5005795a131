"""The signs of a job to be cut out, each with where it hangs and the section that asks for it."""

from __future__ import annotations

from xml.sax.saxutils import escape

from reportlab.lib.enums import TA_CENTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import Flowable, KeepTogether, Spacer, Table, TableStyle

from nelvor.paper.cut_out import cut_out_sheet
from nelvor.paper.schedule import heading, schedule
from nelvor.paper.style import FAINT, INK, Paragraph, paragraph, register_fonts
from nelvor.report.check import Report
from nelvor.report.sign import Sign
from nelvor.report.signs import signs_due
from nelvor.topology.names import name_of

SIGN_WIDTH, SIGN_PADDING = 400, 14
BEFORE_USE = (
    "Words in the sense of the sections named, for the edition of the job. The authority having jurisdiction and the "
    "utility may ask for others; print them on material that lasts where they hang, by 110.21(B)."
)


def signs_schedule(report: Report, width: float) -> list[Flowable]:
    """Return the part of the permit sheet that lists the signs; nothing where none is due."""
    signs = signs_due(report)
    if not signs:
        return []
    rows = [[name_of(report.site, sign.enclosure_id), sign.words, sign.why, sign.section] for sign in signs]
    return [heading("Signs"), schedule(("At", "Words", "Where", "Section"), rows, (16, 52, 24, 14), width)]


def sign_sheet(report: Report) -> bytes:
    """Return the signs as a PDF, to be cut out or taken to whoever engraves them."""
    register_fonts()
    parts: list[Flowable] = [KeepTogether(_sign(report, sign)) for sign in signs_due(report)]
    if parts:
        parts.insert(0, Paragraph(escape(BEFORE_USE), paragraph(8, colour=FAINT, after=8)))
    return cut_out_sheet("Signs", parts, "No sign is due for what is drawn.")


def _sign(report: Report, sign: Sign) -> list[Flowable]:
    words = ParagraphStyle("sign", paragraph(13, bold=True), alignment=TA_CENTER)
    frame = Table([[Paragraph(escape(sign.words), words)]], colWidths=[SIGN_WIDTH], hAlign="LEFT")
    frame.setStyle(
        TableStyle(
            [
                ("BOX", (0, 0), (-1, -1), 1.2, INK),
                *[(f"{side}PADDING", (0, 0), (-1, -1), SIGN_PADDING) for side in ("TOP", "BOTTOM", "LEFT", "RIGHT")],
            ]
        )
    )
    where = f"{name_of(report.site, sign.enclosure_id)}: {sign.why}. {sign.section}"
    return [frame, Spacer(1, 3), Paragraph(escape(where), paragraph(7.5, colour=FAINT)), Spacer(1, 14)]
