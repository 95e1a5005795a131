"""Neutral and ground on paper: the table of all boxes, and a card for each to take to the box with the screwdriver."""

from __future__ import annotations

from xml.sax.saxutils import escape

from reportlab.graphics.shapes import Drawing, Line, Rect, String
from reportlab.platypus import Flowable, KeepTogether, Spacer, Table, TableStyle

from nelvor.paper.cut_out import SHEET_WIDTH, cut_out_sheet
from nelvor.paper.schedule import schedule
from nelvor.paper.style import BOLD, FAINT, GROUND, INK, NEUTRAL, REGULAR, SHADE, Paragraph, paragraph, register_fonts
from nelvor.report.check import Report
from nelvor.report.order_of_work import OrderOfWork, order_of_work
from nelvor.report.positions_played import positions_out
from nelvor.report.words import CAUTIONS, DECISION_WORDS, FOUND_WORDS
from nelvor.topology.names import home_of, name_of, thing_name

OF_THE_JOINTS = ("first", "bond", "unbond")
SIZES = (
    ("main_bonding_jumper", "main bonding jumper"),
    ("system_bonding_jumper", "system bonding jumper"),
    ("electrode_conductor", "electrode conductor"),
    ("electrode_conductor_rods", "to rods alone"),
)
JOINED = frozenset({"bond", "derived_bond", "bond_in_source", "supply_side", "existing_three_wire"})
PARTED = frozenset({"apart", "floating"})
CARD_PADDING = 9
PICTURE_WIDTH, PICTURE_HEIGHT = 118.0, 74.0


def bonding_table(report: Report, existing: Report, order: OrderOfWork, width: float) -> Table:
    """Return the table of all boxes: what must be, why, what is found, what is to be done, with what."""
    rows = [
        [
            name_of(report.site, enclosure_id),
            DECISION_WORDS[bond.decision],
            bond.reason,
            _found(existing, enclosure_id),
            " ".join(_to_do(report, order, enclosure_id)) or "nothing",
            "; ".join(bond.parts),
            ", ".join(bond.conductors),
            "; ".join(_sizes(report, enclosure_id)),
            bond.section,
        ]
        for enclosure_id, bond in report.bonds.items()
    ]
    head = ("Enclosure", "Neutral and ground", "Why", "Found", "To be done", "Parts", "Conductors", "Sizes", "Section")
    return schedule(head, rows, (14, 13, 25, 9, 17, 23, 15, 20, 14), width)


def bond_cards(report: Report, existing: Report, revision: int | None = None) -> bytes:
    """Return a card for every box of the proposal as a PDF, to be cut out and taken to the box."""
    register_fonts()
    order = order_of_work(existing, report)
    sheet = " · ".join(
        [report.site.document.name or "Job", *([f"revision {revision}"] if revision is not None else [])]
    )
    parts: list[Flowable] = []
    for enclosure_id in report.bonds:
        told = _told(report, existing, order, enclosure_id)
        parts += [KeepTogether([_card(report, enclosure_id, told, sheet)]), Spacer(1, 12)]
    return cut_out_sheet("Bond cards", parts, "No box is drawn yet.")


def _card(report: Report, enclosure_id: str, told: list[tuple[str, str]], sheet: str) -> Table:
    bond = report.bonds[enclosure_id]
    lines = [f'<font name="{BOLD}">{escape(label)}</font> {escape(text)}' for label, text in told if text]
    left = [
        Paragraph(escape(name_of(report.site, enclosure_id)), paragraph(13, bold=True)),
        Paragraph(escape(DECISION_WORDS[bond.decision]), paragraph(11, bold=True, before=2, after=3)),
        *[Paragraph(line, paragraph(8.5, after=2)) for line in lines],
    ]
    foot = Paragraph(escape(f"{sheet}. {' '.join(CAUTIONS)}"), paragraph(6, colour=FAINT))
    width = SHEET_WIDTH - 12
    aside = PICTURE_WIDTH + 2 * CARD_PADDING
    card = Table([[left, _picture(bond.decision)], [foot, ""]], colWidths=[width - aside, aside])
    card.setStyle(
        TableStyle(
            [
                ("BOX", (0, 0), (-1, -1), 0.6, INK, None, (3, 2)),
                ("SPAN", (0, 1), (-1, 1)),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LEFTPADDING", (0, 0), (-1, -1), CARD_PADDING),
                ("TOPPADDING", (0, 0), (-1, -1), CARD_PADDING / 2),
                ("BOTTOMPADDING", (0, 0), (-1, -1), CARD_PADDING / 2),
            ]
        )
    )
    return card


def _told(report: Report, existing: Report, order: OrderOfWork, enclosure_id: str) -> list[tuple[str, str]]:
    """What the card says, label by label, what is to be done first."""
    bond = report.bonds[enclosure_id]
    further = [
        f"{thing_name(report.site, item.neutral_part)}: {DECISION_WORDS[item.decision]} ({item.section})."
        for item in bond.neutrals[1:]
    ]
    return [
        ("To be done, in this order:", " ".join(_to_do(report, order, enclosure_id)) or "nothing."),
        ("Why:", f"{bond.reason} {bond.section}"),
        ("Found:", _found(existing, enclosure_id)),
        ("Parts:", "; ".join(bond.parts)),
        ("Must be present:", ", ".join(bond.conductors)),
        ("Sizes:", "; ".join(_sizes(report, enclosure_id))),
        ("Another neutral in it:", " ".join(further)),
        ("Live in:", "; ".join(item.name for item in positions_out(report) if enclosure_id in item.live)),
    ]


def _picture(decision: str) -> Drawing:
    """Neutral and metal of the box as they must be: a rung where they are joined, a gap where they are kept apart."""
    drawing = Drawing(PICTURE_WIDTH, PICTURE_HEIGHT)
    left, right, top, bottom = 34.0, PICTURE_WIDTH - 4, PICTURE_HEIGHT - 20, 20.0
    middle = (left + right) / 2
    drawing.add(Rect(left + 8, 6, right - left - 16, PICTURE_HEIGHT - 12, fillColor=SHADE, strokeColor=INK))
    drawing.add(String(0, top - 2, "neutral", fontName=REGULAR, fontSize=7, fillColor=INK))
    drawing.add(String(0, bottom - 2, "metal", fontName=REGULAR, fontSize=7, fillColor=INK))
    if decision != "no_neutral":
        drawing.add(Line(left, top, right, top, strokeColor=NEUTRAL, strokeWidth=3))
    drawing.add(Line(left, bottom, right, bottom, strokeColor=GROUND, strokeWidth=3))
    if decision in JOINED:
        drawing.add(Line(middle, bottom, middle, top, strokeColor=INK, strokeWidth=3))
    elif decision in PARTED:
        for start, end in ((bottom, bottom + 8), (top - 8, top)):
            drawing.add(Line(middle, start, middle, end, strokeColor=INK, strokeWidth=1.5))
    elif decision == "unknown":
        drawing.add(String(middle - 4, (top + bottom) / 2 - 5, "?", fontName=REGULAR, fontSize=14, fillColor=INK))
    return drawing


def _sizes(report: Report, enclosure_id: str) -> list[str]:
    electrodes = report.electrodes.get(enclosure_id)
    figures = {**report.bonds[enclosure_id].figures, **(electrodes.figures if electrodes else {})}
    return [f"{words} {figures[name].text} Cu" for name, words in SIZES if name in figures]


def _found(existing: Report, enclosure_id: str) -> str:
    bond = existing.bonds.get(enclosure_id)
    return FOUND_WORDS[bond.found] if bond else "not there yet"


def _to_do(report: Report, order: OrderOfWork, enclosure_id: str) -> list[str]:
    """The steps about the joints of an enclosure; where something is wrong and no step mends it, that is said."""
    steps = [
        step.text
        for stage in order.stages
        for step in stage.steps
        if stage.stage in OF_THE_JOINTS and home_of(report.site, step.id) == enclosure_id
    ]
    outcomes = {item.outcome for item in report.bonds[enclosure_id].verdicts}
    if "must_fix" in outcomes:
        steps.append("See the open findings.")
    elif "cannot_tell" in outcomes:
        steps.append("Look at it on site.")
    return steps
