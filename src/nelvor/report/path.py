"""The path for drawing: each enclosure's distance from its source and the lane it is drawn in.

x is conductor length accumulated from the source of the drawn tree; branches are lanes. A run
whose length is not known is drawn ``UNKNOWN_LENGTH_FT`` long and marked. What comes in beside the supply, or stands
in for it, stands beyond the enclosure that it feeds, its run drawn from there.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import NamedTuple

from nelvor.model.things import Run
from nelvor.topology.site import Site
from nelvor.working import exact

UNKNOWN_LENGTH_FT = Fraction(20)
LANES_TRIED = 12


@dataclass(frozen=True)
class Place:
    """Where an enclosure or source stands on the drawing; ``joins_ft`` is where its run taps another one."""

    id: str
    x_ft: float
    lane: int
    run_id: str | None
    length_known: bool
    joins_ft: float | None = None


class Lanes:
    """Which stretches of the axis are taken in each lane, so that branches which do not meet share one."""

    def __init__(self) -> None:
        self.taken: list[list[tuple[Fraction, Fraction]]] = []

    def new(self, begin: Fraction, end: Fraction) -> int:
        """Return a lane below all others, taken from ``begin`` to ``end``."""
        self.taken.append([(begin, end)])
        return len(self.taken) - 1

    def below(self, lane: int, begin: Fraction, end: Fraction) -> int:
        """Return the nearest lane below another in which a branch from ``begin`` to ``end`` has room.

        The branch goes down at ``begin``, through lanes that nothing crosses there.
        """
        for number in range(lane + 1, min(len(self.taken), lane + 1 + LANES_TRIED)):
            if all(last < begin or end < first for first, last in self.taken[number]):
                self.taken[number].append((begin, end))
                return number
            if any(first < begin <= last for first, last in self.taken[number]):
                break
        return self.new(begin, end)


def places(site: Site) -> list[Place]:
    """Return the place of every source and enclosure. The first branch of each goes straight on, others below."""
    found: dict[str, Place] = {}
    lanes = Lanes()
    starts = [source.id for source in site.document.sources if source.kind == "utility"]
    others = dict.fromkeys(site.owners[source.id] for source in site.document.sources if source.id not in starts)
    starts += sorted(others, key=lambda owner: _stands_in(site, owner))
    starts += [item.id for item in site.document.enclosures if not site.runs_into.get(item.id)]
    for start in starts:
        if start in found:
            continue
        stack: list[_Stop] = [_Stop(start, Fraction(0), None, None, None)]
        while stack:
            stop = stack.pop()
            if stop.owner in found:
                continue
            lane = stop.straight_on
            if lane is None:
                end = _end_of_chain(site, stop.owner, stop.x_ft)
                lane = lanes.new(Fraction(0), end) if stop.below is None else lanes.below(stop.below, stop.begins, end)
            found[stop.owner] = _place(site, stop.owner, stop.x_ft, lane, stop.run)
            stack += reversed(_stops_beyond(site, stop, lane))
    return list(found.values())


def _stands_in(site: Site, owner: str) -> bool:
    """Tell whether a source only comes in where something else feeds: it is drawn from there."""
    return any(run.id in site.feeds.standby or run.id in site.feeds.beside for run in site.runs_from.get(owner, []))


class _Stop(NamedTuple):
    """An enclosure still to be placed: in the lane it goes straight on in, or in one below another."""

    owner: str
    x_ft: Fraction
    run: Run | None
    straight_on: int | None
    below: int | None
    begins: Fraction = Fraction(0)
    from_beside: bool = False


def _stops_beyond(site: Site, stop: _Stop, lane: int) -> list[_Stop]:
    stops, on = [], _straight_on(site, stop.owner)
    for branch in _with_taps_beneath(site, site.runs_from.get(stop.owner, [])):
        begins = stop.x_ft + _tapped_at(site, branch)
        straight = branch is on
        stops.append(
            _Stop(
                site.downstream_of(branch),
                begins + _length(branch),
                branch,
                lane if straight else None,
                None if straight else lane,
                begins,
            )
        )
    return [*stops, *_stops_of_what_pushes_in(site, stop, lane)]


def _stops_of_what_pushes_in(site: Site, stop: _Stop, lane: int) -> list[_Stop]:
    """The sources that feed in here beside the supply, and the boxes on their way, each in a lane of its own."""
    return [
        _Stop(site.upstream_of(run), stop.x_ft + _length(run), run, None, lane, stop.x_ft, from_beside=True)
        for run in site.runs_into.get(stop.owner, [])
        if run is not stop.run and (run.id in site.feeds.beside or run.id in site.feeds.standby or stop.from_beside)
    ]


def _straight_on(site: Site, owner: str) -> Run | None:
    """The run that is drawn on in the lane of its enclosure: the first, unless it is a tap."""
    first = next(iter(_with_taps_beneath(site, site.runs_from.get(owner, []))), None)
    return None if first is None or first.id in site.tap_of_run else first


def _end_of_chain(site: Site, owner: str, x_ft: Fraction) -> Fraction:
    """How far the lane of an enclosure is taken: to the last that goes straight on from it."""
    seen = {owner}
    while (run := _straight_on(site, owner)) is not None and site.downstream_of(run) not in seen:
        owner = site.downstream_of(run)
        seen.add(owner)
        x_ft += _length(run)
    return x_ft


def _with_taps_beneath(site: Site, runs: list[Run]) -> list[Run]:
    """Return the runs of an enclosure, each followed by those that tap it, so that a tap's lane is next to it."""
    here = {run.id: run for run in runs}
    ordered: dict[str, Run] = {}
    for run in runs:
        if run.id not in site.tap_of_run:
            ordered[run.id] = run
            taps = site.taps_on_run.get(run.id, [])
            ordered |= {tap.tap_run_id: here[tap.tap_run_id] for tap in taps if tap.tap_run_id in here}
    return list((ordered | here).values())


def _length(run: Run) -> Fraction:
    return UNKNOWN_LENGTH_FT if run.length_ft is None else exact(run.length_ft)


def _tapped_at(site: Site, run: Run) -> Fraction:
    tap = site.tap_of_run.get(run.id)
    return Fraction(0) if tap is None or tap.at_ft is None else exact(tap.at_ft)


def _place(site: Site, owner: str, x_ft: Fraction, lane: int, run: Run | None) -> Place:
    if run is None:
        return Place(owner, float(x_ft), lane, None, True)
    joins = float(x_ft - _length(run)) if run.id in site.tap_of_run else None
    return Place(owner, float(x_ft), lane, run.id, run.length_ft is not None, joins)
