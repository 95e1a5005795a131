"""Who feeds whom: the feed of each enclosure by design, runs that push power in beside it, loops, and the walking order.

The feed is the run over which ordinary power arrives: from the utility where it reaches, else from another source that
does not run beside the utility. It is found outward from the sources and hangs on no order of lists.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from nelvor.model.things import Run
from nelvor.topology.look_ups import LookUps, natural

UTILITY, OTHER_SOURCE, NO_SOURCE, INTERACTIVE = range(4)


@dataclass(frozen=True)
class Feeds:
    """The feeds of a site. ``root`` is where the power of an enclosure begins, ``rank`` what kind of beginning that is."""

    things: LookUps
    feeding: dict[str, Run]
    root: dict[str, str]
    rank: dict[str, int]

    @cached_property
    def in_loop(self) -> frozenset[str]:
        """The runs by which power could come back to where it began: feeds alone never form a loop."""
        if len(self.feeding) == len(self.things.drawn_runs):
            return frozenset()
        return _loops(self.things)

    @cached_property
    def beside(self) -> frozenset[str]:
        """The runs that push power of an interactive source into what is fed otherwise."""
        return frozenset(
            run.id
            for run in self._runs_of(INTERACTIVE)
            if run.id not in self.things.leads and self.feeding.get(self.things.downstream_of(run)) is not run
        )

    @cached_property
    def standby(self) -> frozenset[str]:
        """The runs of sources that stand in for the ordinary feed: those on the way to what is fed otherwise."""
        others = self._runs_of(OTHER_SOURCE)
        if not others:
            return frozenset()
        leads: dict[str, bool] = {}
        for owner in reversed(self.outward):
            leads[owner] = any(self._stands_in(run, leads) for run in self.things.runs_from.get(owner, []))
        return frozenset(run.id for run in others if self._stands_in(run, leads))

    def _runs_of(self, rank: int) -> list[Run]:
        """The runs that leave what is supplied by sources of a kind; none has to be looked at where nothing is."""
        if rank not in self.rank.values():
            return []
        return [run for run in self.things.drawn_runs if self.rank[self.things.upstream_of(run)] == rank]

    def _stands_in(self, run: Run, leads: dict[str, bool]) -> bool:
        beneath = self.things.downstream_of(run)
        return self.feeding.get(beneath) is not run or leads.get(beneath, False)

    @cached_property
    def supplying_from(self) -> dict[str, list[Run]]:
        """Runs by the enclosure or source whose loads they carry: all but those beside, those that close a loop, and leads."""
        return {owner: [run for run in runs if self._supplies(run)] for owner, runs in self.things.runs_from.items()}

    def _supplies(self, run: Run) -> bool:
        is_feed = self.feeding.get(self.things.downstream_of(run)) is run
        others = (self.in_loop, self.beside, self.things.leads)
        return is_feed or not any(run.id in runs for runs in others)

    @cached_property
    def carrying_from(self) -> dict[str, list[Run]]:
        """Runs by what carries them: those that it supplies, and those of circuits that its gear moves onto a standby supply."""
        moved = {
            home: [run for device in devices for run in self.things.runs_from_part.get(device, [])]
            for home, devices in self.things.switched_in.items()
        }
        if not moved:
            return self.supplying_from
        owners = dict.fromkeys([*self.supplying_from, *moved])
        return {owner: [*self.supplying_from.get(owner, []), *moved.get(owner, [])] for owner in owners}

    @cached_property
    def walking_order(self) -> list[str]:
        """Enclosure ids from the sources outward, each after what feeds it, branches one after another."""
        order: list[str] = []
        stack = list(reversed(self._roots))
        while stack:
            owner = stack.pop()
            if owner in self.things.enclosures:
                order.append(owner)
            stack += reversed(self._fed_from(owner))
        return order

    @cached_property
    def _roots(self) -> list[str]:
        begins = [owner for owner, root in self.root.items() if owner == root]
        return sorted(begins, key=lambda owner: (self.rank[owner], natural(owner)))

    def _fed_from(self, owner: str) -> list[str]:
        owners, feeding = self.things.owners, self.feeding
        runs = branches(self.things, owner)
        return [beneath for run in runs if feeding.get(beneath := owners[run.to_part]) is run]

    @cached_property
    def outward(self) -> list[str]:
        """Sources and enclosures so that each comes before all that it supplies, standby feeds counted."""
        owners, waiting = self.things.owners, dict.fromkeys(self.root, 0)
        for runs in self.carrying_from.values():
            for run in runs:
                waiting[owners[run.to_part]] += 1
        place = {owner: number for number, owner in enumerate(self.walking_order)}
        ready = [owner for owner, count in waiting.items() if count == 0]
        ready.sort(key=lambda owner: place.get(owner, -1), reverse=True)
        found: list[str] = []
        while ready:
            owner = ready.pop()
            found.append(owner)
            for run in reversed(self.carrying_from.get(owner, [])):
                beneath = owners[run.to_part]
                waiting[beneath] -= 1
                if waiting[beneath] == 0:
                    ready.append(beneath)
        return found

    def way_to_source(self, enclosure_id: str) -> list[Run]:
        """Return the runs from an enclosure back to where its power begins, nearest first."""
        runs = []
        run = self.feeding.get(enclosure_id)
        while run is not None:
            runs.append(run)
            run = self.feeding.get(self.things.upstream_of(run))
        return runs


def branches(things: LookUps, owner: str) -> list[Run]:
    """Return the runs that leave an enclosure or source, those that tap others last."""
    runs = things.runs_from.get(owner, [])
    return sorted(runs, key=lambda run: run.id in things.tap_of_run) if things.tap_of_run else runs


def feeds_of(things: LookUps) -> Feeds:
    """Return the feeds of a site, found outward from the best supply to the least."""
    feeding: dict[str, Run] = {}
    root: dict[str, str] = {}
    rank: dict[str, int] = {}
    for begin, its_rank in _beginnings(things):
        if begin in root:
            continue
        root[begin], rank[begin] = begin, its_rank
        _outward_from(things, deque([begin]), feeding, root, rank)
    return Feeds(things, feeding, root, rank)


def _beginnings(things: LookUps) -> Iterable[tuple[str, int]]:
    """Yield where power may begin, the best first; last of all, what only a loop leads to."""
    best: dict[str, int] = {}
    for source in things.document.sources:
        owner, its_rank = things.owners[source.id], _rank_of(source.kind, source.interactive)
        best[owner] = min(best.get(owner, its_rank), its_rank)
    ranked = sorted(best.items(), key=lambda item: (item[1], item[0] in things.runs_into, natural(item[0])))
    yield from (item for item in ranked if item[1] < NO_SOURCE)
    yield from (
        (owner, NO_SOURCE) for owner in things.enclosures if owner not in best and not things.runs_into.get(owner)
    )
    yield from (item for item in ranked if item[1] == INTERACTIVE)
    yield from ((owner, NO_SOURCE) for owner in things.enclosures)


def _rank_of(kind: str, interactive: bool | None) -> int:
    if kind == "utility":
        return UTILITY
    return INTERACTIVE if interactive else OTHER_SOURCE


def _outward_from(
    things: LookUps, reached: deque[str], feeding: dict[str, Run], root: dict[str, str], rank: dict[str, int]
) -> None:
    while reached:
        owner = reached.popleft()
        for run in branches(things, owner):
            beneath = things.downstream_of(run)
            if beneath not in root and run.id not in things.leads:
                feeding[beneath], root[beneath], rank[beneath] = run, root[owner], rank[owner]
                reached.append(beneath)


def _loops(things: LookUps) -> frozenset[str]:
    """Return the runs within a loop: what is left when ends that lead nowhere, forward or back, are taken away."""
    found = set()
    component = _strong_components(things)
    for run in things.drawn_runs:
        start, end = things.upstream_of(run), things.downstream_of(run)
        if start == end or component[start] == component[end]:
            found.add(run.id)
    return frozenset(found)


def _strong_components(things: LookUps) -> dict[str, int]:
    """Number owners so that two share a number where each leads to the other (two passes over the runs)."""
    owners = {*things.enclosures, *(things.owners[source] for source in things.sources)}
    finished: list[str] = []
    seen: set[str] = set()
    for start in owners:
        stack = [(start, iter(things.runs_from.get(start, [])))] if start not in seen else []
        seen.add(start)
        while stack:
            owner, leaving = stack[-1]
            run = next(leaving, None)
            if run is None:
                finished.append(owner)
                stack.pop()
            elif (beneath := things.downstream_of(run)) not in seen:
                seen.add(beneath)
                stack.append((beneath, iter(things.runs_from.get(beneath, []))))
    number: dict[str, int] = {}
    for start in reversed(finished):
        back = [start] if start not in number else []
        while back:
            owner = back.pop()
            if owner in number:
                continue
            number[owner] = number.get(start, len(number)) if owner != start else len(number)
            back += [
                above for run in things.runs_into.get(owner, []) if (above := things.upstream_of(run)) not in number
            ]
    return number
