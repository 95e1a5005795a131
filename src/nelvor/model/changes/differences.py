"""What differs between two documents, or between the two states of one: per thing and property."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from nelvor.model.base import Thing
from nelvor.model.document import LISTS, Document
from nelvor.model.resolve import resolve

SETTINGS = "settings"


@dataclass(frozen=True)
class Difference:
    """One property (or a whole thing, with field ``""``) that differs: value before and after."""

    list: str
    id: str
    name: str
    field: str
    before: Any
    after: Any


def _by_id(document: Document, list_name: str) -> dict[str, Thing]:
    return {thing.id: thing for thing in getattr(document, list_name)}


def between(before: Document, after: Document) -> list[Difference]:
    """Return the differences from one document to another, in document order."""
    found = _setting_differences(before, after)
    for list_name in LISTS:
        old, new = _by_id(before, list_name), _by_id(after, list_name)
        for thing_id in [*old, *(thing_id for thing_id in new if thing_id not in old)]:
            found += _thing_differences(list_name, thing_id, old.get(thing_id), new.get(thing_id))
    return found


def proposal(document: Document) -> list[Difference]:
    """Return what the proposal changes of what stands."""
    states = (resolve(document, "existing"), resolve(document, "proposed"))
    return [
        difference
        for difference in between(*states)
        if difference.field not in Thing.OWN_FIELDS or difference.field == ""
    ]


def _setting_differences(before: Document, after: Document) -> list[Difference]:
    found = [
        Difference("", "", "Job", field, getattr(before, field), getattr(after, field))
        for field in ("name", "note")
        if getattr(before, field) != getattr(after, field)
    ]
    old, new = before.settings.model_dump(), after.settings.model_dump()
    found += [
        Difference(SETTINGS, "", "Job settings", field, old[field], new[field])
        for field in old
        if old[field] != new[field]
    ]
    return found


def _thing_differences(list_name: str, thing_id: str, old: Thing | None, new: Thing | None) -> list[Difference]:
    if old is None or new is None:
        thing = new or old
        assert thing is not None
        return [
            Difference(
                list_name,
                thing_id,
                thing_name(thing),
                "",
                None if old is None else old.model_dump(),
                None if new is None else new.model_dump(),
            )
        ]
    before, after = old.model_dump(), new.model_dump()
    return [
        Difference(list_name, thing_id, thing_name(new), field, before[field], after[field])
        for field in before
        if before[field] != after[field]
    ]


def thing_name(thing: Thing) -> str:
    """Return the name a person would know the thing by."""
    return getattr(thing, "name", "") or thing.id
