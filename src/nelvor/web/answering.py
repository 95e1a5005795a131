"""What a worker of the pool does with a question: the work of its name, declared by a route."""

from __future__ import annotations

from nelvor.pool.question import Progress, Question, Told
from nelvor.web.routes import api


def answer(question: Question, progress: Progress) -> Told:
    """Return the answer to a question.

    Raises:
        NelvorError: what the work raises on purpose.
    """
    return api.works[question.name](question.details, progress)
