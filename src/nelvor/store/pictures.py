"""Pictures taken on site, each of a thing of a job: added, given words, and taken away again by those who work there."""

from __future__ import annotations

import hashlib
import uuid
from datetime import UTC, datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session, undefer

from nelvor.errors import BadInput, Issue, NotFound
from nelvor.model.pictures import MOST_PICTURES, MOST_PICTURES_OF_A_THING, PictureLine
from nelvor.store.access import require
from nelvor.store.jobs import note
from nelvor.store.tables import Job, Member, Picture


def pictures_of(session: Session, job: Job, whole: bool = False) -> list[Picture]:
    """Return the pictures of a job that was found for this member, the oldest first; with their content where ``whole``."""
    query = select(Picture).where(Picture.job_id == job.id).order_by(Picture.at, Picture.id)
    return list(session.scalars(query.options(undefer(Picture.content)) if whole else query))


def find_picture(session: Session, job: Job, picture_id: str) -> Picture:
    """Return one picture of a job that was found for this member.

    Raises:
        NotFound: the job has no such picture.
    """
    try:
        identity = uuid.UUID(picture_id)
    except ValueError:
        raise NotFound("There is no such picture.") from None
    found = session.scalar(select(Picture).where(Picture.id == identity, Picture.job_id == job.id))
    if found is None:
        raise NotFound("There is no such picture.")
    return found


def add_picture(
    session: Session, member: Member, job: Job, thing_id: str, content: bytes, told: PictureLine | None = None
) -> Picture:
    """Keep a picture of a thing, with what another job's list told of it.

    The same picture of the same thing is kept once, so that sending it again does no harm.

    Raises:
        Refused: the member's role does not write on site.
        BadInput: there are as many pictures already as are kept.
    """
    require(member, "write_on_site", job)
    digest = hashlib.sha256(content).hexdigest()
    same = (Picture.job_id == job.id, Picture.thing_id == thing_id, Picture.digest == digest)
    kept = session.scalar(select(Picture).where(*same))
    if kept is not None:
        return kept
    _refuse_too_many(session, job, thing_id)
    added = Picture(
        job_id=job.id,
        thing_id=thing_id,
        content=content,
        size=len(content),
        digest=digest,
        caption=told.caption if told else "",
        author=(told.author if told else "") or member.name,
        at=(told.at if told else None) or datetime.now(UTC),
    )
    session.add(added)
    note(session, member, job, "picture", f"added at {thing_id}")
    session.flush()
    return added


def _refuse_too_many(session: Session, job: Job, thing_id: str) -> None:
    counted = select(func.count()).select_from(Picture).where(Picture.job_id == job.id)
    for found, most, of in (
        (session.scalar(counted), MOST_PICTURES, "job"),
        (session.scalar(counted.where(Picture.thing_id == thing_id)), MOST_PICTURES_OF_A_THING, "box"),
    ):
        if (found or 0) >= most:
            reason = f"{most} pictures of this {of} are kept, and no more."
            raise BadInput([Issue("too_many", "picture", reason, "Take one away that is not needed.")])


def say_of(session: Session, member: Member, job: Job, picture_id: str, caption: str) -> None:
    """Give a picture its words.

    Raises:
        Refused, NotFound.
    """
    require(member, "write_on_site", job)
    find_picture(session, job, picture_id).caption = caption


def take_away(session: Session, member: Member, job: Job, picture_id: str) -> None:
    """Delete a picture for good; that it was there stays in the history.

    Raises:
        Refused, NotFound.
    """
    require(member, "write_on_site", job)
    doomed = find_picture(session, job, picture_id)
    note(session, member, job, "picture", f"taken away from {doomed.thing_id}")
    session.delete(doomed)
