"""Edits of a document as small invertible operations; mends use the same ones.

``put`` sets a property (of the existing state, or proposed), ``drop`` takes a proposed
property back, ``insert`` and ``delete`` add and remove whole things. Settings and the
job's own name are put with an empty list name.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from nelvor.errors import BadInput, Issue
from nelvor.model.base import Part
from nelvor.model.document import LISTS


class Put(Part):
    """Set one property of one thing; ``proposed`` writes it beside the existing value."""

    op: Literal["put"] = "put"
    list: str
    id: str
    field: str
    value: Any
    proposed: bool = False


class Drop(Part):
    """Take a proposed property back, so that the existing value stands."""

    op: Literal["drop"] = "drop"
    list: str
    id: str
    field: str


class Insert(Part):
    """Add a thing, at a place of its list or at its end."""

    op: Literal["insert"] = "insert"
    list: str
    thing: dict[str, Any]
    at: int | None = None


class Delete(Part):
    """Take a thing out of its list altogether."""

    op: Literal["delete"] = "delete"
    list: str
    id: str


class PutSetting(Part):
    """Set one of the job's settings, its name or its note."""

    op: Literal["setting"] = "setting"
    field: str
    value: Any


Operation = Annotated[Put | Drop | Insert | Delete | PutSetting, Field(discriminator="op")]


def _unknown(what: str) -> BadInput:
    return BadInput(
        [Issue("unknown_id", what, "the operation names something that is not in this job.", "Load the job again.")]
    )


def _place(value: dict[str, Any], list_name: str, thing_id: str) -> int:
    if list_name in LISTS:
        for place, thing in enumerate(value.get(list_name, [])):
            if thing["id"] == thing_id:
                return place
    raise _unknown(f"{list_name}.{thing_id}")


def apply(value: dict[str, Any], operations: list[Operation]) -> dict[str, Any]:
    """Return a new JSON document with the operations carried out in order.

    Raises:
        BadInput: an operation names a list or thing that is not there.
    """
    result = dict(value)
    for operation in operations:
        if isinstance(operation, PutSetting):
            if operation.field in ("name", "note"):
                result[operation.field] = operation.value
            else:
                result["settings"] = {**result["settings"], operation.field: operation.value}
            continue
        things = list(result.get(operation.list, []))
        if isinstance(operation, Insert):
            if operation.list not in LISTS:
                raise _unknown(operation.list)
            things.insert(len(things) if operation.at is None else operation.at, operation.thing)
        else:
            place = _place(result, operation.list, operation.id)
            if isinstance(operation, Delete):
                del things[place]
            else:
                things[place] = _changed(things[place], operation)
        result[operation.list] = things
    return result


def _changed(thing: dict[str, Any], operation: Put | Drop) -> dict[str, Any]:
    if isinstance(operation, Put) and not operation.proposed:
        return {**thing, operation.field: operation.value}
    proposed = dict(thing.get("proposed", {}))
    if isinstance(operation, Put):
        proposed[operation.field] = operation.value
    else:
        proposed.pop(operation.field, None)
    return {**thing, "proposed": proposed}
