"""What is handed to a worker process, and what comes back."""

from __future__ import annotations

import os
import traceback
from collections.abc import Callable
from concurrent.futures import Future
from dataclasses import dataclass, field
from time import monotonic
from typing import Any

Progress = Callable[[int, int], None]
"""Tells how many parts of a piece of work are done, and of how many."""


@dataclass(frozen=True)
class Question:
    """One piece of heavy work.

    ``about`` names what it is about, such as a job: a worker that knows it already answers sooner. ``details`` is
    whatever the one who answers needs; it must be picklable. ``limit_s`` is how long the work itself may take.
    ``expected_s`` is what it probably takes where nothing like it was measured yet.
    """

    name: str
    about: str
    details: Any
    limit_s: float = 30.0
    expected_s: float = 0.05


class NeedsMore(Exception):
    """Whoever answers lacks something that the asker can give: to be asked again with it."""


@dataclass(frozen=True)
class Told:
    """An answer as it goes out: its bytes, their media type, a status and further headers."""

    content: bytes
    kind: str = "application/json"
    status: int = 200
    headers: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True)
class Ready:
    """A worker has read all that it needs, and waits for its first question."""


@dataclass(frozen=True)
class Done:
    """So many parts of a piece of work are done."""

    done: int
    parts: int


@dataclass(frozen=True)
class Outcome:
    """What came of a question, and what it took of a processor."""

    answer: Told | Exception
    seconds: float


class Crashed(Exception):
    """A question that should have been answered was not; the message tells its kind and the places in the code."""

    @classmethod
    def of(cls, question: Question, failure: Exception) -> Crashed:
        """Return what tells a failure without what a person entered."""
        frames = traceback.extract_tb(failure.__traceback__)
        places = " < ".join(f"{os.path.basename(item.filename)}:{item.lineno} {item.name}" for item in frames[::-1])
        return cls(f"{type(failure).__name__} at {question.name}: {places}")


@dataclass
class Work:
    """A question on its way. ``done`` of ``parts`` is as far as it has come; ``slow`` is what the line expects of it."""

    question: Question
    asker: str
    number: int = 0
    asked_at: float = field(default_factory=monotonic)
    begun_at: float | None = None
    done: int = 0
    parts: int = 0
    slow: bool | None = None
    answer: Future[Told] = field(default_factory=Future)
