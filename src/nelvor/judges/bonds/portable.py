"""A portable set that feeds nothing but its own outlets: bonded or floating as it is made, and no electrode (250.34(A))."""

from __future__ import annotations

from nelvor.judges.bonds.answer import Decision
from nelvor.judges.bonds.place import Place
from nelvor.judges.verdict import Mend, proposing
from nelvor.model.things import Source

CLAUSE, MARKING = "portable_generator_frame", "generator_neutral_marking"
MARKED = {"bonded": "bonded_neutral", "apart": "floating_neutral"}
WORDS = {"bonded": "joined to its frame", "apart": "apart from its frame"}


def alone_on_cords(place: Place) -> Source | None:
    """Return the portable set of an enclosure from which nothing of a building is fed; None for any other."""
    sources = place.site.sources_in.get(place.enclosure.id, [])
    feeds = place.site.runs_from.get(place.enclosure.id)
    return sources[0] if len(sources) == 1 and sources[0].portable and not feeds else None


def as_marked(place: Place, source: Source) -> Decision:
    """Judge its neutral by what it is marked as; whoever changes its bond changes the marking too (445.11)."""
    text = f"{place.name} feeds its own outlets alone: its frame needs no electrode."
    place.judge.holds("derived_electrode", text, CLAUSE)
    about = place.judge.about("sources", source.id)
    if place.found not in MARKED:
        place.doubtful(CLAUSE)
    elif source.marking is None:
        text = f"Whether {place.name} is marked as bonded or as floating is not read."
        about.cannot_tell("marking", text, MARKING, "marking")
    elif source.marking == MARKED[place.found]:
        place.judge.holds("bond", f"Its neutral is {WORDS[place.found]}, as it is marked.", CLAUSE)
    else:
        text = f"The neutral of {place.name} is {WORDS[place.found]}, and its marking says otherwise: mark it as it is."
        mend = Mend("Mark it as it is", proposing("sources", source, marking=MARKED[place.found]))
        about.must_fix("marking", text, MARKING, "marking", mend)
    return "floating" if place.found == "apart" else "bond_in_source"
