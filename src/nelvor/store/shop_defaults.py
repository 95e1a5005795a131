"""What the new jobs of a shop begin with, as the shop keeps it."""

from __future__ import annotations

from sqlalchemy.orm import Session

from nelvor.model.shop_defaults import ShopDefaults
from nelvor.store import kept_by_shop
from nelvor.store.kept_by_shop import NOTHING_YET
from nelvor.store.tables import KeptDefaults, Member


def newest(session: Session, member: Member) -> tuple[int, ShopDefaults]:
    """Return the number of the newest defaults of the member's shop, 0 where nothing is kept yet, and what they are."""
    found = kept_by_shop.newest(session, member, KeptDefaults)
    if found is None:
        return NOTHING_YET, ShopDefaults()
    return found.number, ShopDefaults.model_validate(found.settings)


def replace(session: Session, member: Member, defaults: ShopDefaults, base: int) -> int:
    """Append new defaults made from number ``base``; return their number.

    Raises:
        Refused: the member may not write.
        Stale: others came first; nothing is changed.
    """
    kept = {"settings": defaults.model_dump(mode="json")}
    told = ", ".join(name.replace("_", " ") for name in kept["settings"])
    return kept_by_shop.append(session, member, KeptDefaults, base, "defaults of new jobs", told, kept)
