"""What a cause means and how it is mended, in plain words: for the customer, and for the one with the screwdriver."""

from __future__ import annotations

from typing import Literal, NamedTuple

from nelvor.study.diagnosis.causes import CauseKind

Danger = Literal["none", "wrong", "lethal"]

DEAD = "All sources off, locked, unplugged and proved dead; the lugs ahead of the main stay live."
ENERGIZE = "Energize source by source; clamp the grounding conductors: near zero."
WHOLE = "Look that the neutral and the grounding conductor of the feed are whole at both ends, and torque them."


class Meaning(NamedTuple):
    """How bad it is, two sentences for the customer, and the mend in its safe order."""

    danger: Danger
    sentences: tuple[str, ...]
    mend: tuple[str, ...]


MEANINGS: dict[CauseKind, Meaning] = {
    "nothing": Meaning("none", ("What was read is what a sound site shows.",), ()),
    "bond_too_many": Meaning(
        "wrong",
        (
            "Neutral and metal are joined a second time, so part of the current that belongs in the neutral flows over "
            "grounding wires and metal.",
            "Nobody sees it, nothing trips; where a neutral then opens, all of it flows there.",
        ),
        (
            DEAD,
            WHOLE,
            "Sort neutrals and grounds onto their bars; only then take the screw or strap out.",
            "Still dead: lift the neutral of the feed, measure neutral to metal (open), land and torque it again.",
            ENERGIZE,
        ),
    ),
    "bond_missing": Meaning(
        "lethal",
        (
            "Neutral and metal are joined nowhere, so a fault finds no way back and no breaker opens.",
            "Everything of metal can then stand at the volts of the line.",
        ),
        (
            "Opened ahead by the utility where it is the service, and proved dead.",
            "Fit the main bonding jumper; torque it.",
            "Measure neutral to metal: closed.",
            ENERGIZE,
        ),
    ),
    "bond_otherwise": Meaning(
        "none",
        ("What stands there is as it belongs; the drawing is not.",),
        (DEAD, "Look at it, and enter it as it is found."),
    ),
    "neutral_open": Meaning(
        "lethal",
        (
            "The neutral is broken: the two halves of the supply share 240 V by what is switched on.",
            "Lights burn bright and dim, appliances are destroyed, and metal can be live.",
        ),
        (
            "Main off at once; of the service, call the utility, and do not lift the water bond.",
            DEAD,
            "Find the joint, make it anew at both ends, torque it.",
            "Measure from line to neutral on both legs before anything is switched on.",
        ),
    ),
    "neutral_poor": Meaning(
        "wrong",
        (
            "A joint of the neutral is bad: it gets warm, and volts shift from one half of the supply to the other.",
            "It gets worse by itself, and ends as an open neutral.",
        ),
        (DEAD, "Open each joint of this neutral, clean it, make it anew and torque it.", ENERGIZE),
    ),
    "ground_open": Meaning(
        "lethal",
        (
            "The grounding conductor is missing: nothing shows it as long as all is well.",
            "A fault beyond it makes metal live, and no breaker opens.",
        ),
        (
            DEAD,
            "Bring the grounding conductor, at both ends, and torque it.",
            "Measure it end to end: near zero.",
            ENERGIZE,
        ),
    ),
    "neutral_on_ground_bar": Meaning(
        "wrong",
        (
            "The neutral of one circuit lies on the ground bar: its current flows home over grounding wires.",
            "Metal carries current whenever that circuit is on.",
        ),
        (DEAD, "Move that neutral to the neutral bar, one to a terminal, and torque it.", ENERGIZE),
    ),
    "ground_on_neutral_bar": Meaning(
        "lethal",
        (
            "The grounding wire of the feed lies on the neutral bar: it carries current, and the metal of the box hangs on "
            "nothing.",
            "A fault there makes metal live, and no breaker opens.",
        ),
        (DEAD, "Move the grounding conductor to the ground bar on clean metal, and torque it.", ENERGIZE),
    ),
    "shared_neutral": Meaning(
        "wrong",
        (
            "The neutral of a circuit returns over another panel: switched off there, it can still be live.",
            "Its current flows around a loop and can overload a neutral that no breaker watches.",
        ),
        (DEAD, "Trace that circuit, and bring its neutral back to the panel of its breaker.", ENERGIZE),
    ),
    "outside_current": Meaning(
        "wrong",
        (
            "Current of a neighbor flows home over the water pipe and this building's wires.",
            "It flows also with this building switched off: opening that path can give a shock.",
        ),
        (
            "Tell the utility: the neutral of a neighbor is poor or open.",
            "Leave the water bond and the electrode conductors landed until it is mended.",
        ),
    ),
}
