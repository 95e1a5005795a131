"""What a shop brings to a job: prices and local rules."""

from __future__ import annotations

from nelvor.model.base import Id, Name, Note, Thing
from nelvor.model.limits import Amount
from nelvor.model.vocabulary import AmendmentAction


class Price(Thing):
    """What the shop pays for one item: a conductor or raceway by the foot."""

    item: Name
    price: Amount | None = None


class Amendment(Thing):
    """A local rule: what it changes, how, and where it is written down."""

    key: Id
    action: AmendmentAction
    value: Amount | None = None
    unit: Name = ""
    source_note: Note = ""
