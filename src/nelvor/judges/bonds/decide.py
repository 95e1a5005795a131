"""The decision for every neutral of one enclosure, with everything that follows from it."""

from __future__ import annotations

from nelvor.judges.answer import Subject
from nelvor.judges.bonds.answer import BondAnswer, Decision, NeutralDecision
from nelvor.judges.bonds.derived_system import bond_of_system, floating
from nelvor.judges.bonds.load_side import behind_bond
from nelvor.judges.bonds.place import Place
from nelvor.judges.bonds.portable import alone_on_cords, as_marked
from nelvor.judges.bonds.relay import by_relay, relay_lies_still
from nelvor.judges.bonds.service_bond import at_service, on_supply_side
from nelvor.judges.bonds.to_fit import conductors_to_run, parts_to_fit
from nelvor.judges.bonds.wrong_bars import wrong_bars
from nelvor.judges.verdict import Mend
from nelvor.topology.grounded import neutral_parts
from nelvor.topology.joints import inside
from nelvor.topology.names import thing_name

PAST_THE_POLE = "derived_neutral_apart"


def decided(place: Place) -> BondAnswer:
    """Return the answer for an enclosure."""
    decision = _decision(place)
    wrong_bars(place, decision)
    part = next(iter(place.neutral), "")
    section = place.rules.section(place.zone.clause)
    ordinary = NeutralDecision(part, decision, place.zone.reason, section, place.found)
    return BondAnswer(
        neutrals=(ordinary, *_further(place)),
        subject=Subject("bond", place.enclosure.id),
        figures=place.figures,
        gaps=place.gaps,
        verdicts=tuple(place.judge.verdicts),
        working=place.recorder,
        enclosure_id=place.enclosure.id,
        parts=tuple(parts_to_fit(place, decision)),
        conductors=tuple(conductors_to_run(place, decision)),
    )


def _decision(place: Place) -> Decision:
    match place.zone.kind:
        case "service":
            return at_service(place)
        case "supply":
            return on_supply_side(place)
        case "load":
            return behind_bond(place)
        case "in_source" if (portable := alone_on_cords(place)) is not None:
            return as_marked(place, portable)
        case "derived" | "in_source":
            return bond_of_system(place)
        case "floating":
            relay_lies_still(place)
            return floating(place)
        case "by_relay":
            return by_relay(place)
        case "no_neutral":
            return "no_neutral"
        case "no_way_back":
            place.judge.must_fix("neutral_missing", place.zone.reason, place.zone.clause)
            return "unknown"
        case _:
            place.judge.cannot_tell("bond", place.zone.reason, place.zone.clause, place.zone.field)
            return "unknown"


def _further(place: Place) -> list[NeutralDecision]:
    """Neutrals that gear parts from the ordinary one: they stay apart, wherever the ordinary one is bonded."""
    if not place.may_have_further_neutrals:
        return []
    reason = "Its bond is at the beginning of its own system, or ahead: past the switched pole it stays apart."
    decisions = []
    for part in neutral_parts(place.site, place.enclosure.id)[1:]:
        within = inside(place.site, place.enclosure.id, part)
        decisions.append(NeutralDecision(part[0], "apart", reason, place.rules.section(PAST_THE_POLE), within.found))
        name = thing_name(place.site, part[0])
        if within.found == "bonded":
            mend = Mend(f"Take the bond of {name} out", tuple(place.mends.take_out(within.joining)))
            text = f"{name} is bonded in {place.name}, past a pole that opens the neutral: then two bonds are live, or none."
            place.judge.must_fix("other_neutral", text, PAST_THE_POLE, mend=mend)
        elif within.found == "unknown":
            text = f"Whether {name} is joined to the metal of {place.name} is not known."
            place.judge.cannot_tell("other_neutral", text, PAST_THE_POLE)
    return decisions
