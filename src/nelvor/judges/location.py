"""Where equipment stands: rooms in which none may be, the height of handles, and the working space before it."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from typing import NamedTuple

from nelvor.judges.verdict import Judge
from nelvor.model.things import Enclosure
from nelvor.model.voltages import LINE_TO_NEUTRAL_V
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder

EXAMINED = frozenset({"panel", "disconnect", "meter_disconnect", "transfer_switch"})
CONDITION = {"insulated": "cond1_ft", "grounded": "cond2_ft", "live": "cond3_ft"}
SAME_FOR_ALL_V = 150
INCHES = 12
ASKED = {
    "room": "the room",
    "handle_height_in": "the height of its highest handle",
    "working_depth_in": "the clear depth before it",
    "working_width_in": "the clear width before it",
    "working_height_in": "the headroom",
    "dedicated_space": "whether the space above and below is kept for it",
}
ROOM = ("working_depth_in", "working_width_in", "working_height_in")
ASKED_OF_SERVICE = {
    "near_entrance": "whether it is outdoors or nearest to where the conductors enter",
    "marked_as_disconnect": "whether it is marked as the service disconnect",
}


class Wrong(NamedTuple):
    """What is wrong about a place, by which clause, at which field."""

    text: str
    clause: str
    field: str


def judge_location(
    site: Site, rules: Rules, judge: Judge, recorder: Recorder, enclosure: Enclosure, decision: str
) -> None:
    """Judge the place of new equipment; of what stands only what was told, and as advice: it may be lawful from before."""
    if enclosure.kind not in EXAMINED:
        return
    service = decision == "bond"
    new = enclosure.standing == "added"
    name = name_of(site, enclosure.id)
    wrong = [
        *_room(site, rules, enclosure, service),
        *_measures(site, recorder, enclosure),
        *_answers(enclosure, service),
    ]
    for number, (text, clause, field) in enumerate(wrong):
        code = f"place_{field}" if number else "place"
        if new:
            judge.must_fix(code, f"{name} {text}", clause, field)
        else:
            judge.advise(code, f"{name} {text} It stands from before; not so where it is replaced.", clause, field)
    open_questions = list(_open(enclosure, service)) if new and not enclosure.place_as_required else []
    if open_questions:
        words = ", ".join(words for _, words in open_questions)
        text = f"Where {name} stands is not told whole: {words}. Enter it, or that all of it is as required."
        fields = _fields_asked(enclosure, [field for field, _ in open_questions])
        judge.cannot_tell("place_unknown", text, "working_space", fields[0], tuple((enclosure.id, it) for it in fields))
    elif new and not wrong:
        judge.holds("place", f"{name} stands where it may, with room to work on it.", "working_space")


def _fields_asked(enclosure: Enclosure, missing: list[str]) -> list[str]:
    """The fields that the question leads to: the one answer for all of it, unless some were entered or that is denied."""
    begun = any(getattr(enclosure, field) is not None for field in ASKED) or enclosure.place_as_required is False
    return missing if begun else ["place_as_required"]


def _open(enclosure: Enclosure, service: bool) -> Iterator[tuple[str, str]]:
    """What is not told of a place: outdoors there is no room, and no dedicated space is asked for here."""
    outdoors = enclosure.placement == "outdoors"
    for field, words in {**ASKED, **(ASKED_OF_SERVICE if service else {})}.items():
        if outdoors and field in ("room", "dedicated_space", "near_entrance", "working_height_in"):
            continue
        if getattr(enclosure, field) is None:
            yield field, words


def _room(site: Site, rules: Rules, enclosure: Enclosure, service: bool) -> Iterator[Wrong]:
    if enclosure.placement == "outdoors":
        return
    if enclosure.room == "clothes_closet":
        yield Wrong("is in a clothes closet, near what burns easily. Move it.", "clothes_closet_bathroom_panel", "room")
    elif enclosure.room == "stairway":
        yield Wrong("is over the steps of a stairway. Move it.", "over_steps", "room")
    elif enclosure.room == "bathroom":
        everywhere = rules.parameter("bathroom_of_any_building").value == "1"
        if service:
            yield Wrong("is a service disconnect in a bathroom. Move it.", "service_not_in_bathroom", "room")
        elif everywhere or site.is_one_family(enclosure.id) or site.is_one_family(enclosure.id) is None:
            yield Wrong("is in a bathroom. Move it.", "clothes_closet_bathroom_panel", "room")


def _measures(site: Site, recorder: Recorder, enclosure: Enclosure) -> Iterator[Wrong]:
    if enclosure.handle_height_in is not None:
        most = recorder.parameter("handle_highest_in", "Highest handle")
        height = recorder.given("Height of the highest handle", enclosure.handle_height_in, "in", "enclosure")
        if not recorder.at_least("Within reach", most, height, clause="max_handle_height"):
            text = f"has a handle at {height.text} in when up; {most.text} in (6 ft 7 in) is the most. Hang it lower."
            yield Wrong(text, "max_handle_height", "handle_height_in")
    entered = [getattr(enclosure, field) for field in ROOM]
    asked = least_room(site, recorder, enclosure) if any(value is not None for value in entered) else ()
    for field, label, least, clause in asked:
        value = getattr(enclosure, field)
        if value is None or least is None:
            continue
        have = recorder.given(label, value, "in", "enclosure")
        if not recorder.at_least(f"{label} is enough", have, least, clause=clause):
            text = f"has {have.text} in of {label.lower()}; {least.text} in is the least."
            yield Wrong(text, clause, field)


def least_room(site: Site, recorder: Recorder, enclosure: Enclosure) -> Iterator[tuple[str, str, Figure | None, str]]:
    """Yield the least depth, width and headroom before an enclosure in inches: field, words, figure, clause."""
    yield "working_depth_in", "Clear depth", _depth(site, recorder, enclosure), "working_depth"
    width = recorder.parameter("working_width_least_in", "Least width")
    yield "working_width_in", "Clear width", width, "working_width"
    if enclosure.placement != "outdoors":
        height = recorder.parameter("working_height_least_in", "Least headroom")
        yield "working_height_in", "Headroom", height, "working_height"


def _depth(site: Site, recorder: Recorder, enclosure: Enclosure) -> Figure | None:
    """The least depth by the volts to ground and what lies across; None where one of them is not known."""
    volts = LINE_TO_NEUTRAL_V.get(site.system_at(enclosure.id) or "")
    if volts is None or (volts > SAME_FOR_ALL_V and enclosure.facing is None):
        return None
    to_ground = recorder.given("Volts to ground", volts, "V", "system")
    column = CONDITION[enclosure.facing or "insulated"]
    feet = recorder.band("Least depth", "working_clearance", to_ground, column)
    return recorder.multiply(
        "Least depth in inches",
        feet,
        recorder.given("inches in a foot", Fraction(INCHES), "in/ft", "unit"),
        unit="in",
        clause="working_depth",
    )


def _answers(enclosure: Enclosure, service: bool) -> Iterator[Wrong]:
    if enclosure.dedicated_space is False:
        text = "has piping, ducts or other foreign things in the space above or below it. Keep that space clear."
        yield Wrong(text, "dedicated_space", "dedicated_space")
    if service and enclosure.near_entrance is False and enclosure.placement != "outdoors":
        text = (
            "is a service disconnect far from where the conductors enter. Place it outdoors or nearest to that point."
        )
        yield Wrong(text, "service_disconnect_location", "near_entrance")
    if service and enclosure.marked_as_disconnect is False:
        yield Wrong(
            "is not marked as the service disconnect. Mark it.", "service_disconnect_marking", "marked_as_disconnect"
        )
