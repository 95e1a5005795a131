"""Asking the pool from within a request: who asks, what is known of a stored revision, work that is fetched when ready."""

from __future__ import annotations

from collections import OrderedDict
from concurrent.futures import TimeoutError as NotYet
from dataclasses import dataclass, replace
from threading import Lock
from time import monotonic
from typing import Any, Protocol

from flask import Flask, current_app

from nelvor.pool.pool import InPlace, Pool, workers_here
from nelvor.pool.question import Question, Told, Work
from nelvor.store import jobs
from nelvor.store.tables import Job
from nelvor.web.session import asker, database, release_database
from nelvor.web.stored import NotKnownHere, StoredJob

ANSWERING = "nelvor.web.answering:answer"
SOON_S = 1.5
MOST_UNDER_WAY = 40
KEPT_FOR_S = 300.0


class Asked(Protocol):
    """What answers heavy questions."""

    def begin(self, question: Question, asker: str) -> Work: ...

    def ask(self, question: Question, asker: str) -> Told: ...


@dataclass(frozen=True)
class HowFar:
    """How far work has come that is not ready: so much is ahead of it in the line, or so many of its parts are done."""

    begun: bool
    ahead: int
    done: int
    parts: int


def give_pool(app: Flask, workers: int | None) -> None:
    """Give an application its pool: ``workers`` processes, as many as suit the machine for None, none for 0."""
    number = workers_here() if workers is None else workers
    app.extensions["nelvor_pool"] = Pool(ANSWERING, number) if number else InPlace(ANSWERING)
    app.extensions["nelvor_under_way"] = UnderWay()


def pool() -> Pool | InPlace:
    """Return the pool of this application."""
    found: Pool | InPlace = current_app.extensions["nelvor_pool"]
    return found


def ask(question: Question) -> Told:
    """Return the answer to a question of whoever is asking; nothing of the database is held meanwhile.

    Raises:
        Busy, TookTooLong, NelvorError: as the pool.
    """
    who = asker()
    release_database()
    return pool().ask(replace(question, about=question.about or who), who)


def ask_about(name: str, job: Job, number: int, details: Any) -> Told:
    """Return the answer to a question about a stored revision. A worker that does not know it yet is given it.

    Raises:
        NotFound: the job has no revision of that number.
        Busy, TookTooLong, NelvorError: as the pool.
    """
    stored = stored_job(job, number)
    try:
        return ask(Question(name, stored.job_id, (stored, details)))
    except NotKnownHere:
        return ask(Question(name, stored.job_id, (whole(stored, job), details)))


def stored_job(job: Job, number: int) -> StoredJob:
    """Return what names a revision to a worker, and how it was made from one that the worker may know."""
    return StoredJob(str(job.id), number, jobs.made_from(job.id, number))


def whole(stored: StoredJob, job: Job) -> StoredJob:
    """Return a stored revision with its document.

    Raises:
        NotFound: the job has no revision of that number.
    """
    return replace(stored, packed=jobs.find_revision(database(), job, stored.number).packed)


class UnderWay:
    """Work that is fetched when it is ready, by what it is: whoever asks for the same is told of the same."""

    def __init__(self) -> None:
        self._works: OrderedDict[str, Work] = OrderedDict()
        self._lock = Lock()

    def fetch(self, key: str, question: Question, who: str) -> Told | HowFar:
        """Return an answer where it comes soon, or how far it is. One that failed is begun again the next time.

        Raises:
            Busy, TookTooLong, NelvorError: as the pool.
        """
        with self._lock:
            self._forget_the_old()
            work = self._works.get(key)
            if work is None:
                work = self._works[key] = pool().begin(question, who)
        try:
            return work.answer.result(timeout=SOON_S)
        except NotYet:
            ahead = 0 if work.begun_at else pool().line.ahead_of(work)
            return HowFar(work.begun_at is not None, ahead, work.done, work.parts)
        except Exception:
            with self._lock:
                self._works.pop(key, None)
            raise

    def _forget_the_old(self) -> None:
        over = [
            key
            for place, (key, work) in enumerate(reversed(self._works.items()))
            if work.answer.done() and (place >= MOST_UNDER_WAY or monotonic() - work.asked_at > KEPT_FOR_S)
        ]
        for key in over:
            del self._works[key]


def fetch(key: str, question: Question) -> Told | HowFar:
    """Return the answer to a question where it comes soon, or how far it is."""
    who = asker()
    release_database()
    under_way: UnderWay = current_app.extensions["nelvor_under_way"]
    return under_way.fetch(key, question, who)
