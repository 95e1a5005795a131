"""Fonts, colours and table styles of the paper."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from reportlab.lib.colors import Color, HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Paragraph as PlainParagraph

FONTS = Path(__file__).parent / "fonts"
REGULAR, BOLD = "Sheet", "Sheet-Bold"
LEADING = 1.3
INK = HexColor("#1b2321")
FAINT = HexColor("#6d726c")
RULE = HexColor("#c9c2b2")
SHADE = HexColor("#f1ede3")
NEUTRAL = HexColor("#8a8f8b")
GROUND = HexColor("#2c7a4b")


@cache
def register_fonts() -> None:
    """Make the shipped fonts known once; they hold Greek, Ω and the comparison signs."""
    pdfmetrics.registerFont(TTFont(REGULAR, str(FONTS / "DejaVuSansCondensed.ttf")))
    pdfmetrics.registerFont(TTFont(BOLD, str(FONTS / "DejaVuSansCondensed-Bold.ttf")))


class Paragraph(PlainParagraph):  # type: ignore[misc]
    """A paragraph that breaks its lines once for each width: a table asks for its height again and again."""

    _broken: tuple[float, tuple[float, float]] | None = None

    def wrap(self, width: float, height: float) -> tuple[float, float]:
        """Return its width and height in a frame."""
        if self._broken is None or self._broken[0] != width:
            self._broken = width, super().wrap(width, height)
        return self._broken[1]


@cache
def paragraph(
    size: float = 7.5,
    bold: bool = False,
    colour: Color = INK,
    before: float = 0,
    after: float = 0,
    with_next: bool = False,
) -> ParagraphStyle:
    """Return a paragraph style of the sheet."""
    return ParagraphStyle(
        f"p{size}{bold}{before}{after}{with_next}",
        fontName=BOLD if bold else REGULAR,
        fontSize=size,
        leading=size * LEADING,
        textColor=colour,
        spaceBefore=before,
        spaceAfter=after,
        splitLongWords=1,
        keepWithNext=with_next,
    )
