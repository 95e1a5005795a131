"""The log of what was done and measured on site: appended by any phone, read in the order in which it came."""

from __future__ import annotations

from collections.abc import Iterable

from sqlalchemy import select
from sqlalchemy.orm import Session

from nelvor.model.field_log import FieldEntry
from nelvor.store.access import require
from nelvor.store.jobs import note
from nelvor.store.tables import FieldLogEntry, Job, Member


def append(session: Session, member: Member, job: Job, entries: Iterable[FieldEntry]) -> int:
    """Add entries to a job's log; return how many.

    Raises:
        Refused: the member's role does not write on site.
    """
    require(member, "write_on_site", job)
    added = [FieldLogEntry(job_id=job.id, entry=entry.model_dump(mode="json"), author=member.name) for entry in entries]
    session.add_all(added)
    if added:
        note(session, member, job, "field log", f"{len(added)} entries")
    return len(added)


def entries(session: Session, job: Job) -> list[FieldEntry]:
    """Return a job's log, the oldest entry first."""
    rows = session.scalars(select(FieldLogEntry).where(FieldLogEntry.job_id == job.id).order_by(FieldLogEntry.id))
    return [FieldEntry.model_validate(row.entry) for row in rows]
