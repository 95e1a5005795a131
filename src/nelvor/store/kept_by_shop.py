"""What a shop keeps for all its jobs: each change appends the whole of it, and rests on the one before."""

from __future__ import annotations

from typing import Any, TypeVar

from sqlalchemy import select
from sqlalchemy.orm import Session

from nelvor.errors import Stale
from nelvor.store.access import require
from nelvor.store.jobs import note
from nelvor.store.tables import KeptByShop, Member, Shop

NOTHING_YET = 0
T = TypeVar("T", bound=KeptByShop)


def newest(session: Session, member: Member, table: type[T]) -> T | None:
    """Return the newest row that the member's shop keeps in a table; None where there is none yet."""
    return session.scalar(select(table).where(table.shop_id == member.shop_id).order_by(table.number.desc()).limit(1))


def append(
    session: Session, member: Member, table: type[T], base: int, what: str, detail: str, content: dict[str, Any]
) -> int:
    """Append a row made from row ``base``, and a line of history on ``what``; return its number.

    Raises:
        Refused: the member may not write.
        Stale: another came first; nothing is changed.
    """
    require(member, "change")
    session.scalar(select(Shop).where(Shop.id == member.shop_id).with_for_update())
    found = newest(session, member, table)
    number = found.number if found is not None else NOTHING_YET
    if number != base:
        raise Stale(f"The {what} of the shop were changed by someone else meanwhile. Read them again.")
    session.add(table(shop_id=member.shop_id, number=number + 1, author=member.name, **content))
    note(session, member, None, what, f"list {number + 1}: {detail}")
    return number + 1
