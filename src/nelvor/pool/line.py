"""Who is next: the asker who had least of the workers lately; slow work never takes the last worker."""

from __future__ import annotations

import zlib
from collections import OrderedDict
from threading import Condition
from time import monotonic

from nelvor.errors import Busy
from nelvor.pool.question import Work

MOST_WAITING = 100
MOST_WAITING_EACH = 6
LONGEST_WAIT_S = 30.0
HALF_FORGOTTEN_S = 10.0
SLOW_S = 0.25
AWAY_FROM_HOME_S = 0.1
"""After so long a worker takes what another one, still at work, would answer sooner."""

MUCH_QUICK_S = 3.0
QUICK = "all quick work together"
SLOW_WORKER = 0
"""The worker that runs less urgently than the others: slow work goes to it first."""

LOOK_AGAIN_S = 0.05
MOST_REMEMBERED = 2000
BUSY = "The server is busy with other checks; trying again in a moment."


class Line:
    """Work that waits for a worker. ``workers`` is how many there are; they are numbered from 0."""

    def __init__(self, workers: int) -> None:
        self._workers = workers
        self._waiting: list[Work] = []
        self._slow_under_way = 0
        self._waiting_workers: set[int] = set()
        self._spent: OrderedDict[str, tuple[float, float]] = OrderedDict()
        self._took: OrderedDict[tuple[str, str], float] = OrderedDict()
        self._changed = Condition()
        self.closed = False
        self._count = 0

    @property
    def has_room(self) -> bool:
        """Tell whether one more piece of work would be taken."""
        with self._changed:
            return len(self._waiting) < MOST_WAITING

    def join(self, work: Work) -> None:
        """Take a piece of work into the line.

        Raises:
            Busy: the line is full, or this asker has too much in it.
        """
        with self._changed:
            if self.closed:
                raise Busy(BUSY)
            own = sum(1 for item in self._waiting if item.asker == work.asker)
            if len(self._waiting) >= MOST_WAITING or own >= MOST_WAITING_EACH:
                raise Busy(BUSY)
            self._count += 1
            work.number = self._count
            self._waiting.append(work)
            self._changed.notify_all()

    def ahead_of(self, work: Work) -> int:
        """Return how much of what waits would be taken before a piece of work, as things stand."""
        with self._changed:
            return next((place for place, item in enumerate(self._in_order()) if item is work), 0)

    def next(self, worker: int) -> Work | None:
        """Wait for the next piece of work of a worker; None when the line is closed."""
        with self._changed:
            self._waiting_workers.add(worker)
            while not self.closed:
                self._send_away_the_late()
                work = next((item for item in self._in_order() if self._may_take(worker, item)), None)
                if work is not None:
                    self._waiting.remove(work)
                    self._waiting_workers.discard(worker)
                    work.begun_at = monotonic()
                    self._slow_under_way += self._is_slow(work)
                    return work
                self._changed.wait(LOOK_AGAIN_S if self._waiting else None)
            return None

    def ended(self, work: Work, took: float) -> None:
        """Take down what a piece of work took of a processor, in seconds."""
        with self._changed:
            self._slow_under_way -= self._is_slow(work)
            self._spent[work.asker] = (self._spent_lately(work.asker) + took, monotonic())
            if not self._is_slow(work):
                self._spent[QUICK] = (self._spent_lately(QUICK) + took, monotonic())
            self._took[_like(work)] = took
            for kept in (self._spent, self._took):
                while len(kept) > MOST_REMEMBERED:
                    kept.popitem(last=False)
            self._changed.notify_all()

    def close(self) -> list[Work]:
        """Let the workers go, and return what was still waiting."""
        with self._changed:
            self.closed, left, self._waiting = True, self._waiting, []
            self._changed.notify_all()
            return left

    def _in_order(self) -> list[Work]:
        spent = {asker: self._spent_lately(asker) for asker in {item.asker for item in self._waiting}}
        return sorted(self._waiting, key=lambda item: (spent[item.asker], item.number))

    def _may_take(self, worker: int, work: Work) -> bool:
        if self._is_slow(work) and self._slow_under_way >= self._most_slow():
            return False
        if self._is_slow(work) and worker != SLOW_WORKER and SLOW_WORKER in self._waiting_workers:
            return False
        return self._is_slow(work) or self._home(work) == worker or monotonic() - work.asked_at > AWAY_FROM_HOME_S

    def _home(self, work: Work) -> int:
        """Return the worker that probably knows what a piece of work is about. The slow one is no home to what is quick."""
        if self._workers == 1:
            return SLOW_WORKER
        return 1 + zlib.crc32(work.question.about.encode()) % (self._workers - 1)

    def _most_slow(self) -> int:
        """Return how many workers slow work may have: all but one, and all but two where much is quick."""
        left_free = 2 if self._spent_lately(QUICK) > MUCH_QUICK_S else 1
        return max(1, self._workers - left_free)

    def _is_slow(self, work: Work) -> bool:
        """Tell whether a piece of work is expected to take long; told once for each, when it is first asked."""
        if work.slow is None:
            work.slow = self._took.get(_like(work), work.question.expected_s) > SLOW_S
        return work.slow

    def _spent_lately(self, asker: str) -> float:
        seconds, at = self._spent.get(asker, (0.0, 0.0))
        return float(seconds * 0.5 ** ((monotonic() - at) / HALF_FORGOTTEN_S))

    def _send_away_the_late(self) -> None:
        late = [item for item in self._waiting if monotonic() - item.asked_at > LONGEST_WAIT_S]
        for item in late:
            self._waiting.remove(item)
            item.answer.set_exception(Busy(BUSY))


def _like(work: Work) -> tuple[str, str]:
    return work.question.name, work.question.about
