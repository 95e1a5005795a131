"""Reports by the content of their document: what a check just worked out serves workings, levels and comparisons."""

from __future__ import annotations

import hashlib
import json
from collections import OrderedDict
from collections.abc import Callable
from threading import Lock
from typing import Any

from nelvor.judges.memory import Memory
from nelvor.model.changes.operations import Operation
from nelvor.model.document import Document
from nelvor.model.edited import KnownJob
from nelvor.model.parse import parse_value
from nelvor.model.resolve import State
from nelvor.report.check import Report, check
from nelvor.web.heavy import turns

MOST_KEPT = 12

Key = tuple[str, State]


class Reports:
    """The newest few reports of this process."""

    def __init__(self, most: int = MOST_KEPT) -> None:
        self._most = most
        self._kept: OrderedDict[Key, Report] = OrderedDict()
        self._memory = Memory()
        self._lock = Lock()

    def of(self, value: Any, state: State) -> Report:
        """Return the report of a JSON job in one state, as it was worked out before or worked out now.

        Raises:
            BadInput, UnknownEdition: the job cannot be read.
            Busy: too many checks are under way.
        """
        return self._of(digest_of(value), state, lambda: parse_value(value))

    def of_edit(self, base: str, known: Callable[[], KnownJob], operations: list[Operation], state: State) -> Report:
        """Return the report of a stored revision, named by ``base``, with operations on it.

        Raises:
            BadInput, UnknownEdition, Busy: as ``of``.
        """
        key = f"{base} {digest_of([operation.model_dump(mode='json') for operation in operations])}"
        return self._of(key, state, lambda: known().edited(operations).document)

    def _of(self, content: str, state: State, read: Callable[[], Document]) -> Report:
        key = (content, state)
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
        with turns.turn():
            report = check(read(), state, self._memory)
        with self._lock:
            self._kept[key] = report
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)
        return report

    def tried(self, value: Any, state: State = "proposed") -> Report:
        """Return the report of a JSON job that is only tried out, and is not kept for later.

        Raises:
            BadInput, UnknownEdition, Busy: as ``of``.
        """
        with self._lock:
            known = self._kept.get((digest_of(value), state))
        if known is not None:
            return known
        with turns.turn():
            return check(parse_value(value), state, self._memory)

    def of_document(self, document: Document, state: State = "proposed") -> Report:
        """Return the report of a document that was read already."""
        return self.of(document.model_dump(mode="json"), state)


def digest_of(value: Any) -> str:
    """Return what tells the content of a JSON job from any other."""
    return hashlib.sha256(json.dumps(value, sort_keys=True, ensure_ascii=False).encode()).hexdigest()


reports = Reports()
