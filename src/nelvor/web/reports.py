"""Reports by the content of their document: what a check just worked out serves workings, levels and comparisons."""

from __future__ import annotations

import hashlib
import json
from collections import OrderedDict
from typing import Any

from nelvor.model.parse import parse_value
from nelvor.model.resolve import State
from nelvor.report.check import Report, check
from nelvor.report.trials import Trials

MOST_KEPT = 12
MOST_THINGS_KEPT = 800

Key = tuple[str, State]


class Reports:
    """The newest few reports of this process."""

    def __init__(self, most: int = MOST_KEPT) -> None:
        self._most = most
        self._kept: OrderedDict[Key, Report] = OrderedDict()
        self._trials = Trials()

    def of(self, value: Any, state: State) -> Report:
        """Return the report of a JSON job in one state, as it was worked out before or worked out now.

        Raises:
            BadInput, UnknownEdition: the job cannot be read.
        """
        key = (digest_of(value), state)
        if key not in self._kept:
            self._kept[key] = check(parse_value(value), state)
        self._kept.move_to_end(key)
        while len(self._kept) > self._most or (len(self._kept) > 1 and self._things() > MOST_THINGS_KEPT):
            self._kept.popitem(last=False)
        return self._kept[key]

    def _things(self) -> int:
        return sum(len(report.site.document.loads) + len(report.site.document.runs) for report in self._kept.values())

    def tried(self, value: Any, state: State = "proposed") -> Report:
        """Return the report of a JSON job that is only tried out, and is not kept for later.

        Raises:
            BadInput, UnknownEdition: as ``of``.
        """
        return self._kept.get((digest_of(value), state)) or self._trials.checked(value, state)


def digest_of(value: Any) -> str:
    """Return what tells the content of a JSON job from any other."""
    return hashlib.sha256(json.dumps(value, sort_keys=True, ensure_ascii=False).encode()).hexdigest()


reports = Reports()
