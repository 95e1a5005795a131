"""Revisions that this process read lately: a save that rests on one need not read it again."""

from __future__ import annotations

import uuid
from collections import OrderedDict
from collections.abc import Callable
from threading import Lock

from sqlalchemy import event
from sqlalchemy.orm import Session

from nelvor.model.changes.operations import Operation
from nelvor.model.edited import KnownJob

MOST_KEPT = 1000
MOST_THINGS_KEPT = 100_000
MADE_FROM = "nelvor made from"
Key = tuple[uuid.UUID, int]
MadeFrom = tuple[int, tuple[Operation, ...]]
"""A base revision and the operations on it that made another, and nothing else."""


class KnownJobs:
    """The newest jobs by revision, so many and so large in all. A revision never changes: what is kept is always right."""

    def __init__(self, most: int = MOST_KEPT, most_things: int = MOST_THINGS_KEPT) -> None:
        self._most, self._most_things = most, most_things
        self._kept: OrderedDict[Key, KnownJob] = OrderedDict()
        self._made_from: OrderedDict[Key, MadeFrom] = OrderedDict()
        self._things = 0
        self._lock = Lock()

    def of(self, job_id: uuid.UUID, number: int, read: Callable[[], KnownJob]) -> KnownJob:
        """Return a revision that is committed, reading it where it is not kept."""
        with self._lock:
            known = self._kept.get((job_id, number))
            if known is not None:
                self._kept.move_to_end((job_id, number))
                return known
        known = read()
        self._keep((job_id, number), known)
        return known

    def made_from(self, job_id: uuid.UUID, number: int) -> MadeFrom | None:
        """Return how a revision was made from another, where this process made it lately."""
        with self._lock:
            return self._made_from.get((job_id, number))

    def keep_when_committed(self, session: Session, key: Key, known: KnownJob, made_from: MadeFrom | None) -> None:
        """Keep a revision once it is committed: until then another one may come to have its number."""
        session.info.setdefault(MADE_FROM, []).append((key, known, made_from))

    def committed(self, session: Session) -> None:
        """Keep what the transaction of a session made."""
        for key, known, made_from in session.info.pop(MADE_FROM, []):
            self._keep(key, known)
            if made_from is not None:
                with self._lock:
                    self._made_from[key] = made_from
                    while len(self._made_from) > self._most:
                        self._made_from.popitem(last=False)

    def _keep(self, key: Key, known: KnownJob) -> None:
        with self._lock:
            if key not in self._kept:
                self._things += len(known.things)
            self._kept[key] = known
            while len(self._kept) > self._most or (self._things > self._most_things and len(self._kept) > 1):
                self._things -= len(self._kept.popitem(last=False)[1].things)


known_jobs = KnownJobs()
event.listen(Session, "after_commit", known_jobs.committed)
event.listen(Session, "after_rollback", lambda session: session.info.pop(MADE_FROM, None))
