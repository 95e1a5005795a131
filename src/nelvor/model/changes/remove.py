"""Taking a thing out: what goes along because it cannot be without it, and what is only set loose.

The interface holds the same in TypeScript; shared fixtures hold the two together.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from typing import Any

from nelvor.model.changes.operations import Delete, Drop, Operation, Put
from nelvor.model.document import LISTS
from nelvor.model.references import REFERENCES
from nelvor.model.resolve import State

Json = dict[str, Any]
Named = tuple[str, Json]


@dataclass(frozen=True)
class Loosened:
    """A property that no longer names what is taken out: emptied, or back to its existing value."""

    list: str
    id: str
    field: str


@dataclass(frozen=True)
class Removal:
    """What taking a thing out means: the things that go (itself first), those set loose, and the operations."""

    gone: tuple[tuple[str, str], ...]
    loose: tuple[Loosened, ...]
    operations: tuple[Operation, ...]


def removal(job: Json, state: State, list_name: str, thing_id: str) -> Removal:
    """Return what it means to take a thing out of a state of a JSON job.

    In the existing state things are deleted; in the proposed one what stands is marked as removed, and what
    comes with the proposal is deleted.
    """
    naming = _naming(job, state)
    first = [(name, thing) for name, thing in _things(job) if name == list_name and thing["id"] == thing_id]
    gone = {thing["id"]: (name, thing, _way(thing, state)) for name, thing in first}
    standing = {thing["id"] for _, thing in _things(job) if state == "existing" or thing.get("standing") != "removed"}
    growing = bool(gone)
    while growing:
        falling = [
            (name, thing)
            for item_id in gone
            for name, thing, field, side in naming[item_id]
            if thing["id"] not in gone and _falls(name, thing, field, side, standing - gone.keys())
        ]
        gone |= {thing["id"]: (name, thing, _way(thing, state)) for name, thing in falling}
        growing = bool(falling)
    _delete_what_rests_on_deleted(naming, gone)
    deleted = {item_id for item_id, (_, _, way) in gone.items() if way == "delete"}
    loose, loosening = _loosened(naming, gone, deleted)
    taking = [_operation(name, thing, way) for name, thing, way in reversed(gone.values())]
    return Removal(
        tuple((name, item_id) for item_id, (name, _, _) in gone.items()), tuple(loose), (*loosening, *taking)
    )


def _things(job: Json) -> list[Named]:
    return [(name, thing) for name in LISTS for thing in job.get(name, [])]


def _falls(list_name: str, thing: Json, field: str, side: str, standing: set[str]) -> bool:
    """Tell whether a thing goes with what it names; with a proposed value it goes back to the existing one if it can."""
    if REFERENCES[list_name][field].kind != "owning":
        return False
    return side == "existing" or thing.get(field) not in standing


def _naming(job: Json, state: State) -> dict[str, list[tuple[str, Json, str, str]]]:
    """Return, by id, the things that name it: (list, thing, field, "existing" or "proposed").

    A proposed value counts in the proposed state in place of the existing one. In the existing state both count,
    since a thing deleted there is gone from both.
    """
    found: dict[str, list[tuple[str, Json, str, str]]] = defaultdict(list)
    for name, thing in _things(job):
        for field in REFERENCES.get(name, {}):
            proposed = thing.get("proposed") or {}
            if field in proposed and proposed[field] is not None:
                found[proposed[field]].append((name, thing, field, "proposed"))
            if thing.get(field) is not None and (state == "existing" or field not in proposed):
                found[thing[field]].append((name, thing, field, "existing"))
    return found


def _way(thing: Json, state: State) -> str:
    return "delete" if state == "existing" or thing.get("standing") == "added" else "mark"


def _delete_what_rests_on_deleted(
    naming: dict[str, list[tuple[str, Json, str, str]]], gone: dict[str, tuple[str, Json, str]]
) -> None:
    """What cannot be without a deleted thing is deleted too: a mark alone would leave it naming nothing."""
    waiting = [item_id for item_id, (_, _, way) in gone.items() if way == "delete"]
    while waiting:
        for name, thing, field, side in naming[waiting.pop()]:
            rests = side == "existing" and REFERENCES[name][field].kind == "owning"
            if rests and thing["id"] in gone and gone[thing["id"]][2] != "delete":
                gone[thing["id"]] = (name, thing, "delete")
                waiting.append(thing["id"])


def _operation(list_name: str, thing: Json, way: str) -> Operation:
    if way == "delete":
        return Delete(list=list_name, id=thing["id"])
    return Put(list=list_name, id=thing["id"], field="standing", value="removed")


def _loosened(
    naming: dict[str, list[tuple[str, Json, str, str]]], gone: dict[str, tuple[str, Json, str]], deleted: set[str]
) -> tuple[list[Loosened], list[Operation]]:
    loose, operations = [], []
    for item_id, (_, _, way) in gone.items():
        for name, thing, field, side in naming[item_id]:
            if thing["id"] not in gone:
                loose.append(Loosened(name, thing["id"], field))
            elif way == "mark" or thing["id"] in deleted:
                continue
            marked_only = way == "mark" and side == "existing" and thing.get("standing") != "added"
            if side == "proposed":
                operations.append(_back(name, thing, field, deleted))
            else:
                operations.append(Put(list=name, id=thing["id"], field=field, value=None, proposed=marked_only))
    return loose, operations


def _back(list_name: str, thing: Json, field: str, deleted: set[str]) -> Operation:
    """A proposed value is taken back where the existing one can stand; else it becomes empty."""
    if thing.get(field) in deleted:
        return Put(list=list_name, id=thing["id"], field=field, value=None, proposed=True)
    return Drop(list=list_name, id=thing["id"], field=field)
