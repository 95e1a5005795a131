"""Openings of a panel that nothing uses, knockouts and breaker spaces: closed, so that nothing live is touched (110.12(A))."""

from __future__ import annotations

from nelvor.judges.verdict import Judge
from nelvor.model.things import Bus
from nelvor.topology.names import name_of
from nelvor.topology.site import Site


def judge_openings(site: Site, judge: Judge, bus: Bus) -> None:
    """Judge what was found of the openings of a panel; where nobody looked, the survey asks and nothing is said here."""
    closed = site.enclosures[bus.enclosure_id].openings_closed
    about, name = judge.about("enclosures", bus.enclosure_id), name_of(site, bus.enclosure_id)
    if closed:
        about.holds("openings", f"The unused openings of {name} are closed.", "unused_openings", "openings_closed")
    elif closed is False:
        text = (
            f"Unused openings of {name} stand open. Close each with a filler or plug made for it, with the power off."
        )
        about.must_fix("openings", text, "unused_openings", "openings_closed")
