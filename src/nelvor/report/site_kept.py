"""The site of a document in one state; what an edit left alone is not put in order or joined again."""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from functools import partial
from typing import Any
from weakref import proxy

from nelvor.judges.memory import Memory
from nelvor.model.base import Thing
from nelvor.model.document import LISTS, Document
from nelvor.model.resolve import State, in_state
from nelvor.topology.look_ups import by_their_ids
from nelvor.topology.network import network_rests_on
from nelvor.topology.site import Site


def site_kept(document: Document, state: State, memory: Memory) -> Site:
    """Return the site of a document. A list of the document that a memory knows is resolved and ordered already."""
    lists: dict[str, Any] = {}
    taken: set[str] = set()
    for name in LISTS:
        things = getattr(document, name)
        rests_on = partial(_rests_on, things, state)
        lists[name] = memory.latest(f"{name} in order", rests_on, partial(_in_order, things, state))
        taken |= memory.latest(f"ids of {name}", rests_on, partial(_ids, things))
    site = Site(document.model_copy(update=lists), frozenset(taken), in_order=True)
    joined = partial(network_rests_on, proxy(site))
    site.keep_networks(lambda name, work: memory.latest(name, joined, work))
    return site


def _rests_on(things: list[Thing], state: State) -> tuple[Sequence[object], Hashable]:
    return [things], state


def _in_order(things: list[Thing], state: State) -> list[Thing]:
    return by_their_ids(in_state(things, state))


def _ids(things: list[Thing]) -> frozenset[str]:
    return frozenset([thing.id for thing in things])
