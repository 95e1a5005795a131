"""The signed answers of revisions: worked out after the commit, appended, and never in the way of a save."""

from __future__ import annotations

import logging
import uuid
from collections.abc import Callable
from typing import Any

from sqlalchemy.orm import Session, sessionmaker

from nelvor.errors import Busy
from nelvor.store.tables import Job, Judgement, Revision

log = logging.getLogger(__name__)

Judge = Callable[[Job, Revision], dict[str, Any]]
"""Works out the signed answers of a revision, whose document is read where it is asked for."""


def judge(sessions: sessionmaker[Session], revision_id: uuid.UUID, answers_of: Judge) -> None:
    """Append the answers of a committed revision in a transaction of its own; a check that fails is told as such.

    Raises:
        Busy: nobody could work them out now.
    """
    with sessions() as session:
        revision = session.get(Revision, revision_id)
        if revision is None or session.get(Judgement, revision_id) is not None:
            return
        answers, failure = {}, ""
        try:
            answers = answers_of(session.get_one(Job, revision.job_id), revision)
        except Busy:
            raise
        except Exception as reason:  # a document is kept whatever the check makes of it
            log.exception("revision %s could not be judged", revision_id)
            failure = type(reason).__name__
        session.rollback()
        session.add(Judgement(revision_id=revision_id, answers=answers, failure=failure))
        session.commit()
