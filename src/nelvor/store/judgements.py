"""The signed answers of revisions: worked out after the commit, appended, and never in the way of a save."""

from __future__ import annotations

import logging
import uuid

from sqlalchemy.orm import Session, sessionmaker

from nelvor.judges.memory import Memory
from nelvor.report.check import check
from nelvor.report.summary import signed_summary
from nelvor.store.jobs import known_job
from nelvor.store.tables import Job, Judgement, Revision

log = logging.getLogger(__name__)


def judge(sessions: sessionmaker[Session], revision_id: uuid.UUID, memory: Memory | None = None) -> None:
    """Append the answers of a committed revision in a transaction of its own; a check that fails is told as such."""
    with sessions() as session:
        revision = session.get(Revision, revision_id)
        if revision is None or session.get(Judgement, revision_id) is not None:
            return
        document = known_job(session, session.get_one(Job, revision.job_id), revision.number).document
        session.rollback()
        answers, failure = {}, ""
        try:
            answers = signed_summary(check(document, memory=memory))
        except Exception as reason:  # a document is kept whatever the check makes of it
            log.exception("revision %s could not be judged", revision_id)
            failure = type(reason).__name__
        session.add(Judgement(revision_id=revision_id, answers=answers, failure=failure))
        session.commit()
