"""The plates of the sources that a shop uses, as it keeps them."""

from __future__ import annotations

from sqlalchemy.orm import Session

from nelvor.model.source_plates import SourcePlate
from nelvor.store import kept_by_shop
from nelvor.store.kept_by_shop import NOTHING_YET
from nelvor.store.tables import KeptSources, Member


def newest(session: Session, member: Member) -> tuple[int, list[SourcePlate]]:
    """Return the number of the newest list of the member's shop, 0 where nothing is kept yet, and its plates."""
    found = kept_by_shop.newest(session, member, KeptSources)
    if found is None:
        return NOTHING_YET, []
    return found.number, [SourcePlate.model_validate(plate) for plate in found.plates]


def replace(session: Session, member: Member, plates: list[SourcePlate], base: int) -> int:
    """Append a new list made from number ``base``; return its number.

    Raises:
        Refused: the member may not write.
        Stale: another came first; nothing is changed.
    """
    kept = {"plates": [plate.model_dump(mode="json") for plate in plates]}
    return kept_by_shop.append(session, member, KeptSources, base, "sources", f"{len(plates)} plates", kept)
