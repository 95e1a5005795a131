"""From a document with two states to the site that rules see in one of them."""

from __future__ import annotations

from typing import Literal

from nelvor.model.base import Thing
from nelvor.model.document import LISTS, Document

State = Literal["existing", "proposed"]


def resolve(document: Document, state: State) -> Document:
    """Return the document as it is in one state: things of the other state gone, properties decided."""
    return document.model_copy(update={name: in_state(getattr(document, name), state) for name in LISTS})


def in_state(things: list[Thing], state: State) -> list[Thing]:
    """Return those of some things that are there in one state, as they are in it."""
    absent = "added" if state == "existing" else "removed"
    present = [thing for thing in things if thing.standing != absent]
    if not any([thing.proposed for thing in present]):
        return present
    return [thing.as_proposed() if state == "proposed" else thing.as_existing() for thing in present]
