"""What a source needs that no figure tells: a disconnect, rapid shutdown, bonded frames, the place of storage, a stop.

Each is entered as a fact and judged; what is not entered is asked for in one list (445.18, 445.19, 690.12, 690.13, 690.43,
705.20, 706).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Source
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.pushed_in import own_run
from nelvor.topology.site import Site

Ending = Literal["holds", "must_fix", "asked"]
SHUTDOWN: dict[str | None, tuple[Ending, str]] = {
    None: ("asked", ""),
    "provided": ("holds", "The solar circuits of {name} shut down rapidly."),
    "not_needed": ("holds", "No solar circuit of {name} runs on or in a building."),
    "missing": (
        "must_fix",
        "The solar circuits of {name} on the building do not shut down rapidly, which they have to.",
    ),
}


@dataclass(frozen=True)
class Fact:
    """One fact of a source: its field, how it ends, the clause, what is said where it is entered, and what is asked."""

    field: str
    ending: Ending
    clause: str
    text: str
    asked: str


def source_fact_verdicts(site: Site, rules: Rules) -> list[Verdict]:
    """Return what is said of the facts of every source that gives power from a direct-current side."""
    found: list[Verdict] = []
    for source in site.document.sources:
        judge = Judge(rules, "sources", source.id)
        facts = list(_facts(site, rules, source, name_of(site, source.id)))
        for fact in facts:
            if fact.ending == "holds":
                judge.holds(fact.field, fact.text, fact.clause, fact.field)
            elif fact.ending == "must_fix":
                judge.must_fix(fact.field, fact.text, fact.clause, fact.field)
        missing = [fact for fact in facts if fact.ending == "asked"]
        if missing:
            text = f"Not entered of {name_of(site, source.id)}: {'; '.join(fact.asked for fact in missing)}."
            asks = tuple((source.id, fact.field) for fact in missing)
            judge.cannot_tell("source_facts", text, missing[0].clause, missing[0].field, asks)
        found += judge.verdicts
    return found


def _facts(site: Site, rules: Rules, source: Source, name: str) -> Iterator[Fact]:
    if source.kind == "generator" and source.portable is False:
        yield from _fixed_set(site, rules, source, name)
    if source.kind not in ("inverter", "battery"):
        return
    if source.interactive:
        yield _yes_or_no(
            "disconnect_in_reach",
            source.disconnect_in_reach,
            "source_disconnect",
            (f"{name} has a disconnect in reach.", f"{name} has no disconnect that can be reached readily."),
            "whether its disconnect is readily accessible and opens all lines",
        )
    if source.kind == "battery":
        yield from _storage(source, name)
    elif source.neutral_path is None:
        yield from _solar(site, source, name)


def _fixed_set(site: Site, rules: Rules, source: Source, name: str) -> Iterator[Fact]:
    yield _yes_or_no(
        "disconnect_in_reach",
        source.disconnect_in_reach,
        "generator_disconnect",
        (f"{name} has a disconnect that locks open.", f"{name} has no disconnect that opens all its lines."),
        "whether a disconnect opens all its lines and can be locked open",
    )
    yield _yes_or_no(
        "emergency_stop",
        source.emergency_stop,
        "generator_stop",
        (f"{name} can be stopped and kept from starting.", f"{name} cannot be stopped and kept from starting."),
        "whether it can be stopped so that it does not start again until it is reset, above 15 kW also from outside",
    )
    if rules.parameter("generator_stop_outdoors_required").value == "1" and _feeds_a_dwelling(site, source):
        yield _yes_or_no(
            "stop_outdoors",
            source.stop_outdoors,
            "generator_stop_dwelling",
            (f"{name} has an emergency stop outdoors.", f"{name} has no emergency stop outdoors that is in reach."),
            "whether its emergency stop is outdoors and readily accessible",
        )


def _feeds_a_dwelling(site: Site, source: Source) -> bool:
    run = own_run(site, source)
    boxes = {source.enclosure_id, site.downstream_of(run) if run is not None else None}
    return any(box in site.enclosures and bool(site.is_one_family(box)) for box in boxes if box is not None)


def _solar(site: Site, source: Source, name: str) -> Iterator[Fact]:
    yield _shutdown(source, name)
    if source.rapid_shutdown == "provided" and _of_a_dwelling(site, source):
        yield _yes_or_no(
            "shutdown_switch_outdoors",
            source.shutdown_switch_outdoors,
            "pv_rapid_shutdown_switch",
            ("The switch of the rapid shutdown is outdoors.", "The switch of the rapid shutdown is not outdoors."),
            "whether the switch of its rapid shutdown is outdoors",
        )
    bonded = None if source.array_bonded is None else source.array_bonded != "not_bonded"
    yield _yes_or_no(
        "array_bonded",
        bonded,
        "array_bonding",
        (
            f"The metal of the array of {name} is bonded, or there is none.",
            f"The metal of the array of {name} is not bonded.",
        ),
        "whether the frames and rails of its array are bonded",
    )


def _shutdown(source: Source, name: str) -> Fact:
    ending, text = SHUTDOWN[source.rapid_shutdown]
    asked = "whether its circuits on the building shut down rapidly"
    return Fact("rapid_shutdown", ending, "pv_rapid_shutdown", text.format(name=name), asked)


def _of_a_dwelling(site: Site, source: Source) -> bool:
    return source.enclosure_id in site.enclosures and bool(site.is_one_family(str(source.enclosure_id)))


def _storage(source: Source, name: str) -> Iterator[Fact]:
    yield _yes_or_no(
        "storage_disconnect",
        source.storage_disconnect,
        "ess_disconnect",
        (f"{name} can be cut from all wiring.", f"{name} cannot be cut from all wiring by a disconnect in reach."),
        "whether a disconnect in reach cuts the storage from all wiring",
    )
    yield _yes_or_no(
        "storage_place_as_required",
        source.storage_place_as_required,
        "ess_location",
        (f"The place of {name} is one where storage may be.", f"Storage may not be where {name} is."),
        "whether storage may be where it stands, with its clearances",
    )


def _yes_or_no(field: str, value: bool | None, clause: str, texts: tuple[str, str], asked: str) -> Fact:
    ending: Ending = "asked" if value is None else "holds" if value else "must_fix"
    return Fact(field, ending, clause, texts[0] if value else texts[1], asked)
