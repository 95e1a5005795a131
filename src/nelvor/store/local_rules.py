"""Local rules that a shop keeps for all its jobs; jobs take copies of them."""

from __future__ import annotations

from sqlalchemy.orm import Session

from nelvor.model.things import Amendment
from nelvor.store import kept_by_shop
from nelvor.store.kept_by_shop import NOTHING_YET
from nelvor.store.tables import LocalRules, Member


def newest(session: Session, member: Member) -> tuple[int, list[Amendment]]:
    """Return the number of the newest list of the member's shop, 0 where there is none yet, and its rules."""
    found = kept_by_shop.newest(session, member, LocalRules)
    if found is None:
        return NOTHING_YET, []
    return found.number, [Amendment.model_validate(item) for item in found.rules]


def replace(session: Session, member: Member, rules: list[Amendment], base: int) -> int:
    """Append a new list made from list ``base``; return its number.

    Raises:
        Refused: the member may not write.
        Stale: another list came first; nothing is changed.
    """
    kept = {"rules": [item.model_dump(mode="json") for item in rules]}
    return kept_by_shop.append(session, member, LocalRules, base, "local rules", f"{len(rules)} rules", kept)
