"""Joining what two people changed since a common base, property by property.

What only one of them changed is taken. What both changed otherwise collides: the joined document keeps *theirs*, and
each collision carries the operations that would take *mine* instead. No rule of the code decides anything here.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Literal

from nelvor.model.changes.operations import Delete, Drop, Insert, Operation, Put, PutSetting, apply
from nelvor.model.changes.remove import removal
from nelvor.model.document import LISTS
from nelvor.model.references import REFERENCES

Json = dict[str, Any]
Side = Literal["existing", "proposed"]
MISSING = object()
OF_THE_JOB = ("name", "note")


@dataclass(frozen=True)
class Collision:
    """One property that both changed, or (field "") a thing that one took away and the other needs.

    Values are None where the thing or the proposed value is not there.
    """

    list: str
    id: str
    field: str
    side: Side
    base: Any
    mine: Any
    theirs: Any
    taking_mine: tuple[Operation, ...]


@dataclass(frozen=True)
class Joined:
    """The joined document, what collides in it, and the operations that lead from theirs to it."""

    document: Json
    collisions: tuple[Collision, ...]
    from_theirs: tuple[Operation, ...]


def join(base: Json, theirs: Json, mine: Json) -> Joined:
    """Return two later states of a JSON job joined over the base that both began from."""
    joined = {**theirs, **_joined_job(base, theirs, mine), "settings": _joined_settings(base, theirs, mine)}
    collisions = list(_job_collisions(base, theirs, mine))
    for list_name in LISTS:
        things, found = _joined_list(list_name, base, theirs, mine)
        joined[list_name] = things
        collisions += found
    joined, needed = _without_dangling(joined, theirs, mine)
    collisions += needed
    return Joined(joined, tuple(collisions), tuple(operations_between(theirs, joined)))


# -- the job and its settings --------------------------------------------------------------------


def _pick(base: Any, theirs: Any, mine: Any) -> tuple[Any, bool]:
    """Return what stands of three values, and whether both sides changed it to different ones."""
    if mine in (base, theirs):
        return theirs, False
    if theirs == base:
        return mine, False
    return theirs, True


def _joined_job(base: Json, theirs: Json, mine: Json) -> Json:
    return {name: _pick(base.get(name), theirs.get(name), mine.get(name))[0] for name in OF_THE_JOB}


def _joined_settings(base: Json, theirs: Json, mine: Json) -> Json:
    old, here, own = base["settings"], theirs["settings"], mine["settings"]
    return {name: _pick(old.get(name), here.get(name), own.get(name))[0] for name in {**here, **own}}


def _job_collisions(base: Json, theirs: Json, mine: Json) -> Iterator[Collision]:
    pairs = [("", name, base, theirs, mine) for name in OF_THE_JOB]
    pairs += [("settings", name, base["settings"], theirs["settings"], mine["settings"]) for name in mine["settings"]]
    for list_name, name, old, here, own in pairs:
        values = (old.get(name), here.get(name), own.get(name))
        if _pick(*values)[1]:
            taking = (PutSetting(field=name, value=values[2]),)
            yield Collision(list_name, "", name, "existing", values[0], values[2], values[1], taking)


# -- lists of things -----------------------------------------------------------------------------


def _by_id(job: Json, list_name: str) -> dict[str, Json]:
    return {thing["id"]: thing for thing in job.get(list_name, [])}


def _joined_list(list_name: str, base: Json, theirs: Json, mine: Json) -> tuple[list[Json], list[Collision]]:
    old, here, own = (_by_id(job, list_name) for job in (base, theirs, mine))
    things, collisions = [], []
    for thing_id in [*here, *(item for item in own if item not in here)]:
        was, there, thing = old.get(thing_id), here.get(thing_id), own.get(thing_id)
        if was is not None and there is not None and thing is not None:
            joined, found = _joined_thing(list_name, was, there, thing)
            things.append(joined)
            collisions += found
        elif was is None:
            things.append(there or thing or {})
            if there is not None and thing is not None and there != thing:
                collisions.append(_whole(list_name, thing_id, None, thing, there))
        elif there is not None:
            if there != was:
                things.append(there)
                collisions.append(_whole(list_name, thing_id, was, None, there))
        elif thing is not None and thing != was:
            collisions.append(_whole(list_name, thing_id, was, thing, None))
    return things, collisions


def _whole(list_name: str, thing_id: str, base: Json | None, mine: Json | None, theirs: Json | None) -> Collision:
    """A collision over a whole thing; what taking mine means is worked out on the joined document."""
    return Collision(list_name, thing_id, "", "existing", base, mine, theirs, ())


def _cells(thing: Json) -> dict[tuple[Side, str], Any]:
    found: dict[tuple[Side, str], Any] = {
        ("existing", name): value for name, value in thing.items() if name not in ("id", "proposed")
    }
    found |= {("proposed", name): value for name, value in (thing.get("proposed") or {}).items()}
    return found


def _joined_thing(list_name: str, base: Json, theirs: Json, mine: Json) -> tuple[Json, list[Collision]]:
    old, here, own = _cells(base), _cells(theirs), _cells(mine)
    joined: Json = {"id": theirs["id"]}
    proposed: Json = {}
    collisions = []
    for side, name in {**here, **own, **old}:
        values = tuple(cells.get((side, name), MISSING) for cells in (old, here, own))
        value, collides = _pick(*values)
        if value is not MISSING:
            (proposed if side == "proposed" else joined)[name] = value
        if collides:
            taking = _taking(list_name, theirs["id"], side, name, values[2])
            shown = [None if item is MISSING else item for item in values]
            collisions.append(Collision(list_name, theirs["id"], name, side, shown[0], shown[2], shown[1], (taking,)))
    joined["proposed"] = proposed
    return joined, collisions


def _taking(list_name: str, thing_id: str, side: Side, name: str, value: Any) -> Operation:
    if value is MISSING:
        return Drop(list=list_name, id=thing_id, field=name)
    return Put(list=list_name, id=thing_id, field=name, value=value, proposed=side == "proposed")


# -- what one took away and the other needs -------------------------------------------------------


def _without_dangling(joined: Json, theirs: Json, mine: Json) -> tuple[Json, list[Collision]]:
    """Bring back what theirs still holds and needs; take out of mine what rests on what theirs took away."""
    there = {name: _by_id(theirs, name) for name in LISTS}
    own = {name: _by_id(mine, name) for name in LISTS}
    needed: list[Collision] = []
    for _ in range(sum(len(things) for things in own.values()) + 1):
        lacking = next(_dangling(joined), None)
        if lacking is None:
            break
        home = next((name for name in lacking.lists if lacking.target in there[name]), "")
        if home:
            thing = there[home][lacking.target]
            joined = {**joined, home: [*joined.get(home, []), thing]}
            needed.append(_whole(home, lacking.target, thing, None, thing))
            continue
        joined = apply(joined, list(removal(joined, "existing", lacking.list, lacking.id).operations))
        home = next((name for name in lacking.lists if lacking.target in own[name]), lacking.list)
        lost = own[home].get(lacking.target)
        if lost is not None and not any(item.id == lacking.target for item in needed):
            needed.append(_whole(home, lacking.target, lost, lost, None))
    return joined, needed


@dataclass(frozen=True)
class _Lacking:
    list: str
    id: str
    target: str
    lists: tuple[str, ...]


def _dangling(job: Json) -> Iterator[_Lacking]:
    homes = {thing["id"]: name for name in LISTS for thing in job.get(name, [])}
    for name in LISTS:
        for thing in job.get(name, []):
            for field, reference in REFERENCES.get(name, {}).items():
                for target in (thing.get(field), (thing.get("proposed") or {}).get(field)):
                    if target is not None and homes.get(target) not in reference.lists:
                        yield _Lacking(name, thing["id"], target, reference.lists)


def taking_mine(joined: Json, mine: Json, collision: Collision) -> tuple[Operation, ...]:
    """Return the operations on the joined document that take mine where a collision kept theirs."""
    if collision.field or collision.taking_mine:
        return collision.taking_mine
    if collision.mine is None:
        return removal(joined, "existing", collision.list, collision.id).operations
    return tuple(_brought_back(joined, mine, collision.list, collision.id))


def _brought_back(joined: Json, mine: Json, list_name: str, thing_id: str) -> Iterator[Operation]:
    """Bring a thing back as mine has it, with all of mine that it needs and all that went with those."""
    there = {thing["id"] for name in LISTS for thing in joined.get(name, [])}
    own = {thing["id"]: (name, thing) for name in LISTS for thing in mine.get(name, [])}
    wanted: set[str] = set()
    waiting = [(list_name, thing_id)]
    while waiting:
        name, item_id = waiting.pop()
        if item_id in wanted or item_id not in own:
            continue
        along = [item for _, item in removal(mine, "existing", name, item_id).gone]
        wanted.update(along)
        needed = [target for item in along for target in _named_by(*own[item])]
        waiting += [(own[item][0], item) for item in needed if item not in there and item in own]
    for name in LISTS:
        for thing in mine.get(name, []):
            if thing["id"] in wanted and thing["id"] not in there:
                yield Insert(list=name, thing=thing)
    if thing_id in there:
        yield from _changes_of(list_name, _by_id(joined, list_name)[thing_id], own[thing_id][1])
    yield from _named_again(joined, mine, wanted - there)


def _named_again(joined: Json, mine: Json, back: set[str]) -> Iterator[Operation]:
    """What was set loose from things that come back names them again, where it names nothing else."""
    for name, fields in REFERENCES.items():
        here = _by_id(joined, name)
        for thing in mine.get(name, []):
            for field in fields:
                if thing.get(field) in back and thing["id"] in here and here[thing["id"]].get(field) is None:
                    yield Put(list=name, id=thing["id"], field=field, value=thing[field])


def _named_by(list_name: str, thing: Json) -> Iterator[str]:
    for field in REFERENCES.get(list_name, {}):
        for target in (thing.get(field), (thing.get("proposed") or {}).get(field)):
            if target is not None:
                yield target


# -- from one document to another ----------------------------------------------------------------


def operations_between(before: Json, after: Json) -> Iterator[Operation]:
    """Yield operations that lead from one JSON job to another, but for the order of lists."""
    for old, new, names in ((before, after, OF_THE_JOB), (before["settings"], after["settings"], after["settings"])):
        for name in names:
            if old.get(name) != new.get(name):
                yield PutSetting(field=name, value=new.get(name))
    for list_name in LISTS:
        there = _by_id(before, list_name)
        for thing in after.get(list_name, []):
            if thing["id"] in there:
                yield from _changes_of(list_name, there[thing["id"]], thing)
            else:
                yield Insert(list=list_name, thing=thing)
    for list_name in reversed(LISTS):
        kept = _by_id(after, list_name)
        for thing_id in _by_id(before, list_name):
            if thing_id not in kept:
                yield Delete(list=list_name, id=thing_id)


def _changes_of(list_name: str, before: Json, after: Json) -> Iterator[Operation]:
    old, new = _cells(before), _cells(after)
    for (side, name), value in new.items():
        if old.get((side, name), MISSING) != value:
            yield _taking(list_name, after["id"], side, name, value)
    for side, name in old:
        if (side, name) not in new and side == "proposed":
            yield Drop(list=list_name, id=after["id"], field=name)
