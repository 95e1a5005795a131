"""The path for drawing: each enclosure's distance from its source and the lane it is drawn in.

x is conductor length accumulated from the source of the drawn tree; branches are lanes. A run
whose length is not known is drawn ``UNKNOWN_LENGTH_FT`` long and marked.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from nelvor.rules.site import Site
from nelvor.working import exact

UNKNOWN_LENGTH_FT = Fraction(20)


@dataclass(frozen=True)
class Place:
    """Where an enclosure or source stands on the drawing."""

    id: str
    x_ft: float
    lane: int
    run_id: str | None
    length_known: bool


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
        stack: list[tuple[str, Fraction, str | None, bool, int | None]] = [(start, Fraction(0), None, True, None)]
        while stack:
            owner, x_ft, run_id, known, parent_lane = stack.pop()
            if owner in found:
                continue
            if parent_lane is None:
                lane += 1
                own_lane = lane
            else:
                own_lane = parent_lane
            found[owner] = Place(owner, float(x_ft), own_lane, run_id, known)
            branches = []
            for number, run in enumerate(site.runs_from.get(owner, [])):
                length = UNKNOWN_LENGTH_FT if run.length_ft is None else exact(run.length_ft)
                branches.append(
                    (
                        site.downstream_of(run),
                        x_ft + length,
                        run.id,
                        run.length_ft is not None,
                        own_lane if number == 0 else None,
                    )
                )
            stack += reversed(branches)
    return list(found.values())
