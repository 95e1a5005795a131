"""Revisions that this process read lately: a save or a check that rests on one need not read it again."""

from __future__ import annotations

import uuid
from collections import OrderedDict
from collections.abc import Callable
from threading import Lock

from nelvor.model.edited import KnownJob

MOST_KEPT = 10
Key = tuple[uuid.UUID, int]


class KnownJobs:
    """The newest few jobs by revision. A revision never changes, so what is kept is always right."""

    def __init__(self, most: int = MOST_KEPT) -> None:
        self._most = most
        self._kept: OrderedDict[Key, KnownJob] = OrderedDict()
        self._lock = Lock()

    def of(self, job_id: uuid.UUID, number: int, read: Callable[[], KnownJob]) -> KnownJob:
        """Return a revision, reading it where it is not kept."""
        with self._lock:
            known = self._kept.get((job_id, number))
            if known is not None:
                self._kept.move_to_end((job_id, number))
                return known
        known = read()
        self.keep(job_id, number, known)
        return known

    def keep(self, job_id: uuid.UUID, number: int, known: KnownJob) -> None:
        """Keep a revision that was just read or made."""
        with self._lock:
            self._kept[job_id, number] = known
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)


known_jobs = KnownJobs()
