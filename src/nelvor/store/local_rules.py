"""Local rules that a shop keeps for all its jobs. Changing them appends the whole list; jobs take copies of them."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from nelvor.errors import Stale
from nelvor.model.things import Amendment
from nelvor.store.access import require
from nelvor.store.jobs import note
from nelvor.store.tables import LocalRules, Member, Shop

NOTHING_YET = 0


def newest(session: Session, member: Member) -> tuple[int, list[Amendment]]:
    """Return the number of the newest list of the member's shop, 0 where there is none yet, and its rules."""
    query = select(LocalRules).where(LocalRules.shop_id == member.shop_id).order_by(LocalRules.number.desc()).limit(1)
    found = session.scalar(query)
    if found is None:
        return NOTHING_YET, []
    return found.number, [Amendment.model_validate(item) for item in found.rules]


def replace(session: Session, member: Member, rules: list[Amendment], base: int) -> int:
    """Append a new list made from list ``base``; return its number.

    Raises:
        Refused: the member may not write.
        Stale: another list came first; nothing is changed.
    """
    require(member, "change")
    session.scalar(select(Shop).where(Shop.id == member.shop_id).with_for_update())
    number, _ = newest(session, member)
    if number != base:
        raise Stale("The local rules of the shop were changed by someone else meanwhile. Read them again.")
    kept = [item.model_dump(mode="json") for item in rules]
    session.add(LocalRules(shop_id=member.shop_id, number=number + 1, rules=kept, author=member.name))
    note(session, member, None, "local rules", f"list {number + 1}: {len(rules)} rules")
    return number + 1
