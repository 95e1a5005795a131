"""What the workers of the tests do with a question."""

import os
import time

from nelvor.errors import BadInput, Issue
from nelvor.pool.question import NeedsMore, Question, Told


def answer(question: Question, progress) -> Told:
    details = question.details
    if question.name == "sleep":
        time.sleep(details)
    if question.name == "count":
        for done in range(details):
            progress(done, details)
            time.sleep(0.02)
    if question.name == "die":
        os._exit(1)
    if question.name == "refuse":
        raise BadInput([Issue("too_long", "runs", "there are too many.", "Keep fewer.")])
    if question.name == "lack" and details is None:
        raise NeedsMore
    if question.name == "crash":
        raise ValueError(f"secret of {details}")
    return Told(f"{question.name} {details} by {os.getpid()}".encode())
