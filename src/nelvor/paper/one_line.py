"""The one-line diagram as vectors, drawn from the places of the report: columns by order, rows by lane."""

from __future__ import annotations

from dataclasses import dataclass

from reportlab.graphics.shapes import Circle, Drawing, Line, Rect, String
from reportlab.pdfbase.pdfmetrics import stringWidth

from nelvor.judges.bonds.answer import BEHIND_A_BOND
from nelvor.judges.run import RunAnswer
from nelvor.model.base import Thing
from nelvor.paper.style import BOLD, GROUND, INK, NEUTRAL, REGULAR, SHADE, register_fonts
from nelvor.report.check import Report
from nelvor.report.path import Place
from nelvor.report.words import run_tag
from nelvor.topology.names import name_of

BOX_WIDTH, BOX_HEIGHT = 64.0, 38.0
ROW_HEIGHT = 92.0
TALLEST = 460.0
TOP_MARGIN = 16.0
TEXT_SIZE, SMALL_SIZE = 6.5, 5.6
LINE_GAP, TURNED_GAP = 3.2, 2.0
FIRST_TRACK, TRACK_WIDTH = 5.0, 7.5
LEGEND_HEIGHT = 8.0
HEAVY, THIN = 1.7, 0.6
LEGEND = "Heavy lines: new work. Thin lines: what stands."


@dataclass(frozen=True)
class Grid:
    """Where columns and rows lie on the paper, in points."""

    width: float
    height: float
    column_width: float

    def centre(self, column: int, lane: int) -> tuple[float, float]:
        x = BOX_WIDTH / 2 + column * self.column_width
        return x, self.height - TOP_MARGIN - BOX_HEIGHT / 2 - lane * ROW_HEIGHT


def one_line(report: Report, width: float) -> Drawing:
    """Return the diagram, ``width`` points wide; text that does not fit its room is made narrower, never cut."""
    register_fonts()
    columns = _columns(report)
    lanes = max((place.lane for place in report.places), default=0) + 1
    most = max(columns.values(), default=0)
    grid = Grid(width, TOP_MARGIN + LEGEND_HEIGHT + lanes * ROW_HEIGHT, (width - BOX_WIDTH) / most if most else 0)
    drawing = Drawing(width, grid.height)
    tracks = Tracks(report)
    for place in report.places:
        if place.run_id is not None:
            _run(drawing, report, grid, columns, tracks, place)
    for place in report.places:
        _box(drawing, report, grid, columns[place.id], place)
    drawing.add(String(0, 2, LEGEND, fontName=REGULAR, fontSize=TEXT_SIZE, fillColor=INK))
    return _fitting(drawing)


def _fitting(drawing: Drawing) -> Drawing:
    """Return the drawing made smaller where it is too high for a page."""
    factor = TALLEST / drawing.height
    if factor < 1:
        drawing.scale(factor, factor)
        drawing.width, drawing.height = drawing.width * factor, TALLEST
    return drawing


def _columns(report: Report) -> dict[str, int]:
    """Return the column of each place: one further than what it is drawn from."""
    columns: dict[str, int] = {}
    for place in report.places:
        if place.run_id is None:
            columns[place.id] = 0
        else:
            columns[place.id] = columns.get(_drawn_from(report, place), 0) + 1
    return columns


def _drawn_from(report: Report, place: Place) -> str:
    """The other end of the run of a place: what feeds it, or what a source beyond feeds."""
    run = report.runs[str(place.run_id)].run
    upstream, downstream = report.site.upstream_of(run), report.site.downstream_of(run)
    return upstream if downstream == place.id else downstream


class Tracks:
    """Where runs turn that leave one box for other lanes: each has a track of its own, the furthest nearest the box."""

    def __init__(self, report: Report) -> None:
        places = {place.id: place for place in report.places}
        self.start = {
            place.id: places[_drawn_from(report, place)] for place in report.places if place.run_id is not None
        }
        self._beyond: dict[str, list[int]] = {}
        for place in report.places:
            start = self.start.get(place.id)
            if start is not None and start.lane != place.lane:
                self._beyond.setdefault(start.id, []).append(place.lane - start.lane)

    def turn(self, place: Place) -> float:
        """How far from the box the lines turn that go to a place."""
        return FIRST_TRACK + TRACK_WIDTH * sum(
            1 for other in self._on_its_side(place) if abs(other) > self._away(place)
        )

    def taken(self, place: Place) -> float:
        """How much room beside the box the lines take that pass the lane of a place, or turn into it."""
        passing = sum(1 for other in self._on_its_side(place) if abs(other) >= self._away(place))
        return FIRST_TRACK + TRACK_WIDTH * passing if passing else 0

    def _away(self, place: Place) -> int:
        return abs(place.lane - self.start[place.id].lane)

    def _on_its_side(self, place: Place) -> list[int]:
        start = self.start[place.id]
        lanes = self._beyond.get(start.id, [])
        return lanes if place.lane == start.lane else [item for item in lanes if item * (place.lane - start.lane) > 0]


def _run(drawing: Drawing, report: Report, grid: Grid, columns: dict[str, int], tracks: Tracks, place: Place) -> None:
    assert place.run_id is not None
    answer, start = report.runs[place.run_id], tracks.start[place.id]
    from_x, from_y = grid.centre(columns[start.id], start.lane)
    to_x, to_y = grid.centre(columns[place.id], place.lane)
    left, right = from_x + BOX_WIDTH / 2, to_x - BOX_WIDTH / 2
    elbow = left + tracks.turn(place)
    weight = _weight(answer.run)
    for number, (colour, dash) in enumerate(_lines(report, answer)):
        offset = (number - 1) * LINE_GAP
        if start.lane == place.lane:
            drawing.add(_line(left, from_y + offset, right, to_y + offset, colour, dash, weight))
        else:
            turn = elbow + offset * TURNED_GAP / LINE_GAP
            drawing.add(_line(left, from_y + offset, turn, from_y + offset, colour, dash, weight))
            drawing.add(_line(turn, from_y + offset, turn, to_y + offset, colour, dash, weight))
            drawing.add(_line(turn, to_y + offset, right, to_y + offset, colour, dash, weight))
    taken = tracks.taken(place)
    above = 0 if start.lane == place.lane else taken
    _run_text(drawing, answer, (left + above + 3, left + taken + 3), right - 3, to_y)


def _lines(report: Report, answer: RunAnswer) -> list[tuple[object, list[int] | None]]:
    lines: list[tuple[object, list[int] | None]] = [(INK, None)]
    if report.site.has_conductor(answer.run, "neutral"):
        lines.append((NEUTRAL, None))
    if report.site.has_conductor(answer.run, "ground"):
        lines.append((GROUND, [3, 2]))
    return lines


def _line(x1: float, y1: float, x2: float, y2: float, colour: object, dash: list[int] | None, weight: float) -> Line:
    return Line(x1, y1, x2, y2, strokeColor=colour, strokeWidth=weight, strokeDashArray=dash)


def _weight(thing: Thing) -> float:
    """New work is drawn heavy, what stands thin, as the legend says."""
    return HEAVY if thing.standing == "added" else THIN


def _run_text(drawing: Drawing, answer: RunAnswer, left: tuple[float, float], right: float, y: float) -> None:
    """Write what a run is above and below its lines, from the left edge that is free there."""
    length = f"{shown_length(answer)} · " if answer.run.length_ft else ""
    device = answer.figures.get("device")
    above = f"{length}{device.text} A" if device else length.rstrip(" ·")
    above = above.replace(" ft", "\u00a0ft").replace(" A", "\u00a0A")
    for number, line in enumerate(reversed(_broken(above, right - left[0], TEXT_SIZE, BOLD))):
        _fitted(drawing, line, left[0], right, y + 8 + number * 7, TEXT_SIZE, BOLD)
    parts = run_tag(answer).replace(" in", "\u00a0in").split(", ")
    lines = [line for part in parts for line in _broken(part, right - left[1], SMALL_SIZE, REGULAR)]
    for number, line in enumerate(lines):
        _fitted(drawing, line, left[1], right, y - 13 - number * 6.5, SMALL_SIZE, REGULAR)


def _broken(text: str, room: float, size: float, font: str) -> list[str]:
    """Return a text in lines that fit; a word that is longer than the room stands alone."""
    lines: list[str] = []
    for word in text.split(" "):
        longer = f"{lines[-1]} {word}" if lines else word
        if lines and stringWidth(longer.rstrip(" ·"), font, size) <= room:
            lines[-1] = longer
        else:
            lines.append(word)
    return [stripped for line in lines if (stripped := line.strip(" ·"))]


def shown_length(answer: RunAnswer) -> str:
    """Return a run's length for reading, such as ``180 ft``; a tap says that it is one."""
    tap = " tap" if answer.kind == "feeder" and answer.tap_rules else ""
    return f"{answer.run.length_ft:g} ft{tap}" if answer.run.length_ft is not None else "length not entered"


def _fitted(drawing: Drawing, text: str, left: float, right: float, y: float, size: float, font: str) -> None:
    """Add text centred between two edges, smaller where it would not fit."""
    room = max(right - left, 10)
    needed = stringWidth(text, font, size)
    fitted = size if needed <= room else max(size * room / needed, 3.2)
    drawing.add(String((left + right) / 2, y, text, fontName=font, fontSize=fitted, fillColor=INK, textAnchor="middle"))


def _box(drawing: Drawing, report: Report, grid: Grid, column: int, place: Place) -> None:
    x, y = grid.centre(column, place.lane)
    name = name_of(report.site, place.id)
    if place.id in report.site.sources:
        drawing.add(Circle(x, y, BOX_HEIGHT / 2, strokeColor=INK, fillColor=None, strokeWidth=0.9))
        _fitted(drawing, name, x - BOX_HEIGHT / 2 + 3, x + BOX_HEIGHT / 2 - 3, y - 2, TEXT_SIZE, BOLD)
        return
    drawing.add(
        Rect(
            x - BOX_WIDTH / 2,
            y - BOX_HEIGHT / 2,
            BOX_WIDTH,
            BOX_HEIGHT,
            rx=2,
            ry=2,
            strokeColor=INK,
            fillColor=SHADE,
            strokeWidth=_weight(report.site.enclosures[place.id]),
        )
    )
    left, right = x - BOX_WIDTH / 2 + 3, x + BOX_WIDTH / 2 - 3
    _fitted(drawing, name, left, right, y + 9, TEXT_SIZE, BOLD)
    _fitted(drawing, _ratings(report, place.id), left, right, y, SMALL_SIZE, REGULAR)
    _fitted(drawing, _bond_text(report, place.id), left, right, y - 10, SMALL_SIZE, BOLD)


def _ratings(report: Report, enclosure_id: str) -> str:
    main = report.site.main_of(enclosure_id)
    for transformer in report.site.document.transformers:
        if transformer.enclosure_id == enclosure_id and transformer.kva is not None:
            return f"{transformer.kva:g} kVA"
    sets = [item.rated_kva for item in report.site.sources_in.get(enclosure_id, []) if item.rated_kva is not None]
    if sets:
        return f"{sum(sets):g} kVA" + (f", main {main.rating_a:g} A" if main is not None and main.rating_a else "")
    label = report.site.rating_a(enclosure_id)
    rating = f"{label:g} A" if label is not None else "rating ?"
    if main is None:
        return f"{rating}, lugs"
    return f"{rating}, main {main.rating_a:g} A" if main.rating_a is not None else f"{rating}, main"


def _bond_text(report: Report, enclosure_id: str) -> str:
    """What is decided of neutral and ground; where what stands is otherwise, that it is still wrong."""
    bond = report.bonds[enclosure_id]
    if any(item.code == "bond" and item.outcome == "must_fix" for item in bond.verdicts):
        return "N–G bond still in: take out" if bond.decision in BEHIND_A_BOND else "N–G bond missing"
    words = {
        "bond": "N–G bonded here",
        "apart": "N and G apart",
        "supply_side": "supply side",
        "unknown": "N–G: cannot tell",
        "existing_three_wire": "old 3-wire, bonded",
        "derived_bond": "N–G bonded here",
        "bond_in_source": "N–G bonded inside",
        "floating": "neutral floating",
        "no_neutral": "no neutral",
    }
    return words[bond.decision]
