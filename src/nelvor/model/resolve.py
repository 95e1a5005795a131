"""From a document with two states to the site that rules see in one of them."""

from __future__ import annotations

from typing import Literal

from nelvor.model.base import Thing
from nelvor.model.document import LISTS, Document

State = Literal["existing", "proposed"]


def _present(thing: Thing, state: State) -> bool:
    return thing.standing != ("added" if state == "existing" else "removed")


def resolve(document: Document, state: State) -> Document:
    """Return the document as it is in one state: things of the other state gone, properties decided."""
    lists = {}
    for list_name in LISTS:
        things = [thing for thing in getattr(document, list_name) if _present(thing, state)]
        things = [thing.as_proposed() if state == "proposed" else thing.as_existing() for thing in things]
        lists[list_name] = things
    return document.model_copy(update=lists)
