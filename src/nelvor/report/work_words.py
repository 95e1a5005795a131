"""The words of the steps of work: titles of their stages, what changes of which property, and what is no work on site."""

from __future__ import annotations

from typing import Literal

Stage = Literal["off", "first", "place", "bond", "unbond", "away", "set", "measure", "on"]

STAGE_TITLES: dict[Stage, str] = {
    "off": "Switch off and prove dead",
    "first": "First of all, the bond that is missing",
    "place": "Put in place, both ends landed and torqued",
    "bond": "Make the bonds",
    "unbond": "Only now, take the wrong bonds out",
    "away": "Take away",
    "set": "Set and mark",
    "measure": "Measure",
    "on": "Switch on",
}

NOT_ON_SITE = frozenset(
    {
        "",
        "settings",
        "buildings",
        "dwelling_units",
        "amendments",
        "measurements",
        "prices",
        "planned_loads",
        "scenarios",
    }
)
"""Lists whose changes are decisions on paper, not work on site."""

PARTS_OF_OTHERS = frozenset(
    {"buses", "lugs", "bars", "stretches", "pulls", "taps", "reaches", "throws", "transfers", "transformers"}
)
"""Things that come and go with what they belong to, and are not told by themselves then."""


ON_PAPER = frozenset({("loads", "device_id"), ("devices", "bus_id"), ("circuits", "use"), ("enclosures", "note")})
"""Properties that tell where something belongs, not what is done: the wires that are moved have a step of their own."""

LEAVE_JOINTS = frozenset({"loads", "devices", "circuits"})
"""Things whose coming, going and change leaves the joints of neutral and metal as they are."""

ROLE_WORDS = {"neutral": "neutral", "ground": "grounding conductor"}
LANDINGS = frozenset(
    {
        "from_part",
        "to_part",
        "connects_to",
        "space",
        "half",
        "device_id",
        "hot_size",
        "neutral_size",
        "ground_size",
        "raceway_size",
    }
)

FIELD_WORDS = {
    ("devices", "rating_a"): "{name}: replace {before} A by {after} A.",
    ("devices", "frame_a"): "{name}: one of {after} A in place of {before} A.",
    ("transfers", "rating_a"): "{name}: gear of {after} A in place of {before} A.",
    ("devices", "space"): "Move {name} from space {before} to space {after}; land and torque.",
    ("devices", "tie"): "{name}: join its poles by {after}.",
    ("devices", "poles"): "{name}: {after} poles instead of {before}.",
    ("devices", "protection"): "{name}: a breaker against {after} instead of {before}.",
    ("devices", "series"): "{name}: a breaker of series {after}.",
    ("devices", "name"): "Write {after} on the door.",
    ("circuit_switches", "rating_a"): "{name}: a breaker of {after} A.",
    ("circuit_switches", "tied_to"): "{name}: its handle tied to {after}.",
    ("circuits", "wire_size"): "{name}: {before} → {after}.",
    ("runs", "length_ft"): "{name}: {after} ft long instead of {before} ft.",
    ("runs", "hot_size"): "{name}: hot conductors {before} → {after}.",
    ("runs", "neutral_size"): "{name}: neutral {before} → {after}.",
    ("runs", "ground_size"): "{name}: grounding conductor {before} → {after}.",
    ("runs", "raceway_size"): "{name}: raceway {before} in → {after} in.",
    ("runs", "cover_in"): "{name}: lay it {after} in deep instead of {before} in.",
    ("runs", "from_part"): "{name}: move its start, all conductors, from {before} to {after}; land and torque.",
    ("runs", "to_part"): "{name}: move its end, all conductors, from {before} to {after}; land and torque.",
    ("conductors", "from_part"): "Move one end from {before} to {after}; land and torque.",
    ("conductors", "to_part"): "Move one end from {before} to {after}; land and torque.",
    ("electrodes", "connects_to"): "{name}: move its conductor from {before} to {after}, unspliced.",
    ("bars", "insulated"): "{name}: insulated from the metal {before} → {after}.",
    ("enclosures", "emergency_marking"): "Mark {name}: {after}.",
    ("enclosures", "service_marking"): "Mark {name}: {after}.",
}
