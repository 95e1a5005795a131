"""Panel schedules as the panels hang, a page for each as it stands and as it will be, and labels of the door to cut out."""

from __future__ import annotations

from xml.sax.saxutils import escape

from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.platypus import (
    Flowable,
    KeepTogether,
    PageBreak,
    Spacer,
    Table,
    TableStyle,
)

from nelvor.paper.cut_out import cut_out_sheet
from nelvor.paper.schedule import heading
from nelvor.paper.style import BOLD, FAINT, INK, REGULAR, RULE, SHADE, Paragraph, paragraph, register_fonts
from nelvor.report.check import Report
from nelvor.report.panel_schedule import CircuitOut, ScheduleOut, SpaceOut
from nelvor.report.wire import schedule_of
from nelvor.topology.names import name_of

Cells = list[list[str]]
Style = tuple[object, ...]
SHARES = (31, 13, 6, 7, 5, 5, 5, 7, 6, 13, 31)
HEAD = ("Serves", "Wire", "A", "Poles", "", "Leg", "", "Poles", "A", "Wire", "Serves")
LEFT, RIGHT = (0, 1, 2, 3, 4), (10, 9, 8, 7, 6)
STANDING = {"existing": "", "added": " (new)", "removed": " (to go)"}
LABEL_WIDTH = 420
CELL_PADDING = 6
FULL_ROW_PT, LEAST_ROW_PT, ROOM_PT = 17, 9.5, 430


def panel_schedules(report: Report, existing: Report, width: float) -> list[Flowable]:
    """Return the pages of the panel schedules; a panel that stays as it is has one page for both states."""
    parts: list[Flowable] = []
    before = {bus_id: schedule_of(existing, answer) for bus_id, answer in existing.schedules.items()}
    for bus_id, answer in report.schedules.items():
        after = schedule_of(report, answer)
        if not after.circuits and not (bus_id in before and before[bus_id].circuits):
            continue
        stood = before.get(bus_id)
        if stood is not None and not _alike(stood, after):
            parts += _page(existing, stood, "existing", width)
        words = "proposed" if stood is None or not _alike(stood, after) else "existing, unchanged"
        parts += _page(report, after, words, width)
    return parts


def _alike(one: ScheduleOut, other: ScheduleOut) -> bool:
    what = {"spaces", "circuits", "numbering"}
    return one.model_dump(include=what) == other.model_dump(include=what)


def _page(report: Report, schedule: ScheduleOut, state: str, width: float) -> list[Flowable]:
    legs = ", ".join(f"{leg} {figure.value} A" for leg, figure in schedule.amperes.items())
    loads = {load.id: load.name or load.id for load in report.site.document.loads}
    rest = ", ".join(loads[load_id] for load_id in schedule.without_circuit)
    foot = (
        f"Legs by the circuits in their spaces: {legs}. {schedule.free_spaces} of {len(schedule.spaces)} spaces free."
    )
    if rest:
        foot = f"{foot} On no circuit yet: {rest}."
    return [
        PageBreak(),
        heading(f"Panel schedule: {schedule.name}, {state}"),
        Paragraph(escape(_particulars(report, schedule)), paragraph(7.5, after=4)),
        _drawn(schedule, width),
        Spacer(1, 4),
        Paragraph(escape(foot), paragraph(7.5)),
    ]


def _particulars(report: Report, schedule: ScheduleOut) -> str:
    site = report.site
    bus, feeding = site.buses[schedule.bus_id], site.feeding_run(schedule.enclosure_id)
    main = site.devices.get(bus.fed_by or "")
    parts = [
        f"Fed from {name_of(site, site.upstream_of(feeding))}" if feeding else "Feed not drawn",
        f"bus {bus.rating_a:g} A" if bus.rating_a is not None else "bus rating not read",
        f"main {main.rating_a:g} A"
        if main and main.rating_a is not None
        else "main lugs"
        if main is None
        else "main not read",
        f"{len(schedule.spaces)} spaces",
    ]
    series = site.enclosures[schedule.enclosure_id].series
    return "; ".join([*parts, f"takes series {series}"] if series else parts) + "."


def _drawn(schedule: ScheduleOut, width: float) -> Table:
    """The spaces in their two columns, the legs between them; breakers of several poles over several rows."""
    cells: Cells = [list(HEAD)]
    cells += [[""] * len(SHARES) for _ in range(schedule.rows)]
    style: list[Style] = [
        ("FONT", (0, 0), (-1, -1), REGULAR, 7),
        ("FONT", (0, 0), (-1, 0), BOLD, 7),
        ("TEXTCOLOR", (0, 0), (-1, -1), INK),
        ("BACKGROUND", (0, 0), (-1, 0), SHADE),
        ("BACKGROUND", (5, 1), (5, -1), SHADE),
        ("BOX", (0, 0), (-1, -1), 0.8, INK),
        ("LINEBELOW", (0, 0), (-1, -1), 0.3, RULE),
        ("LINEAFTER", (4, 1), (5, -1), 0.5, INK),
        ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
        ("ALIGN", (1, 0), (9, -1), "CENTER"),
        ("ALIGN", (10, 0), (10, -1), "RIGHT"),
        ("TOPPADDING", (0, 0), (-1, -1), 1),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 1),
    ]
    by_number = {space.number: space for space in schedule.spaces}
    for space in schedule.spaces:
        cells[space.row + 1][_columns(schedule, space)[4]] = str(space.number)
        cells[space.row + 1][5] = space.leg or "?"
    for circuit in schedule.circuits:
        spaces = [by_number[spot.space] for spot in circuit.spots if spot.space in by_number]
        if spaces:
            _put(cells, style, schedule, circuit, spaces, width)
    row_pt = max(LEAST_ROW_PT, min(FULL_ROW_PT, ROOM_PT / max(1, schedule.rows)))
    whole = sum(SHARES)
    table = Table(
        cells, colWidths=[width * share / whole for share in SHARES], rowHeights=[13] + [row_pt] * schedule.rows
    )
    table.setStyle(TableStyle(style))
    return table


def _columns(schedule: ScheduleOut, space: SpaceOut) -> tuple[int, ...]:
    return LEFT if schedule.columns > 1 and space.column == 0 else RIGHT


def _fitting(text: str, width: float, size: float = 7) -> str:
    """The text as far as a cell holds it."""
    room = width - 2 * CELL_PADDING
    if stringWidth(text, BOLD, size) <= room:
        return text
    while text and stringWidth(f"{text}…", BOLD, size) > room:
        text = text[:-1]
    return f"{text.rstrip()}…"


def _put(
    cells: Cells, style: list[Style], schedule: ScheduleOut, circuit: CircuitOut, spaces: list[SpaceOut], width: float
) -> None:
    rows = sorted(space.row + 1 for space in spaces)
    columns = _columns(schedule, spaces[0])
    texts = (
        f"{circuit.on_the_door}{STANDING[circuit.state]}",
        circuit.wire,
        f"{circuit.rating_a:g}" if circuit.rating_a is not None else "?",
        str(circuit.poles),
    )
    for column, whole in zip(columns, texts, strict=False):
        text = _fitting(whole, width * SHARES[column] / sum(SHARES))
        there = cells[rows[0]][column]
        cells[rows[0]][column] = f"{there} | {text}" if there and text else there or text
        if len(rows) > 1 and rows[-1] - rows[0] == len(rows) - 1:
            style.append(("SPAN", (column, rows[0]), (column, rows[-1])))
    if circuit.state == "added":
        style.append(("FONT", (columns[0], rows[0]), (columns[0], rows[0]), BOLD, 7))
    elif circuit.role == "spare":
        style.append(("TEXTCOLOR", (columns[0], rows[0]), (columns[0], rows[0]), FAINT))


def door_labels(report: Report) -> bytes:
    """Return the directories of all panels as a PDF, each to be cut out and put inside its door."""
    register_fonts()
    parts: list[Flowable] = []
    for answer in report.schedules.values():
        schedule = schedule_of(report, answer)
        if schedule.circuits:
            parts += [KeepTogether([_label(report, schedule)]), Spacer(1, 18)]
    return cut_out_sheet("Directories", parts, "No panel has its circuits entered yet.")


def _label(report: Report, schedule: ScheduleOut) -> Table:
    """Numbers and texts alone, in the places of the panel; where it is fed from above (408.4)."""
    cells: Cells = [[_fitting(f"{schedule.name}. {_particulars(report, schedule)}", LABEL_WIDTH), "", "", ""]]
    cells += [[""] * 4 for _ in range(schedule.rows)]
    style: list[Style] = [
        ("FONT", (0, 0), (-1, -1), REGULAR, 8),
        ("FONT", (0, 0), (-1, 0), BOLD, 7),
        ("SPAN", (0, 0), (-1, 0)),
        ("BOX", (0, 0), (-1, -1), 0.6, INK, None, (3, 2)),
        ("LINEBELOW", (0, 0), (-1, -2), 0.3, RULE),
        ("LINEAFTER", (1, 1), (1, -1), 0.5, INK),
        ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
        ("ALIGN", (0, 1), (0, -1), "RIGHT"),
        ("ALIGN", (3, 1), (3, -1), "RIGHT"),
        ("TOPPADDING", (0, 0), (-1, -1), 1.5),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
    ]
    words: dict[int, list[str]] = {}
    for circuit in schedule.circuits:
        for spot in circuit.spots:
            words.setdefault(spot.space, []).append(circuit.on_the_door)
    for space in schedule.spaces:
        number, text = (0, 1) if _columns(schedule, space) is LEFT else (3, 2)
        cells[space.row + 1][number] = str(space.number)
        cells[space.row + 1][text] = _fitting(" | ".join(words.get(space.number, [])), LABEL_WIDTH / 2 - 24, 8)
    table = Table(cells, colWidths=[24, LABEL_WIDTH / 2 - 24, LABEL_WIDTH / 2 - 24, 24])
    table.setStyle(TableStyle(style))
    return table
