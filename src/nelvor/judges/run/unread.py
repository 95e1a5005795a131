"""What of a standing run nobody has read on site yet: never chosen for the user, and asked for until it is read."""

from __future__ import annotations

from nelvor.clauses.wiring_methods import RACEWAYS
from nelvor.judges.run.case import RunCase

LINES, NEUTRAL, GROUND, RACEWAY, DEVICE = "hot_size", "neutral_size", "ground_size", "raceway_size", "device"
WORDS = {
    LINES: "the size of the lines",
    NEUTRAL: "the size of the neutral",
    GROUND: "the size of the grounding conductor",
    RACEWAY: "the raceway",
    DEVICE: "the rating of its device",
}


def unread(case: RunCase) -> list[str]:
    """Return the properties of a standing run that are empty, though there is something to read."""
    run, site = case.run, case.site
    in_raceway = run.method in RACEWAYS
    there = {
        LINES: True,
        NEUTRAL: in_raceway and site.has_conductor(run, "neutral"),
        GROUND: in_raceway and site.has_conductor(run, "ground"),
        RACEWAY: in_raceway,
    }
    found = [name for name, exists in there.items() if exists and run.is_unread(name)]
    device = site.devices.get(run.from_part)
    return [*found, *([DEVICE] if device is not None and device.is_unread("rating_a") else [])]


def ask_for_the_unread(case: RunCase) -> list[str]:
    """Ask for what is still to be read on site, and return it."""
    names = unread(case)
    if not names:
        return names
    words = ", ".join([WORDS[name] for name in names])
    text = f"Still to be read on site: {words}. What is shown until then is the least that would do"
    drop = case.figures.get("total_drop")
    text += f"; the drop with it is {drop.text} %." if drop is not None and LINES in names else "."
    asks = tuple([(case.run.from_part, "rating_a") if name == DEVICE else (case.run.id, name) for name in names])
    case.judge.cannot_tell("to_be_read", text, field_name=names[0] if names[0] != DEVICE else "", asks=asks)
    return names
