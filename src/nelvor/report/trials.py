"""Jobs that are tried out one after another: each differs from the first in a few things, and those alone are worked out."""

from __future__ import annotations

from typing import Any

from nelvor.judges.memory import Memory
from nelvor.model.edited import KnownJob
from nelvor.model.resolve import State
from nelvor.report.check import Report, check

REMEMBERED, REMEMBERED_FOR_EACH_THING = 200, 2


class Trials:
    """Checks JSON jobs. One that shares lists with the job that was read last is read and worked out where it differs."""

    def __init__(self) -> None:
        self._known: KnownJob | None = None
        self._memory = Memory()

    def checked(self, value: Any, state: State = "proposed") -> Report:
        """Return the report of a JSON job.

        Raises:
            BadInput, UnknownEdition: it cannot be read.
        """
        if self._known is not None and self._known.shares_lists_with(value):
            return check(self._known.read_beside(value), state, self._memory)
        known = KnownJob.read(value)
        self._known, self._memory = known, Memory(REMEMBERED + REMEMBERED_FOR_EACH_THING * len(known.things))
        return check(known.document, state, self._memory)
