"""A job that was read once and is then edited: only what an edit touches is read again."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from pydantic import ValidationError

from nelvor.errors import BadInput, Issue
from nelvor.model.base import MOST_THINGS, Thing
from nelvor.model.changes.operations import Operation, apply
from nelvor.model.document import LISTS, Document, Settings
from nelvor.model.parse import issue_of, issues_of, proposal_issues
from nelvor.model.references import reference_issues

Json = dict[str, Any]


@dataclass(frozen=True)
class KnownJob:
    """A job as JSON and as a document, with each thing found by its piece of JSON."""

    value: Json
    document: Document
    things: dict[int, Thing] = field(repr=False)

    @classmethod
    def of(cls, document: Document) -> KnownJob:
        """Return a job that was read, ready to be edited."""
        value = document.model_dump(mode="json")
        pairs = [
            (piece, thing) for name in LISTS for piece, thing in zip(value[name], getattr(document, name), strict=True)
        ]
        return cls(value, document, {id(piece): thing for piece, thing in pairs})

    def edited(self, operations: list[Operation]) -> Document:
        """Return the document with operations carried out. Things that they leave alone are not read again.

        Raises:
            BadInput: an operation names nothing, or leaves a document that is not valid.
        """
        if not operations:
            return self.document
        value = apply(self.value, operations)
        lists = {name: self._list(name, value) for name in LISTS}
        try:
            settings = self.document.settings
            if value["settings"] is not self.value["settings"]:
                settings = Settings.model_validate(value["settings"])
            update = {"name": value["name"], "note": value["note"], "settings": settings, **lists}
            document = self.document.model_copy(update=update)
            Document.model_validate(
                {**document.model_dump(include={"format", "version", "name", "note"}), "settings": value["settings"]}
            )
        except ValidationError as failure:
            raise BadInput(issues_of(failure, value)) from None
        issues = proposal_issues(document, self.document) or reference_issues(document)
        if issues:
            raise BadInput(list(dict.fromkeys(issues))[:100])
        return document

    def _list(self, name: str, value: Json) -> list[Thing]:
        pieces = value.get(name, [])
        if pieces is self.value[name]:
            found: list[Thing] = getattr(self.document, name)
            return found
        if len(pieces) > MOST_THINGS:
            raise BadInput(
                [Issue("too_long", name, f"there are more than {MOST_THINGS}.", f"Keep at most {MOST_THINGS}.")]
            )
        return [self.things.get(id(piece)) or self._read(name, piece, value) for piece in pieces]

    def _read(self, name: str, piece: Json, value: Json) -> Thing:
        try:
            return LISTS[name].model_validate(piece)
        except ValidationError as failure:
            located = [{**error, "loc": (name, str(piece.get("id", "?")), *error["loc"])} for error in failure.errors()]
            raise BadInput([issue_of("", error) for error in located]) from None
