"""The path for drawing: each enclosure's distance from its source and the lane it is drawn in.

x is conductor length accumulated from the source of the drawn tree; branches are lanes. A run
whose length is not known is drawn ``UNKNOWN_LENGTH_FT`` long and marked.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from nelvor.model.things import Run
from nelvor.rules.site import Site
from nelvor.working import exact

UNKNOWN_LENGTH_FT = Fraction(20)


@dataclass(frozen=True)
class Place:
    """Where an enclosure or source stands on the drawing; ``joins_ft`` is where its run taps another one."""

    id: str
    x_ft: float
    lane: int
    run_id: str | None
    length_known: bool
    joins_ft: float | None = None


def places(site: Site) -> list[Place]:
    """Return the place of every source and enclosure. The first branch of each goes straight on, others below."""
    found: dict[str, Place] = {}
    lane = -1
    starts = [source.id for source in site.document.sources if source.kind == "utility"]
    starts += [source.id for source in site.document.sources if source.id not in starts]
    starts += [item.id for item in site.document.enclosures if not site.runs_into.get(item.id)]
    for start in starts:
        if start in found:
            continue
        stack: list[tuple[str, Fraction, Run | None, int | None]] = [(start, Fraction(0), None, None)]
        while stack:
            owner, x_ft, run, parent_lane = stack.pop()
            if owner in found:
                continue
            if parent_lane is None:
                lane += 1
                own_lane = lane
            else:
                own_lane = parent_lane
            found[owner] = _place(site, owner, x_ft, own_lane, run)
            leaving = _with_taps_beneath(site, site.runs_from.get(owner, []))
            branches: list[tuple[str, Fraction, Run | None, int | None]] = [
                (
                    site.downstream_of(branch),
                    x_ft + _tapped_at(site, branch) + _length(branch),
                    branch,
                    own_lane if number == 0 and branch.id not in site.tap_of_run else None,
                )
                for number, branch in enumerate(leaving)
            ]
            stack += reversed(branches)
    return list(found.values())


def _with_taps_beneath(site: Site, runs: list[Run]) -> list[Run]:
    """Return the runs of an enclosure, each followed by those that tap it, so that a tap's lane is next to it."""
    ordered: list[Run] = []
    for run in runs:
        if run.id not in site.tap_of_run:
            taps = site.taps_on_run.get(run.id, [])
            ordered += [run, *(site.runs[tap.tap_run_id] for tap in taps if site.runs[tap.tap_run_id] in runs)]
    return ordered + [run for run in runs if run not in ordered]


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
