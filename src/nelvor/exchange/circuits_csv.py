"""Lists of circuits: as CSV, and as one types them from the door of a panel, each fault named by its line."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from nelvor.errors import BadInput, Issue
from nelvor.exchange.cells import as_written, harmless
from nelvor.model.changes.ids import FreeIds, taken_ids
from nelvor.model.document import Document
from nelvor.model.things import Bus, Circuit, Device
from nelvor.model.vocabulary import HalfSpace
from nelvor.spaces.bus_spaces import Spot, spots_from, spots_of

OF_DEVICE = ("space", "half", "name", "poles", "rating_a", "role", "kind", "tie", "protection", "series")
OF_WIRES = ("use", "wire_size", "material", "insulation", "ground_size", "length_ft", "shared_neutral")
COLUMNS = (*OF_DEVICE, *OF_WIRES, "state")
WHOLE_NUMBERS, NUMBERS = frozenset({"space", "poles"}), frozenset({"rating_a", "length_ft"})
HALVES: dict[str, HalfSpace] = {"a": "first", "b": "second"}
MOST_LINES, MOST_TEXT, MOST_ISSUES = 500, 200_000, 100
MOST_POLES = 3
SPACES = r"(?P<space>\d{1,3})(?P<half>[abAB](?![A-Za-z]))?(?:\s*[-/&+]\s*(?P<second>\d{1,3}))?(?:\s*[-/&+]\s*(?P<third>\d{1,3}))?"
DOOR_LINE = re.compile(
    rf"^{SPACES}[\s.):,;]*(?P<name>.*?)[\s,;]*"
    r"(?:(?P<poles>[123])\s*-?\s*(?:p|poles?)\b\.?)?[\s,;]*(?:(?P<rating>\d{1,4})\s*(?:a|amps?)?\.?)?$",
    re.IGNORECASE,
)
DITTO = re.compile(r'^["\'″]+$')


@dataclass(frozen=True)
class CircuitList:
    """The breakers of a list with the wires that leave them."""

    devices: tuple[Device, ...]
    circuits: tuple[Circuit, ...]


def write_circuits(document: Document, bus_id: str) -> str:
    """Return the breakers of a bus of a resolved document as CSV, in the order of their spaces."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    wires = {item.device_id: item for item in reversed(document.circuits)}
    devices = [item for item in document.devices if item.bus_id == bus_id and item.role != "main"]
    for device in sorted(devices, key=lambda item: (item.space is None, item.space or 0, item.half or "")):
        own = wires.get(device.id)
        values = [getattr(device, name) for name in OF_DEVICE]
        values += [getattr(own, name) if own else None for name in OF_WIRES]
        state = "existing" if device.standing == "existing" else "proposed"
        writer.writerow([*(_cell(value) for value in values), state])
    return out.getvalue()


def _cell(value: Any) -> str:
    if value is None:
        return ""
    return f"{value:g}" if isinstance(value, (int, float)) else harmless(str(value))


def read_circuits(text: str, document: Document, bus: Bus, default_state: str = "existing") -> CircuitList:
    """Return the circuits of a list for a bus: CSV whose first line names the columns, or lines as on a door.

    A line of a door is a number, text, poles and amperes: ``1-3 Range 50``, ``5, Kitchen, 1, 20``.

    Raises:
        BadInput: with each fault by its line; nothing is taken then.
    """
    if len(text) > MOST_TEXT:
        raise BadInput([Issue("too_large", "", "the list is too long.", "Read it in parts.")])
    lines = text.lstrip("\ufeff").splitlines()
    rows = _table(text) if _names_columns(lines) else _door(lines)
    return _Reader(document, bus, default_state).read(rows)


Row = tuple[int, dict[str, Any]]


def _names_columns(lines: list[str]) -> bool:
    first = next((line for line in lines if line.strip()), "")
    names = {cell.strip().lower().replace(" ", "_") for cell in re.split(r"[,;\t]", first)}
    return "space" in names


def _table(text: str) -> list[Row | Issue]:
    head = text.split("\n", 1)[0]
    delimiter = max(("\t", ";", ","), key=head.count)
    try:
        lines = list(csv.reader(io.StringIO(text.lstrip("\ufeff"), newline=""), delimiter=delimiter, strict=True))
    except csv.Error as failure:
        raise BadInput([Issue("not_csv", "", f"it is no table: {failure}.", "Check the quotation marks.")]) from None
    names = [cell.strip().lower().replace(" ", "_") for cell in lines[0]]
    unknown = [name for name in names if name not in COLUMNS]
    if unknown:
        what = f"the column {unknown[0][:60]!r} is not known."
        raise BadInput([Issue("columns", "line 1", what, f"Known columns: {', '.join(COLUMNS)}.")])
    return [
        _row(number, dict(zip(names, (as_written(cell.strip()) for cell in cells), strict=False)))
        for number, cells in enumerate(lines[1:], 2)
        if any(cell.strip() for cell in cells)
    ]


def _row(number: int, cells: dict[str, str]) -> Row | Issue:
    values: dict[str, Any] = {}
    for column, cell in cells.items():
        if cell == "":
            continue
        if column not in WHOLE_NUMBERS | NUMBERS:
            values[column] = cell
            continue
        try:
            values[column] = int(cell) if column in WHOLE_NUMBERS else float(cell.replace(",", "."))
        except ValueError:
            return Issue("not_a_number", f"line {number}, {column}", f"{cell[:40]!r} is no number.", "Write a number.")
    return number, values


def _door(lines: list[str]) -> list[Row | Issue]:
    """Read lines as typed from a door; a line of ditto marks repeats the text above it."""
    found: list[Row | Issue] = []
    above = ""
    for number, line in enumerate(lines, 1):
        if not line.strip():
            continue
        row = _door_line(number, " ".join(line.replace("\t", " , ").split()), above)
        if not isinstance(row, Issue):
            above = row[1].get("name", "")
        found.append(row)
    return found


def _door_line(number: int, line: str, above: str) -> Row | Issue:
    match = DOOR_LINE.match(line)
    if match is None:
        return Issue(
            "not_a_circuit",
            f"line {number}",
            f"{line[:60]!r} begins with no space.",
            "Write number, text, poles, amperes.",
        )
    parts = match.groupdict()
    further = [int(parts[name]) for name in ("second", "third") if parts[name]]
    name, poles = parts["name"].strip(" ,;"), int(parts["poles"]) if parts["poles"] else None
    cells = [cell.strip() for cell in re.split(r"[,;]", name)]
    if poles is None and len(cells) > 1 and cells[-1] in ("1", "2", "3"):
        name, poles = ", ".join(cells[:-1]), int(cells[-1])
    if further and poles not in (None, 1 + len(further)):
        reason = f"it names {1 + len(further)} spaces and {poles} poles."
        return Issue("poles", f"line {number}", reason, "One space for each pole: correct one of the two.")
    if parts["rating"] is None:
        return Issue("no_rating", f"line {number}", "the amperes are missing.", "Write what stands on the handle.")
    values: dict[str, Any] = {
        "space": int(parts["space"]),
        "name": above if DITTO.match(name) else name,
        "poles": poles or 1 + len(further),
        "rating_a": float(parts["rating"]),
    }
    if values["poles"] > 1:
        values["tie"] = "common_trip"
    if parts["half"]:
        values["half"] = HALVES[parts["half"].lower()]
    return number, values | ({"further": further} if further else {})


class _Reader:
    """Takes rows into breakers, each into spaces where nothing stands yet."""

    def __init__(self, document: Document, bus: Bus, default_state: str) -> None:
        self.bus = bus
        self.default_state = default_state
        self.ids = FreeIds(taken_ids(document.things()))
        self.taken: list[tuple[Spot, str]] = [
            (spot, device.name or f"the breaker in space {device.space}")
            for device in document.devices
            if device.bus_id == bus.id
            for spot in spots_of(bus, device)
        ]

    def read(self, rows: Iterable[Row | Issue]) -> CircuitList:
        """Return what the rows hold.

        Raises:
            BadInput: with each fault by its line.
        """
        devices: list[Device] = []
        circuits: list[Circuit] = []
        issues: list[Issue] = []
        for number, row in enumerate(rows, 1):
            if number > MOST_LINES:
                issues.append(Issue("too_large", "", f"more than {MOST_LINES} circuits.", "Read it in parts."))
                break
            try:
                if isinstance(row, Issue):
                    raise BadInput([row])
                device, wires = self._taken_in(*row)
            except BadInput as failure:
                issues += failure.issues
                continue
            devices.append(device)
            circuits += [wires] if wires else []
        if issues:
            raise BadInput(issues[:MOST_ISSUES])
        if not devices:
            raise BadInput([Issue("empty", "", "the list is empty.", "Write a line for each breaker.")])
        return CircuitList(tuple(devices), tuple(circuits))

    def _taken_in(self, line: int, row: dict[str, Any]) -> tuple[Device, Circuit | None]:
        values = {name: row[name] for name in OF_DEVICE if name in row}
        state = row.get("state", self.default_state)
        standing = "existing" if state == "existing" else "added"
        values.setdefault("poles", 1)
        if "role" not in values:
            values["role"] = "spare" if str(values.get("name", "")).strip().lower() == "spare" else "branch"
        own = {"id": self.ids.take(f"{self.bus.enclosure_id[:24]}-{values.get('space', 'x')}"), "standing": standing}
        home = {"enclosure_id": self.bus.enclosure_id, "bus_id": self.bus.id}
        device = _made(Device, {**values, **own, **home}, line)
        self._into_spaces(device, row.get("further"), line)
        wires = {name: row[name] for name in OF_WIRES if name in row}
        if not wires:
            return device, None
        circuit = {**wires, "id": self.ids.take(f"{device.id}-wires"), "standing": standing, "device_id": device.id}
        return device, _made(Circuit, circuit, line)

    def _into_spaces(self, device: Device, further: list[int] | None, line: int) -> None:
        path = f"line {line}, space"
        if device.space is None:
            raise BadInput([Issue("missing", path, "no space is written.", "Write the number of its space.")])
        spots = spots_from(self.bus, device.poles, Spot(device.space, device.half))
        if len(spots) < device.poles:
            reason = f"from space {device.space} on, the bus does not go on for {device.poles} poles."
            raise BadInput([Issue("off_bus", path, reason, "Correct the number, or the poles.")])
        if further and [spot.space for spot in spots[1:]] != further:
            follows = ", ".join(str(spot.space) for spot in spots[1:])
            reason = f"below space {device.space} comes {follows}, not {', '.join(map(str, further))}."
            raise BadInput([Issue("not_below", path, reason, "Poles of one breaker stand one below the other.")])
        for spot in spots:
            there = next((name for other, name in self.taken if spot.overlaps(other)), None)
            if there is not None:
                reason = f"space {spot.space} is taken by {there}."
                raise BadInput([Issue("taken", path, reason, "Correct one of the two numbers.")])
        self.taken += [(spot, device.name or f"line {line}") for spot in spots]


def _made(model: type[Any], values: dict[str, Any], line: int) -> Any:
    try:
        return model.model_validate(values)
    except ValidationError as failure:
        raise BadInput([_issue(error, line) for error in failure.errors()]) from None


def _issue(error: Any, line: int) -> Issue:
    column = str(error["loc"][0]) if error["loc"] else ""
    if error["type"] == "literal_error":
        return Issue(
            "bad_value", f"line {line}, {column}", "the word is not known.", f"Write {error['ctx']['expected']}."
        )
    return Issue("bad_value", f"line {line}, {column}", f"{error['msg'].lower()}.", "Correct the cell.")
