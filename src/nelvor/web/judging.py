"""Judging revisions beside the requests: one at a time, after their commit."""

from __future__ import annotations

import uuid
from concurrent.futures import Future, ThreadPoolExecutor

from sqlalchemy.orm import Session, sessionmaker

from nelvor.judges.memory import Memory
from nelvor.store.judgements import judge


class Judging:
    """Works out the signed answers of committed revisions in a thread of its own."""

    def __init__(self, sessions: sessionmaker[Session]) -> None:
        self._sessions = sessions
        self._memory = Memory()
        self._worker = ThreadPoolExecutor(max_workers=1, thread_name_prefix="judging")

    def submit(self, revision_id: uuid.UUID) -> Future[None]:
        """Have a revision judged soon; until then it counts as not judged."""
        return self._worker.submit(judge, self._sessions, revision_id, self._memory)

    def settle(self) -> None:
        """Wait until everything submitted is judged."""
        self._worker.submit(lambda: None).result()
