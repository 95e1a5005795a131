"""A generator and its wires: fixed with a breaker of its own, or on a cord that is plugged into an inlet."""

from __future__ import annotations

from typing import Any

from nelvor.additions.draft import Draft, Ends
from nelvor.additions.options import SetOptions
from nelvor.additions.receiver import Receiver
from nelvor.model.new_things import NEW_ENCLOSURES
from nelvor.model.vocabulary import SourceMarking

FLOATING: SourceMarking = "floating_neutral"


def fixed_generator(
    draft: Draft, receiver: Receiver, options: SetOptions, marking: SourceMarking | None, end: Ends, legs: list[str]
) -> str:
    """Add a generator that stands for good, and the run from its breaker; return its ground bar."""
    made = _set(draft, receiver, options, marking, legs, portable=False)
    values = {**NEW_ENCLOSURES["generator"].run, "length_ft": options.generator_ft}
    draft.run(f"from-{made['box']}", _leaves(made), end, legs, **values)
    return made["ground"]


def generator_on_a_cord(
    draft: Draft, receiver: Receiver, options: SetOptions, marking: SourceMarking | None, end: Ends, legs: list[str]
) -> str:
    """Add a generator on a cord, the inlet it is plugged into, and the run from there; return its ground bar."""
    made = _set(draft, receiver, options, marking, legs, portable=True)
    inlet = draft.place(
        "inlet",
        "inlet",
        receiver.free_name("Inlet"),
        enclosures={
            "building_id": receiver.enclosure.building_id,
            "termination_c": 75,
            "inlet_a": options.breaker_a,
        },
    )
    pins = draft.landing("inlet", inlet)
    draft.run("cord", _leaves(made), pins, legs, placement="outdoors", material="copper")
    values = {**NEW_ENCLOSURES["inlet"].run, "length_ft": options.generator_ft}
    draft.run(f"from-{inlet['box']}", pins, end, legs, **values)
    return made["ground"]


def _set(
    draft: Draft,
    receiver: Receiver,
    options: SetOptions,
    marking: SourceMarking | None,
    legs: list[str],
    *,
    portable: bool,
) -> dict[str, str]:
    name = receiver.free_name("Portable generator" if portable else "Standby generator")
    plate: dict[str, Any] = {"rated_kva": options.rated_kva, "marking": marking, "portable": portable}
    made = None if marking is None else marking != FLOATING
    return draft.place(
        "generator",
        "generator",
        name,
        enclosures={"termination_c": 75},
        sources={"name": name, "system": receiver.site.system_at(receiver.enclosure.id), **plate},
        devices={"rating_a": options.breaker_a, "poles": len(legs)},
        bonds={"made": made},
    )


def _leaves(made: dict[str, str]) -> Ends:
    return Ends(made["main"], made["set"], made["ground"])


def two_rods(draft: Draft, ground: str) -> None:
    """Drive two rods at a set that is a system of its own: its electrode conductor begins at its bond (250.30(C))."""
    for number in (1, 2):
        draft.add("electrodes", f"set-rod{number}", kind="rod", connects_to=ground, length_ft=8.0, spacing_ft=8.0)
