"""The service: the bond belongs in its disconnect, the neutral comes to it, and metal ahead of it hangs on the neutral."""

from __future__ import annotations

from nelvor.clauses import bonding_jumper
from nelvor.errors import CannotCompute
from nelvor.judges.bonds.answer import Decision
from nelvor.judges.bonds.place import Place
from nelvor.judges.verdict import Mend, proposing, size_as_told
from nelvor.working import Figure

ONLY_AS_SERVICE = "only_suitable"


def at_service(place: Place) -> Decision:
    """Judge a service disconnect: its neutral comes to it and is bonded there."""
    place.try_figure("main_bonding_jumper", lambda: _jumper(place))
    _switch_without_protection(place)
    _neutral_comes_along(place)
    if place.found == "bonded":
        place.judge.holds("bond", f"Neutral and metal are joined by the {place.joined_by}.", "main_bonding_jumper")
    elif place.found == "unknown":
        place.doubtful("main_bonding_jumper")
    elif place.found == "no_neutral":
        place.judge.must_fix(
            "bond",
            f"{place.name} is the service disconnect but has no neutral bar: the neutral must be brought to it and bonded.",
            "neutral_brought_to_service",
            mend=Mend("Fit a neutral bar with a bonding strap", place.mends.new_bar_and_bond()),
        )
    else:
        place.judge.must_fix(
            "bond",
            f"{place.name} is the service disconnect but its neutral is not joined to the metal. A fault would "
            "never trip a breaker. Fit the bonding screw or strap.",
            "main_bonding_jumper",
            mend=Mend("Fit the bond", tuple(place.mends.make_bond())),
        )
    return "bond"


def on_supply_side(place: Place) -> Decision:
    """Judge an enclosure ahead of the service disconnect: its metal hangs on the neutral."""
    if place.enclosure.service_marking == ONLY_AS_SERVICE:
        _only_as_service(place)
    if place.found == "bonded":
        place.judge.holds(
            "bond", "Bonded on the supply side, as is usual; this is no second bond.", "meter_neutral_supply_side"
        )
    elif place.found == "apart":
        place.judge.must_fix(
            "bond",
            f"The metal of {place.name} is ahead of the service disconnect and nothing bonds it. Join it to the neutral.",
            "supply_side_bonding",
            mend=Mend("Bond it to the neutral", tuple(place.mends.make_bond())),
        )
    else:
        place.judge.cannot_tell(
            "bond",
            f"How the metal of {place.name} is bonded is not entered; on the supply side the neutral usually does it.",
            "meter_neutral_supply_side",
        )
    return "supply_side"


def _only_as_service(place: Place) -> None:
    """Equipment whose neutral is bonded for good is no device that is marked as not service equipment (230.66)."""
    clause, start = (
        "service_equipment_marking",
        f"{place.name} is suitable only as service equipment: its neutral is bonded for good",
    )
    if any(gear.meter_mounted for gear in place.site.transfers_in.get(place.enclosure.id, [])):
        text = f"{start}, and gear at the meter is marked as not service equipment."
        mend = Mend("Use one marked suitable", proposing("enclosures", place.enclosure, service_marking="suitable"))
        place.judge.must_fix("marking", text, clause, "service_marking", mend)
    elif place.enclosure.emergency_marking != "none":
        operations = proposing("enclosures", place.enclosure, emergency_marking="service_disconnect")
        mend = Mend("Mark it as the service disconnect", operations)
        text = f"{start}, so it cannot be marked as not service equipment."
        place.judge.must_fix("marking", text, clause, "emergency_marking", mend)


def _jumper(place: Place) -> Figure:
    assert place.feeding is not None
    answer = place.answers.get(place.feeding.id)
    hots, material = (answer.size("hots"), answer.material) if answer else (None, None)
    if hots is None or material is None:
        if answer is not None and answer.kind == "utility":
            raise CannotCompute(
                "The jumper goes by the size and the metal of the utility's conductors.",
                "Ask for them, and enter them at the utility's run.",
                size_as_told(place.feeding),
            )
        raise CannotCompute("The size of the service conductors is not known.", "Complete the run that feeds it.")
    return bonding_jumper.supply_side_jumper(place.recorder, hots, place.feeding.sets, material, "copper")


def _switch_without_protection(place: Place) -> None:
    main = place.site.main_of(place.enclosure.id)
    if main is None or main.kind != "switch":
        return
    adjacent = place.enclosure.protection_adjacent
    if adjacent is None:
        place.judge.cannot_tell(
            "service_protection",
            f"{place.name} is a switch without overcurrent protection. Enter whether the "
            "protection is immediately adjacent.",
            "service_switch_protection",
            "protection_adjacent",
        )
    elif not adjacent:
        place.judge.must_fix(
            "service_protection",
            f"{place.name} is a switch without overcurrent protection, and none is immediately adjacent.",
            "service_switch_protection",
            mend=Mend("Use a breaker here", proposing("devices", main, kind="breaker")),
        )


def _neutral_comes_along(place: Place) -> None:
    """The utility brings its neutral to the service disconnect, used or not: it is the way home of a fault."""
    assert place.feeding is not None  # the zone of an enclosure without a feed is unknown
    run, neutral = place.feeding, place.mends.bar("neutral")
    if place.site.has_conductor(run, "neutral") or place.site.upstream_of(run) not in place.site.sources:
        return  # a run that is sized says so itself
    place.judge.must_fix(
        "neutral_missing",
        f"The run to {place.name} brings no neutral: without it a fault finds no way back to the utility.",
        "neutral_brought_to_service",
        mend=Mend("Bring the neutral along", tuple(place.mends.add_neutral(run, neutral.id))) if neutral else None,
    )
