"""The rules of one edition with a job's amendments: resolved once at the edge and handed inward."""

from __future__ import annotations

import csv
import json
from collections.abc import Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cache, cached_property
from pathlib import Path
from typing import NamedTuple

from nelvor.errors import MissingFigure, RulebookBroken, UnknownEdition
from nelvor.model.things import Amendment
from nelvor.rulebook.ladder import Ladder
from nelvor.rulebook.table import Row, Table, cell_number, read_table

DATA = Path(__file__).parent / "data"
NOT_VERIFIED = "section not verified"


@dataclass(frozen=True)
class Parameter:
    """A constant of the code with its unit, clause and the editions it holds for."""

    key: str
    value: str
    unit: str
    clause: str
    editions: tuple[str, ...]
    source: str

    @cached_property
    def number(self) -> Fraction:
        """The constant as an exact number; asked of one that is a number."""
        return Fraction(self.value)


class CitedCell(NamedTuple):
    """A number of a table with its unit, the clause that it belongs to, and where it stands."""

    value: Fraction
    unit: str
    clause: str
    source: str


@dataclass(frozen=True)
class AmendmentKind:
    """What a local amendment may touch and how."""

    key: str
    title: str
    unit: str
    actions: tuple[str, ...]


@dataclass(frozen=True)
class Rulebook:
    """Everything read from the data files, for all editions."""

    version: str
    editions: tuple[str, ...]
    tables: dict[str, Table]
    citations: dict[str, dict[str, str]]
    parameters: tuple[Parameter, ...]
    amendment_kinds: dict[str, AmendmentKind]

    def resolve(self, edition: str, amendments: Sequence[Amendment] = ()) -> Rules:
        """Return the rules of one edition with the amendments applied.

        Raises:
            UnknownEdition: the rulebook holds no such edition.
        """
        if edition not in self.editions:
            raise UnknownEdition(edition, list(self.editions))
        plain = self._plain[edition]
        if not amendments:
            return plain
        known = tuple(item for item in amendments if self._fits(item))
        unknown = tuple(item for item in amendments if not self._fits(item))
        return Rules(self, edition, plain.parameters, known, unknown)

    @cached_property
    def _plain(self) -> dict[str, Rules]:
        """The rules of each edition without amendments; what is read of them once is read for all jobs."""
        return {edition: Rules(self, edition, self._parameters_of(edition), (), ()) for edition in self.editions}

    def _parameters_of(self, edition: str) -> dict[str, Parameter]:
        return {entry.key: entry for entry in self.parameters if edition in entry.editions}

    def _fits(self, amendment: Amendment) -> bool:
        kind = self.amendment_kinds.get(amendment.key)
        if kind is None or amendment.action not in kind.actions:
            return False
        return amendment.action in ("forbid", "require") or amendment.value is not None


@dataclass(frozen=True, eq=False)
class Rules:
    """One edition, frozen: its tables, constants, sections and the amendments in force. Each is itself alone."""

    book: Rulebook = field(repr=False)
    edition: str
    parameters: dict[str, Parameter] = field(repr=False)
    amendments: tuple[Amendment, ...]
    amendments_not_understood: tuple[Amendment, ...]

    def section(self, clause: str) -> str:
        """Return the section of a clause in this edition, or that it is not verified."""
        return self.sections[clause]

    @cached_property
    def sections(self) -> dict[str, str]:
        """The section of every clause in this edition; of no clause none."""
        of_clause = {clause: of[self.edition] or NOT_VERIFIED for clause, of in self.book.citations.items()}
        return {"": "", **of_clause}

    def has_section(self, clause: str) -> bool:
        """Tell whether this edition has a section for a clause."""
        return bool(self.book.citations[clause][self.edition])

    def table(self, name: str) -> Table:
        """Return a table as it holds in this edition.

        Where an edition prints a table differently, its own version stands under the name with the edition.

        Raises:
            MissingFigure: the edition has no such table.
        """
        table = self.book.tables[name]
        if self.edition not in table.editions:
            table = self.book.tables.get(f"{name}_{self.edition}", table)
        if self.edition not in table.editions:
            raise MissingFigure(
                table.title or self.section(table.clause),
                "any size",
                self.edition,
                f"editions {', '.join(table.editions)}",
            )
        return table

    def table_title(self, name: str) -> str:
        """Return what the table is called in this edition."""
        table = self.book.tables[name]
        return table.title or self.section(table.clause)

    def lighting_slices(self, occupancy: str) -> list[Row]:
        """Return the slices of the lighting demand table for an occupancy, the lowest first.

        Raises:
            MissingFigure: the edition names no such occupancy.
        """
        rows = self.table("lighting_demand").rows
        found = [row for row in rows if row["occupancy"] == occupancy]
        if not found:
            known = ", ".join(dict.fromkeys(row["occupancy"] for row in rows))
            raise MissingFigure(self.table_title("lighting_demand"), occupancy, self.edition, known)
        return found

    def row(self, name: str, *key: str) -> Row:
        """Return the row with these key cells.

        Raises:
            MissingFigure: there is none.
        """
        table = self.table(name)
        row = table.find(key)
        if row is None:
            known = ", ".join(dict.fromkeys(" ".join(other[column] for column in table.key) for other in table.rows))
            raise MissingFigure(self.table_title(name), " ".join(key), self.edition, known)
        return row

    def cell(self, name: str, key: tuple[str, ...], column: str) -> Fraction:
        """Return one number of a keyed table.

        Raises:
            MissingFigure: no such row, or the cell is blank.
        """
        text = self.row(name, *key)[column]
        if text == "":
            raise MissingFigure(
                self.table_title(name), f"{' '.join(key)} in column {column}", self.edition, "other sizes or columns"
            )
        return cell_number(text)

    def cited_cell(self, name: str, key: tuple[str, ...], column: str) -> CitedCell:
        """Return one number of a keyed table with what it is cited by; the same few cells are read again and again.

        Raises:
            MissingFigure: as ``cell``.
        """
        found = self._cited.get((name, key, column))
        if found is None:
            table = self.table(name)
            source = f"{self.table_title(name)}, {' '.join(key)}, {column.replace('_', ' ')}"
            found = CitedCell(self.cell(name, key, column), table.unit_of(column), table.clause, source)
            self._cited[name, key, column] = found
        return found

    @cached_property
    def _cited(self) -> dict[tuple[str, tuple[str, ...], str], CitedCell]:
        return {}

    def band(self, name: str, value: Fraction) -> Row:
        """Return the row whose band holds the value.

        Raises:
            MissingFigure: the value lies outside the table.
        """
        table = self.table(name)
        row = table.find_band(value)
        if row is None:
            raise MissingFigure(
                self.table_title(name),
                f"{float(value):g}",
                self.edition,
                f"{table.band_to} {table.rows[0][table.band_to]} to {table.rows[-1][table.band_to]}",
            )
        return row

    def parameter(self, key: str) -> Parameter:
        """Return a constant of this edition.

        Raises:
            MissingFigure: the edition has none.
        """
        if key not in self.parameters:
            raise MissingFigure("the list of constants", key, self.edition, "other editions")
        return self.parameters[key]

    def standard_ratings(self, breakers_only: bool = True) -> Ladder:
        """Return the standard ampere ratings of 240.6(A), in order: of breakers, or with the fuses' own ones too."""
        return self._breaker_ratings if breakers_only else self._all_ratings

    def is_standard_rating(self, amperes: Fraction, breakers_only: bool = True) -> bool:
        """Tell whether amperes are one of the standard ratings."""
        return self.standard_ratings(breakers_only).reaching(amperes) == amperes

    @cached_property
    def _all_ratings(self) -> Ladder:
        return self.table("standard_rating").ladder("amps")

    @cached_property
    def _breaker_ratings(self) -> Ladder:
        rows = self.table("standard_rating").rows
        return Ladder(Fraction(row["amps"]) for row in rows if self.edition in row["breaker_editions"].split())

    def multi_outlet_ratings(self) -> Ladder:
        """Return the ratings that branch circuits with several receptacles may have, in order (210.18)."""
        return self.table("multi_outlet_rating").ladder("amps")

    def amended(self, key: str, *actions: str) -> list[Amendment]:
        """Return the amendments in force with this key and one of these actions."""
        return [item for item in self.amendments if item.key == key and item.action in actions]


def _read_rows(name: str) -> list[Row]:
    with (DATA / name).open(newline="", encoding="utf-8") as stream:
        return list(csv.DictReader(stream, strict=True))


def _read_citations(editions: Sequence[str]) -> dict[str, dict[str, str]]:
    citations: dict[str, dict[str, str]] = {}
    for row in _read_rows("citations.csv"):
        if row["key"] in citations:
            raise RulebookBroken(f"citations.csv: {row['key']} stands twice.")
        citations[row["key"]] = {edition: row[f"nec{edition}"] for edition in editions} | {"title": row["title"]}
    return citations


def _read_parameters(editions: Sequence[str], citations: dict[str, dict[str, str]]) -> tuple[Parameter, ...]:
    parameters = []
    seen: set[tuple[str, str]] = set()
    for row in _read_rows("parameters.csv"):
        held = tuple(row["editions"].split())
        for edition in held:
            if edition not in editions or (row["key"], edition) in seen:
                raise RulebookBroken(f"parameters.csv: {row['key']} names edition {edition} twice or wrongly.")
            seen.add((row["key"], edition))
        if row["clause"] not in citations:
            raise RulebookBroken(f"parameters.csv: {row['key']} cites the unknown clause {row['clause']}.")
        parameters.append(Parameter(row["key"], row["value"], row["unit"], row["clause"], held, row["source"]))
    return tuple(parameters)


@cache
def rulebook() -> Rulebook:
    """Return the rulebook of the data files, read and checked once.

    Raises:
        RulebookBroken: a data file contradicts itself.
    """
    manifest = json.loads((DATA / "manifest.json").read_text(encoding="utf-8"))
    editions = tuple(manifest["editions"])
    citations = _read_citations(editions)
    tables = {entry["name"]: read_table(DATA, entry) for entry in manifest["tables"]}
    for table in tables.values():
        if table.clause not in citations:
            raise RulebookBroken(f"{table.file}: cites the unknown clause {table.clause}.")
    kinds = {
        row["key"]: AmendmentKind(row["key"], row["title"], row["unit"], tuple(row["actions"].split()))
        for row in _read_rows("amendments.csv")
    }
    return Rulebook(
        manifest["rulebook_version"], editions, tables, citations, _read_parameters(editions, citations), kinds
    )
