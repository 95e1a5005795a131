"""What was worked out before from the very same things: an edit leaves most of a site as it was.

Things of a design never change, so two questions are the same when they are about the same objects. A memory is
handed in by whoever checks one job again and again; without one everything is worked out anew, to the same answers,
and nothing is asked about what they rest on.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable, Sequence
from threading import Lock
from typing import Any, TypeVar, cast

MOST_KEPT = 20_000

T = TypeVar("T")
RestsOn = Callable[[], tuple[Sequence[object], Hashable]]
"""What tells the things that an answer rests on, and the values that it takes from elsewhere."""


class Memory:
    """Keeps the answers last asked for with the objects that they rest on, so that those cannot be taken for others."""

    def __init__(self, most: int = MOST_KEPT) -> None:
        self.most = most
        self._kept: OrderedDict[Hashable, tuple[Any, Sequence[object]]] = OrderedDict()
        self._latest: dict[str, tuple[tuple[list[int], Hashable], Any, Sequence[object]]] = {}
        self._lock = Lock()

    def recall(self, question: str, rests_on: RestsOn, work: Callable[[], T]) -> T:
        """Return the answer to a question about these very objects and values, working it out where it is new."""
        objects, values = rests_on()
        key = (question, tuple([id(item) for item in objects]), values)
        with self._lock:
            kept = self._kept.get(key)
            if kept is not None:
                self._kept.move_to_end(key)
                return cast(T, kept[0])
        answer = work()
        with self._lock:
            self._kept[key] = (answer, objects)
            while len(self._kept) > self.most:
                self._kept.popitem(last=False)
        return answer

    def latest(self, question: str, rests_on: RestsOn, work: Callable[[], T]) -> T:
        """Return as ``recall`` does what is too large to be kept of more than one site: the last answer to each question."""
        objects, values = rests_on()
        key = ([id(item) for item in objects], values)
        with self._lock:
            kept = self._latest.get(question)
        if kept is not None and kept[0] == key:
            return cast(T, kept[1])
        answer = work()
        with self._lock:
            self._latest[question] = (key, answer, objects)
        return answer

    def same(self, value: T) -> T:
        """Return the object that stands for all values equal to this one."""
        return self.recall("same", lambda: ((), cast(Hashable, value)), lambda: value)


class NoMemory(Memory):
    """Keeps nothing, for whoever checks a job once."""

    def recall(self, question: str, rests_on: RestsOn, work: Callable[[], T]) -> T:
        return work()

    def latest(self, question: str, rests_on: RestsOn, work: Callable[[], T]) -> T:
        return work()
