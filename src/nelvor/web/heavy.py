"""Whole-job checks take turns, so that saves, lists and health never queue behind them."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock, Semaphore

from nelvor.errors import Busy

AT_ONCE = 2
WAITING = 3
LONGEST_WAIT_S = 20


class Turns:
    """Lets a few pieces of heavy work run and a few more wait; the rest is refused at once."""

    def __init__(self, at_once: int = AT_ONCE, waiting: int = WAITING) -> None:
        self._running = Semaphore(at_once)
        self._room = at_once + waiting
        self._here = 0
        self._lock = Lock()

    @property
    def has_room(self) -> bool:
        """Tell whether one more piece of work would be taken."""
        with self._lock:
            return self._here < self._room

    @contextmanager
    def turn(self) -> Iterator[None]:
        """Wait for a turn and take it.

        Raises:
            Busy: too many wait already, or the turn does not come.
        """
        with self._lock:
            if self._here >= self._room:
                raise Busy("The server is busy with other checks; trying again in a moment.")
            self._here += 1
        try:
            if not self._running.acquire(timeout=LONGEST_WAIT_S):
                raise Busy("The server is busy with other checks; trying again in a moment.")
            try:
                yield
            finally:
                self._running.release()
        finally:
            with self._lock:
                self._here -= 1


turns = Turns()
