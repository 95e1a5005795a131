"""The bonding relay of a source that other power passes through, against what becomes of the neutral in it."""

from __future__ import annotations

from nelvor.judges.bonds.answer import Decision
from nelvor.judges.bonds.derived_system import floating
from nelvor.judges.bonds.place import Place
from nelvor.judges.verdict import Mend, proposing
from nelvor.model.things import Source
from nelvor.model.vocabulary import RelayKind
from nelvor.topology.names import name_of

LIES_STILL = frozenset({"none", "disabled"})


def by_relay(place: Place) -> Decision:
    """Judge a source that opens the neutral when it stands alone: its relay makes the bond then, and only then."""
    source = place.site.passing[place.enclosure.id].source
    name = name_of(place.site, source.id)
    if place.found == "bonded":
        floating(place)  # a bond besides the relay is a second one as soon as the relay closes
    match source.relay:
        case None:
            _ask(place, source, f"Whether a relay in {name} bonds the neutral when it stands alone is not entered.")
        case "closes_when_islanded":
            text = "Its relay closes when nothing feeds its input, and makes the bond of its own system then."
            place.judge.holds("bond_relay", text, place.zone.clause)
        case "always_closed":
            text = f"The relay in {name} is closed all the time: with the grid there, its neutral has a second bond."
            _wrong(place, source, text, "closes_when_islanded")
        case _:
            text = (
                f"{name} opens the neutral when it stands alone, and no relay bonds it then: a fault would never trip a "
                "breaker. Turn its relay on as the maker tells, or let the neutral pass."
            )
            _wrong(place, source, text, "closes_when_islanded")
    return "bond_in_source"


def relay_lies_still(place: Place) -> None:
    """Where the neutral passes through a source the bond ahead serves it: a relay that closes makes a second one."""
    passing = place.site.passing.get(place.enclosure.id)
    if passing is None or passing.source.relay in LIES_STILL:
        return
    source, name = passing.source, name_of(place.site, passing.source.id)
    if source.relay is None:
        _ask(place, source, f"Whether a relay in {name} bonds the neutral when it stands alone is not entered.")
        return
    text = (
        f"The neutral passes through {name}, and its relay joins it to the metal: a second bond. Turn the relay off as the "
        "maker tells, and record it."
    )
    _wrong(place, source, text, "disabled")


def _ask(place: Place, source: Source, text: str) -> None:
    place.judge.about("sources", source.id).cannot_tell("bond_relay", text, place.zone.clause, "relay")


def _wrong(place: Place, source: Source, text: str, right: RelayKind) -> None:
    words = "Let the relay close when it stands alone" if right == "closes_when_islanded" else "Turn the relay off"
    mend = Mend(words, proposing("sources", source, relay=right))
    place.judge.must_fix("bond", text, place.zone.clause, mend=mend)
