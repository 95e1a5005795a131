"""What a worker knows of stored revisions: the newest few of each job, with what was worked out about them."""

from __future__ import annotations

import hashlib
import json
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from nelvor.judges.memory import Memory
from nelvor.model.changes.operations import Operation
from nelvor.model.edited import KnownJob
from nelvor.model.parse import parse_stored
from nelvor.model.resolve import State
from nelvor.pool.question import NeedsMore
from nelvor.report.check import Report, check
from nelvor.store.packing import unpacked

MOST_JOBS = 130
MOST_STATES_EACH = 4
REMEMBERED, REMEMBERED_FOR_EACH_THING = 60, 1
"""So many answers are remembered of a job, and so many more for each of its things: about three checks of it."""


Edit = tuple[int, str]
"""A revision, and what tells the operations on it from any others."""


class NotKnownHere(NeedsMore):
    """This worker does not know the revision: ask again with its document."""


@dataclass(frozen=True)
class StoredJob:
    """A revision as it is named to a worker.

    ``made_from`` is the revision that it was made from with the operations, where it was made by nothing else;
    ``packed`` is its document, which is sent where the worker does not know it.
    """

    job_id: str
    number: int
    made_from: tuple[int, tuple[Operation, ...]] | None = None
    packed: bytes | None = None


@dataclass
class _Kept:
    """The newest states of one job, and the reports on them. A state that was saved goes by both its names."""

    states: OrderedDict[Edit, KnownJob] = field(default_factory=OrderedDict)
    reports: OrderedDict[tuple[int, State], tuple[KnownJob, Report]] = field(default_factory=OrderedDict)
    memory: Memory = field(default_factory=Memory)


class StoredJobs:
    """The jobs that were asked about lately, each with a memory of its own."""

    def __init__(self, most: int = MOST_JOBS) -> None:
        self._most = most
        self._kept: OrderedDict[str, _Kept] = OrderedDict()

    def report(self, stored: StoredJob, operations: Sequence[Operation], state: State) -> Report:
        """Return the report on a stored revision with operations on it, in one state.

        Raises:
            NotKnownHere: the revision is not known and was not sent.
            BadInput, UnknownEdition: the operations do not fit, or leave what cannot be read.
        """
        kept = self._of(stored.job_id)
        known = self.edited(stored, operations)
        found = kept.reports.get((id(known), state))
        if found is None:
            kept.memory.most = REMEMBERED + REMEMBERED_FOR_EACH_THING * len(known.things)
            found = known, check(known.document, state, kept.memory)
            kept.reports[id(known), state] = found
            _keep_newest(kept.reports, MOST_STATES_EACH)
        return found[1]

    def edited(self, stored: StoredJob, operations: Sequence[Operation] = ()) -> KnownJob:
        """Return a stored revision with operations on it.

        Raises:
            NotKnownHere, BadInput: as ``report``.
        """
        kept = self._of(stored.job_id)
        edit = (stored.number, _digest(operations))
        if edit not in kept.states:
            kept.states[edit] = self._read(kept, stored, operations)
        kept.states.move_to_end(edit)
        _keep_newest(kept.states, MOST_STATES_EACH)
        return kept.states[edit]

    def _read(self, kept: _Kept, stored: StoredJob, operations: Sequence[Operation]) -> KnownJob:
        if operations:
            return self.edited(stored).edited(operations)
        if stored.made_from is not None:
            base, made_by = stored.made_from
            edit = (base, _digest(made_by))
            if edit in kept.states:
                return kept.states[edit]
            if (base, _digest(())) in kept.states:
                return kept.states[base, _digest(())].edited(made_by)
        if stored.packed is None:
            raise NotKnownHere
        return KnownJob.of(parse_stored(unpacked(stored.packed)))

    def _of(self, job_id: str) -> _Kept:
        kept = self._kept.setdefault(job_id, _Kept())
        self._kept.move_to_end(job_id)
        _keep_newest(self._kept, self._most)
        return kept


def _keep_newest(kept: OrderedDict[Any, Any], most: int) -> None:
    while len(kept) > most:
        kept.popitem(last=False)


def _digest(operations: Sequence[Operation]) -> str:
    content = [operation.model_dump(mode="json") for operation in operations]
    return hashlib.sha256(json.dumps(content, sort_keys=True).encode()).hexdigest()


stored_jobs = StoredJobs()
