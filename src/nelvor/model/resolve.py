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
    return document.model_copy(update={name: in_state(getattr(document, name), state) for name in LISTS})


def in_state(things: list[Thing], state: State) -> list[Thing]:
    """Return those of some things that are there in one state, as they are in it."""
    present = [thing for thing in things if _present(thing, state)]
    return [thing.as_proposed() if state == "proposed" else thing.as_existing() for thing in present]
