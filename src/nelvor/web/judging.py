"""Judging revisions beside the requests: one at a time, after their commit, in the pool."""

from __future__ import annotations

import json
import uuid
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import replace
from threading import Event
from typing import Any

from sqlalchemy.orm import Session, sessionmaker

from nelvor.errors import Busy
from nelvor.pool.pool import InPlace, Pool
from nelvor.pool.question import Question
from nelvor.store.judgements import judge
from nelvor.store.known_jobs import known_jobs
from nelvor.store.tables import Job, Revision
from nelvor.web.stored import NotKnownHere, StoredJob

ASKER = "judging"
TRY_AGAIN_S = 1.0
MOST_TRIES = 120


class Judging:
    """Has the signed answers of committed revisions worked out, a thread of its own waiting for them."""

    def __init__(self, sessions: sessionmaker[Session], pool: Pool | InPlace) -> None:
        self._sessions = sessions
        self._pool = pool
        self._closing = Event()
        self._worker = ThreadPoolExecutor(max_workers=1, thread_name_prefix="judging")

    def submit(self, revision_id: uuid.UUID) -> Future[None]:
        """Have a revision judged soon; until then it counts as not judged."""
        return self._worker.submit(self._judge, revision_id)

    def settle(self) -> None:
        """Wait until everything submitted is judged."""
        self._worker.submit(lambda: None).result()

    def close(self) -> None:
        """Judge nothing more."""
        self._closing.set()
        self._worker.shutdown(wait=False, cancel_futures=True)

    def _judge(self, revision_id: uuid.UUID) -> None:
        for _ in range(MOST_TRIES):
            try:
                return judge(self._sessions, revision_id, self._answers)
            except Busy:
                if self._closing.wait(TRY_AGAIN_S):
                    return None
        return None

    def _answers(self, job: Job, revision: Revision) -> dict[str, Any]:
        stored = StoredJob(str(job.id), revision.number, known_jobs.made_from(job.id, revision.number))
        question = Question("signed_answers", stored.job_id, (stored, None))
        try:
            told = self._pool.ask(question, ASKER)
        except NotKnownHere:
            whole = replace(stored, packed=revision.packed)
            told = self._pool.ask(replace(question, details=(whole, None)), ASKER)
        found: dict[str, Any] = json.loads(told.content)
        return found
