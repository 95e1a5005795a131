"""The history of a shop: what its members did, to jobs and to the shop itself. Only ever added to."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from nelvor.store.access import require
from nelvor.store.tables import HistoryEntry, Job, Member

ENTRIES_AT_ONCE = 100


def history(
    session: Session, member: Member, before: int | None = None, most: int = ENTRIES_AT_ONCE
) -> list[tuple[HistoryEntry, str | None]]:
    """Return the newest entries of a shop's history, or those before one, each with the name of its job where it stands.

    Raises:
        Refused: the member's role does not read it.
    """
    require(member, "read_history")
    query = select(HistoryEntry, Job.name).outerjoin(Job, Job.id == HistoryEntry.job_id)
    query = query.where(HistoryEntry.shop_id == member.shop_id)
    if before is not None:
        query = query.where(HistoryEntry.id < before)
    return [(entry, name) for entry, name in session.execute(query.order_by(HistoryEntry.id.desc()).limit(most))]
