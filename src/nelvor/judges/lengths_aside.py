"""What the answer of a box rests on while lengths of runs alone are edited: most boxes are then judged as before.

Of lengths a box is told those of the runs that meet it and of those on the way to it, since they lower a fault current. All else
of a site is held in one token that is the same object as long as everything but lengths is the same.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Mapping, Sequence
from functools import cached_property, partial
from typing import TypeVar

from nelvor.judges.memory import Memory
from nelvor.judges.run import RunAnswer
from nelvor.model.document import LISTS
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site

BY_LENGTH_ALONE = frozenset({"drop", "total_drop"})

T = TypeVar("T")


class LengthsAside:
    """Recalls the answers of boxes that rest on the very same site, but for lengths of runs elsewhere."""

    def __init__(self, site: Site, rules: Rules, runs: Mapping[str, RunAnswer], memory: Memory) -> None:
        self._site, self._rules, self._runs, self._memory = site, rules, runs, memory

    def of_the_site(self, question: str, work: Callable[[], T]) -> T:
        """Return the answer to a question about the whole site that no length has a part in."""
        return self._memory.latest(question, lambda: ([self._same], None), work)

    def of_box(self, question: str, box: str, work: Callable[[], T], *others: object) -> T:
        """Return the answer to a question about a box; ``others`` are what it rests on besides."""
        return self._memory.recall(question, partial(self._rests_on, box, others), work)

    def _rests_on(self, box: str, others: Sequence[object]) -> tuple[Sequence[object], Hashable]:
        meeting = [*self._site.runs_into.get(box, []), *self._site.runs_from.get(box, [])]
        of_runs = [item for run in meeting for item in (run, self._runs.get(run.id))]
        return [self._same, self._read, self._ways.get(box), *of_runs, *others], box

    def as_one(self, name: str, values: Hashable) -> object:
        """Return a token for values, the same object as long as they are equal."""
        return self._memory.latest(f"all {name}", lambda: ([], values), object)

    @cached_property
    def _same(self) -> object:
        """The token of all of the site but lengths."""
        document = self._site.document
        others = [thing for name in LISTS if name != "runs" for thing in getattr(document, name)]
        but_lengths = (self._site.taken, tuple(run.but_its_length for run in document.runs))
        objects = [self._rules, document.settings, *others]
        return self._memory.latest("but lengths", lambda: (objects, but_lengths), object)

    @cached_property
    def _read(self) -> object:
        return self.as_one("that is read of runs", tuple(_read_of(answer) for answer in self._runs.values()))

    @cached_property
    def _ways(self) -> dict[str, object]:
        """A token for the way to each box, the same as long as its runs and their answers are."""
        ways: dict[str, object] = {}
        for box in self._site.walking_order:
            run = self._site.feeding_run(box)
            if run is not None:
                way = [ways.get(self._site.upstream_of(run)), run, self._runs.get(run.id)]
                ways[box] = self._memory.recall("way", partial(_along, way), object)
        return ways


def _along(way: Sequence[object]) -> tuple[Sequence[object], Hashable]:
    return way, None


def _read_of(answer: RunAnswer) -> Hashable:
    """What boxes elsewhere may read of a run: all its figures but those that are nothing but its length's."""
    figures = tuple((name, figure.value) for name, figure in answer.figures.items() if name not in BY_LENGTH_ALONE)
    return answer.kind, figures, tuple(answer.gaps)
