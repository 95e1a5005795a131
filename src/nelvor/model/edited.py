"""A job that was read once and is then edited: only what an edit touches is read again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from pydantic import ValidationError

from nelvor.errors import BadInput, Issue
from nelvor.model.base import MOST_THINGS, Thing
from nelvor.model.changes.operations import Operation, apply
from nelvor.model.crowding import crowding_issues
from nelvor.model.document import LISTS, VERSION, Document
from nelvor.model.parse import MOST_ISSUES_TOLD, issue_of, issues_of, parse_value, proposal_issues
from nelvor.model.references import reference_issues

Json = dict[str, Any]


@dataclass(frozen=True)
class KnownJob:
    """A job as JSON and as a document, with each thing found by its piece of JSON.

    ``things`` is keyed by the identity of pieces of ``value`` and of no others: only while a piece is held is its
    identity its own.
    """

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

    @classmethod
    def read(cls, value: Any) -> KnownJob:
        """Return the job of a JSON value, which is kept as it is written.

        Raises:
            BadInput: it is not valid.
        """
        document = parse_value(value)
        if value["version"] != VERSION:
            return cls.of(document)
        pairs = [(value.get(name, []), getattr(document, name)) for name in LISTS]
        return cls(value, document, {id(piece): thing for both in pairs for piece, thing in zip(*both, strict=True)})

    def edited(self, operations: Sequence[Operation]) -> KnownJob:
        """Return the job with operations carried out. Things that they leave alone are not read again.

        Raises:
            BadInput: an operation names nothing, or leaves a document that is not valid.
        """
        if not operations:
            return self
        value = apply(self.value, list(operations))
        return self._with(value, self.read_beside(value))

    def shares_lists_with(self, value: Any) -> bool:
        """Tell whether a JSON job is this one but for some of its lists."""
        if not isinstance(value, dict):
            return False
        return any(value.get(name) is self.value.get(name) for name in LISTS if self.value.get(name))

    def read_beside(self, value: Json) -> Document:
        """Return the document of a JSON job that shares pieces with this one. Those are not read again.

        Raises:
            BadInput: it is not valid.
        """
        lists = {name: self._list(name, value) for name in LISTS}
        head = _head(value)
        if head["settings"] == self.document.settings:
            head["settings"] = self.document.settings
        document = self.document.model_copy(update={**head, **lists})
        before = self.document
        issues = (
            proposal_issues(document, before) or reference_issues(document, before) or crowding_issues(document, before)
        )
        if issues:
            raise BadInput(list(dict.fromkeys(issues))[:MOST_ISSUES_TOLD])
        return document

    def _with(self, value: Json, document: Document) -> KnownJob:
        """Return the edited job; things that were read anew are written as they were understood."""
        things = dict(self.things)
        written = {**value, **_head_written(document)}
        for name in LISTS:
            if value.get(name) is self.value.get(name):
                continue
            for piece in self.value.get(name, []):
                things.pop(id(piece), None)
            pieces = []
            for piece, thing in zip(value.get(name, []), getattr(document, name), strict=True):
                known = piece if id(piece) in self.things else thing.model_dump(mode="json")
                things[id(known)] = thing
                pieces.append(known)
            written[name] = pieces
        return KnownJob(written, document, things)

    def _list(self, name: str, value: Json) -> list[Thing]:
        pieces = value.get(name, [])
        if pieces is self.value.get(name):
            found: list[Thing] = getattr(self.document, name)
            return found
        if len(pieces) > MOST_THINGS:
            raise BadInput(
                [Issue("too_long", name, f"there are more than {MOST_THINGS}.", f"Keep at most {MOST_THINGS}.")]
            )
        return [self.things.get(id(piece)) or _read(name, piece) for piece in pieces]


def _head(value: Json) -> dict[str, Any]:
    """Return the job's own properties and its settings, read."""
    try:
        head = Document.model_validate({name: part for name, part in value.items() if name not in LISTS})
    except ValidationError as failure:
        raise BadInput(issues_of(failure, value)) from None
    return {"name": head.name, "note": head.note, "settings": head.settings}


def _head_written(document: Document) -> Json:
    return {"name": document.name, "note": document.note, "settings": document.settings.model_dump(mode="json")}


def _read(name: str, piece: Json) -> Thing:
    try:
        return LISTS[name].model_validate(piece)
    except ValidationError as failure:
        located = [{**error, "loc": (name, str(piece.get("id", "?")), *error["loc"])} for error in failure.errors()]
        raise BadInput([issue_of("", error) for error in located]) from None
