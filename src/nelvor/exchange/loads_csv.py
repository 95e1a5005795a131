"""Load lists as CSV: written without loss, read or pasted with every fault named by line and column."""

from __future__ import annotations

import csv
import io
import re
from collections import defaultdict
from typing import Any, get_args

from pydantic import ValidationError

from nelvor.errors import BadInput, Issue
from nelvor.exchange.cells import as_written, harmless
from nelvor.model.changes.ids import FreeIds, taken_ids
from nelvor.model.document import Document
from nelvor.model.new_loads import NEW_LOADS, category_of, plain, unit_of
from nelvor.model.things import Device, Load
from nelvor.model.vocabulary import AmountUnit, Connection, LoadCategory, Occupancy, SpaceKind

COLUMNS = (
    "panel",
    "circuit",
    "name",
    "category",
    "amount",
    "unit",
    "quantity",
    "volts",
    "connection",
    "three_phase",
    "continuous",
    "neutral_used",
    "dwelling_unit",
    "space_kind",
    "occupancy",
    "locked_out",
    "load_managed",
    "motor_driven",
    "fastened_in_place",
    "frame_bonded",
    "overload_protected",
    "runs_apart",
    "without_diversity",
    "state",
)
NUMBERS = frozenset({"amount", "volts"})
WHOLE_NUMBERS = frozenset({"quantity"})
YES_NO = frozenset(
    {"three_phase", "continuous", "neutral_used", "locked_out", "load_managed", "motor_driven", "without_diversity"}
    | {"frame_bonded", "overload_protected", "fastened_in_place"}
)
HEADINGS = {
    **dict.fromkeys(("load", "item", "description", "appliance"), "name"),
    **dict.fromkeys(("kind", "type"), "category"),
    **dict.fromkeys(("size", "rating", "value"), "amount"),
    **dict.fromkeys(("qty", "pieces", "count", "number", "no"), "quantity"),
    **dict.fromkeys(("voltage", "v"), "volts"),
    **dict.fromkeys(("on", "leg", "legs"), "connection"),
    **dict.fromkeys(("cont", "continuous load"), "continuous"),
    **dict.fromkeys(("space", "breaker"), "circuit"),
    "unit of measure": "unit",
    "dwelling": "dwelling_unit",
}
"""Further words for the columns, as people write them."""

CHOICES: dict[str, tuple[str, ...]] = {
    "space_kind": get_args(SpaceKind),
    "occupancy": get_args(Occupancy),
    "connection": get_args(Connection),
}
CONNECTION_WORDS = {"l1": "L1-N", "l2": "L2-N", "l3": "L3-N", "3 phase": "three_phase"}
COUNTED: frozenset[AmountUnit] = frozenset({"ft2", "circuits", "ft"})
"""Units that a kind of load has and no other: where such a kind is told without a unit, it is meant."""

LEAST_PLAUSIBLE_VA = 100
"""An amount below it, of a kind that is told in kW, hp or A, was hardly meant in VA."""

WITH_UNIT = re.compile(r"([\d.,\s\u202f]*\d)\s*([^\d\s.,].*)")
NAMED = {"panel": ("enclosure_id", "enclosures"), "dwelling_unit": ("dwelling_unit_id", "dwelling_units")}
REFERRING = {"circuit": "device_id"} | {column: field for column, (field, _) in NAMED.items()}
WORDS = {"yes": True, "true": True, "1": True, "x": True, "no": False, "false": False, "0": False}
HALVES = {"first": "a", "second": "b"}
MOST_LINES = 10_000
MOST_TEXT = 2_000_000
MOST_ISSUES = 100
MOST_TOLD = 1_000


def write_loads(document: Document) -> str:
    """Return the loads of a resolved document as CSV, panels and dwelling units by their names."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    names = {item.id: item.name or item.id for item in document.enclosures}
    names |= {item.id: _circuit_words(item) for item in document.devices}
    names |= {item.id: item.name or item.id for item in document.dwelling_units}
    for load in document.loads:
        writer.writerow([_cell(load, column, names) for column in COLUMNS])
    return out.getvalue()


def _circuit_words(device: Device) -> str:
    """A circuit goes by its space, as on the door; one without a space by its name."""
    if device.space is None:
        return device.name or device.id
    return f"{device.space}{HALVES[device.half] if device.half else ''}"


def _cell(load: Load, column: str, names: dict[str, str]) -> str:
    if column in REFERRING:
        target = getattr(load, REFERRING[column])
        return harmless(names.get(target, target or ""))
    if column == "state":
        return "existing" if load.standing == "existing" else "proposed"
    value = getattr(load, column)
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return str(value) if isinstance(value, (int, float)) else harmless(str(value))


def read_loads(
    text: str, document: Document, default_panel: str | None = None, default_state: str = "existing"
) -> list[Load]:
    """Return the loads of a list: CSV or a range pasted from a spreadsheet, its first line naming the columns.

    Panels and dwelling units go by id or name; a load that names no panel goes to ``default_panel``, one
    without a state to ``default_state``.

    Raises:
        BadInput: with each fault by line and column; nothing is taken then.
    """
    rows = _rows(text)
    ids, known = FreeIds(taken_ids(document.things())), _Names(document)
    issues: list[Issue] = []
    loads: list[Load] = []
    for number, row in rows:
        try:
            filled = {**row, "state": row.get("state") or default_state}
            loads.append(_load(filled, number, known, default_panel, ids))
        except BadInput as failure:
            issues += failure.issues
        if len(issues) >= MOST_ISSUES:
            break
    if issues:
        raise BadInput(issues[:MOST_ISSUES])
    return loads


class _Names:
    """The things of a job that a list may name, by their ids and names, and how they are told."""

    def __init__(self, document: Document) -> None:
        self._found: dict[str, dict[str, set[str]]] = {}
        self.told: dict[str, str] = {}
        for column, (_, list_name) in NAMED.items():
            things = getattr(document, list_name)
            by_word: dict[str, set[str]] = defaultdict(set)
            for item in things:
                by_word[item.id].add(item.id)
                by_word[item.name].add(item.id)
            self._found[column] = by_word
            self.told[column] = ", ".join(item.name or item.id for item in things) or "none yet"

        self._circuits: dict[tuple[str, str], set[str]] = defaultdict(set)
        for device in document.devices:
            for word in (_circuit_words(device), device.name, device.id):
                self._circuits[device.enclosure_id, word].add(device.id)

        units, dwellings = document.dwelling_units, {item.id for item in document.buildings if item.use == "dwelling"}
        self._only_unit = units[0].id if len(units) == 1 else None
        self._in_dwelling = {item.id for item in document.enclosures if item.building_id in dwellings}

    def unit_of(self, panel: str) -> str | None:
        """Return the dwelling unit that a load of a panel is taken for: the only one, in a dwelling's panel."""
        return self._only_unit if panel in self._in_dwelling else None

    def circuit(self, panel: str, text: str, line: int) -> str:
        """Return the breaker of a panel by its space, its name or its id.

        Raises:
            BadInput: there is none, or the words stand for several.
        """
        found = self._circuits.get((panel, text), set())
        if len(found) == 1:
            return next(iter(found))
        reason = "the words stand for several breakers" if found else f"the panel has no breaker {text[:60]!r}"
        return str(_refuse("unknown_name", f"line {line}, circuit", f"{reason}.", "Write the number of its space."))

    def ids(self, column: str, text: str) -> set[str]:
        return self._found[column].get(text, set())


def _rows(text: str) -> list[tuple[int, dict[str, str]]]:
    if len(text) > MOST_TEXT:
        _refuse("too_large", "", "the list is too long.", "Read it in parts.")
    text = text.lstrip("\ufeff")
    head = text.split("\n", 1)[0]
    delimiter = max(("\t", ";", ","), key=head.count)
    try:
        lines = list(csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True))
    except csv.Error as failure:
        _refuse("not_csv", "", f"it is no table: {failure}.", "Check the quotation marks.")
    if not lines:
        _refuse("empty", "", "the list is empty.", f"Its first line names the columns: {', '.join(COLUMNS)}.")
    names = [_column(cell) for cell in lines[0]]
    unknown = [name for name in names if name not in COLUMNS]
    if unknown or len(set(names)) != len(names) or "amount" not in names:
        what = f"the column {unknown[0][:60]!r} is not known" if unknown else "columns are missing or stand twice"
        _refuse("columns", "line 1", f"{what}.", f"Known columns: {', '.join(COLUMNS)}; amount is needed.")
    found = []
    for number, cells in enumerate(lines[1:], 2):
        if not any(cell.strip() for cell in cells):
            continue
        if len(cells) > len(names):
            _refuse("columns", f"line {number}", "there are more cells than columns.", "Take the extra cells out.")
        found.append((number, dict(zip(names, (as_written(cell.strip()) for cell in cells), strict=False))))
    if len(found) > MOST_LINES:
        _refuse("too_large", "", f"more than {MOST_LINES} loads.", "Read it in parts.")
    return found


def _column(heading: str) -> str:
    words = plain(heading)
    return HEADINGS.get(words, words.replace(" ", "_"))


def _refuse(code: str, path: str, reason: str, remedy: str) -> Any:
    raise BadInput([Issue(code, path, reason, remedy)])


def _load(row: dict[str, str], line: int, known: _Names, default_panel: str | None, ids: FreeIds) -> Load:
    values: dict[str, Any] = {"id": ids.take(_wish(row.get("name", "")))}
    panel = row.get("panel", "")
    values["enclosure_id"] = _named("panel", panel, line, known) if panel else default_panel
    if values["enclosure_id"] is None:
        _refuse("missing", f"line {line}, panel", "it is not said where the load stands.", "Name a panel.")
    if row.get("dwelling_unit"):
        values["dwelling_unit_id"] = _named("dwelling_unit", row["dwelling_unit"], line, known)
    elif "dwelling_unit" not in row:
        values["dwelling_unit_id"] = known.unit_of(str(values["enclosure_id"]))
    if row.get("circuit"):
        values["device_id"] = known.circuit(str(values["enclosure_id"]), row["circuit"], line)
    values["standing"] = "existing" if row["state"] == "existing" else "added"
    for column, cell in _as_meant(row, line).items():
        if column in REFERRING or column == "state" or (cell == "" and column != "name"):
            continue
        values[column] = _value(column, cell, line)
    try:
        return Load.model_validate(values)
    except ValidationError as failure:
        raise BadInput([_issue(error, line) for error in failure.errors()]) from None


def _as_meant(row: dict[str, str], line: int) -> dict[str, str]:
    """Return a row with the words of the trade in it as the document has them.

    A kind that is not told is that of the name where the whole name is a word for one; a unit may stand behind its number.
    """
    row = dict(row)
    written = WITH_UNIT.fullmatch(row.get("amount", "").strip())
    if written and not row.get("unit"):
        row["amount"], row["unit"] = written[1], written[2]
    row["volts"] = row.get("volts", "").strip().removesuffix("V").removesuffix("v").strip()
    kind = row.get("category") or re.sub(r"[\s#]*\d+$", "", row.get("name", ""))
    category = category_of(kind)
    if category:
        row["category"] = category
        if not row.get("unit"):
            row["unit"] = _unit_meant(category, row.get("amount", ""), line)
    if row.get("unit"):
        row["unit"] = unit_of(row["unit"]) or row["unit"]
    for column, choices in CHOICES.items():
        words = plain(row.get(column, ""))
        by_words = {plain(choice): choice for choice in choices} | (CONNECTION_WORDS if column == "connection" else {})
        row[column] = by_words.get(words, row.get(column, ""))
    return row


def _unit_meant(category: LoadCategory, amount: str, line: int) -> str:
    """Return the unit of an amount that is told without one; "" for the usual VA.

    Raises:
        BadInput: so small an amount of what is told in kW, hp or A by custom: as VA it would be a load that counts for nothing.
    """
    usual = NEW_LOADS[category].unit
    if usual in COUNTED:
        return usual
    if usual != "VA" and amount and 0 < float(_value("amount", amount, line)) < LEAST_PLAUSIBLE_VA:
        _refuse("missing", f"line {line}, unit", f"{amount[:40]} of what is not said.", f"Write {amount[:40]} {usual}.")
    return ""


def _issue(error: Any, line: int) -> Issue:
    column = str(error["loc"][0]) if error["loc"] else ""
    if error["type"] == "literal_error":
        return Issue(
            "bad_value", f"line {line}, {column}", "the word is not known.", f"Write {error['ctx']['expected']}."
        )
    return Issue("bad_value", f"line {line}, {column}", f"{error['msg'].lower()}.", "Correct the cell.")


def _value(column: str, cell: str, line: int) -> Any:
    if column in NUMBERS or column in WHOLE_NUMBERS:
        plain = cell.replace(" ", "").replace("\u202f", "")
        try:
            return (
                int(plain)
                if column in WHOLE_NUMBERS
                else float(plain.replace(",", ".") if "." not in plain else plain.replace(",", ""))
            )
        except ValueError:
            _refuse("not_a_number", f"line {line}, {column}", f"{cell[:40]!r} is no number.", "Write a number.")
    if column in YES_NO:
        if cell.lower() not in WORDS:
            _refuse("bad_value", f"line {line}, {column}", f"{cell[:40]!r} is neither yes nor no.", "Write yes or no.")
        return WORDS[cell.lower()]
    return cell


def _named(column: str, text: str, line: int, known: _Names) -> str:
    found = known.ids(column, text)
    if len(found) == 1:
        return next(iter(found))
    reason = "the name stands for several" if found else f"{text[:60]!r} is not in this job"
    return str(
        _refuse("unknown_name", f"line {line}, {column}", f"{reason}.", f"Known: {known.told[column][:MOST_TOLD]}.")
    )


def _wish(name: str) -> str:
    stem = "".join(letter if letter.isascii() and letter.isalnum() else "-" for letter in name.lower()).strip("-")[:30]
    return stem or "load"
