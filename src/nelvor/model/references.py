"""Which things name which others, and what becomes of a thing when one that it names is taken away.

The one definition: the interface's own is generated from it.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from nelvor.errors import Issue
from nelvor.model.base import Thing
from nelvor.model.document import Document
from nelvor.model.things import Bar, Bus, Device, Lugs


@dataclass(frozen=True)
class Reference:
    """A property that holds the id of another thing.

    ``owning``: the thing cannot be without the one that it names and goes with it; ``naming``: the property is emptied.
    """

    lists: tuple[str, ...]
    kind: Literal["owning", "naming"] = "owning"


TERMINALS = ("devices", "lugs", "buses")
ENDS = (*TERMINALS, "sources")
PARTS = ("bars", "enclosures", *ENDS)
JOINED = ("bars", "enclosures", "sources", "throws")
PLACES = ("enclosures", "buildings")


def _owning(*lists: str) -> Reference:
    return Reference(lists, "owning")


def _naming(*lists: str) -> Reference:
    return Reference(lists, "naming")


REFERENCES: dict[str, dict[str, Reference]] = {
    "sources": {"enclosure_id": _owning("enclosures")},
    "dwelling_units": {"building_id": _naming("buildings")},
    "enclosures": {"building_id": _naming("buildings")},
    "buses": {"enclosure_id": _owning("enclosures"), "fed_by": _naming("devices", "lugs")},
    "devices": {"enclosure_id": _owning("enclosures"), "bus_id": _naming("buses")},
    "lugs": {"enclosure_id": _owning("enclosures"), "bus_id": _naming("buses")},
    "bars": {"enclosure_id": _owning("enclosures")},
    "reaches": {"enclosure_a": _owning("enclosures"), "enclosure_b": _owning("enclosures")},
    "bonds": {"enclosure_id": _owning("enclosures"), "part_a": _owning(*JOINED), "part_b": _owning(*JOINED)},
    "runs": {"from_part": _owning(*ENDS), "to_part": _owning(*ENDS)},
    "stretches": {"run_id": _owning("runs")},
    "pulls": {"box_id": _owning("boxes"), "run_id": _owning("runs")},
    "circuits": {"device_id": _owning("devices"), "neutral_bar": _naming("bars")},
    "conductors": {"run_id": _owning("runs"), "from_part": _owning(*PARTS), "to_part": _owning(*PARTS)},
    "metal_paths": {"end_a": _naming(*PLACES), "end_b": _naming(*PLACES)},
    "electrodes": {"building_id": _naming("buildings"), "connects_to": _naming("bars", "enclosures")},
    "loads": {
        "enclosure_id": _owning("enclosures"),
        "device_id": _naming("devices"),
        "dwelling_unit_id": _naming("dwelling_units"),
    },
    "planned_loads": {"enclosure_id": _owning("enclosures"), "dwelling_unit_id": _naming("dwelling_units")},
    "transfers": {"enclosure_id": _owning("enclosures"), "load_part": _owning(*TERMINALS)},
    "throws": {
        "transfer_id": _owning("transfers"),
        "part": _owning(*TERMINALS),
        "neutral_part": _naming("bars", "enclosures"),
    },
    "circuit_switches": {
        "transfer_id": _owning("transfers"),
        "device_id": _naming("devices"),
        "tied_to": _naming("circuit_switches"),
    },
    "interlocks": {"device_a": _owning("devices"), "device_b": _owning("devices")},
    "transformers": {
        "enclosure_id": _owning("enclosures"),
        "primary_part": _owning(*TERMINALS),
        "secondary_part": _owning(*TERMINALS, "bars"),
    },
    "measurements": {"enclosure_id": _owning("enclosures")},
    "scenarios": {"box_id": _naming("enclosures"), "run_id": _naming("runs")},
    "taps": {"run_id": _owning("runs"), "tap_run_id": _owning("runs")},
}


def homes_of(document: Document) -> tuple[dict[str, str], list[Issue]]:
    """Return the list each id lives in, and an issue for each id used twice."""
    homes: dict[str, str] = {}
    issues = []
    for list_name, thing in document.things():
        if thing.id in homes:
            issues.append(
                Issue(
                    "duplicate_id",
                    f"{list_name}.{thing.id}.id",
                    f"the id {thing.id} is used twice (also in {homes[thing.id]}).",
                    "Give each thing an id of its own.",
                )
            )
        homes[thing.id] = list_name
    return homes, issues


def _named_ids(list_name: str, thing: Thing) -> Iterator[tuple[str, str, tuple[str, ...]]]:
    """Yield (path, id, allowed lists) of every reference, in existing and proposed values."""
    for field_name, reference in REFERENCES.get(list_name, {}).items():
        existing = getattr(thing, field_name)
        if existing is not None:
            yield f"{list_name}.{thing.id}.{field_name}", existing, reference.lists
        proposed = thing.proposed.get(field_name)
        if proposed is not None:
            yield f"{list_name}.{thing.id}.proposed.{field_name}", proposed, reference.lists


def reference_issues(document: Document, before: Document | None = None) -> list[Issue]:
    """Return an issue for each id used twice and each reference that leads nowhere.

    Where an earlier document, which had no issue, has the same things, only references that are new since are looked at.
    """
    if before is not None and document.has_the_ids_of(before):
        named = [
            name
            for list_name, thing, earlier in document.changed_since(before)
            for name in set(_named_ids(list_name, thing)).difference(_named_ids(list_name, earlier))
        ]
        return _leading_nowhere(sorted(named), homes_of(document)[0]) if named else []
    homes, issues = homes_of(document)
    named = [name for list_name, thing in document.things() for name in _named_ids(list_name, thing)]
    return issues + _leading_nowhere(named, homes)


def _leading_nowhere(named: Iterable[tuple[str, str, tuple[str, ...]]], homes: Mapping[str, str]) -> list[Issue]:
    """Return an issue for each (path, id, allowed lists) whose id lives in none of the lists."""
    issues = []
    for path, target, allowed in named:
        home = homes.get(target)
        if home not in allowed:
            found = "is not in this job" if home is None else f"is one of the {home}"
            issues.append(Issue("unknown_id", path, f"{target} {found}.", f"Name one of the {' or '.join(allowed)}."))
    return issues


def owner_of_parts(document: Document) -> dict[str, str]:
    """Return, for each device, lugs, bus, bar, circuit switch and source, the id of its enclosure; a source without one and an
    enclosure own themselves.

    Parts of an enclosure that is not there in this state belong to nothing and are left out.
    """
    owners = {enclosure.id: enclosure.id for enclosure in document.enclosures}
    standing = set(owners)
    parts: list[Device | Lugs | Bus | Bar] = [*document.devices, *document.lugs, *document.buses, *document.bars]
    owners |= {part.id: part.enclosure_id for part in parts if part.enclosure_id in standing}
    homes = {gear.id: gear.enclosure_id for gear in document.transfers if gear.enclosure_id in standing}
    owners |= {item.id: homes[item.transfer_id] for item in document.circuit_switches if item.transfer_id in homes}
    for source in document.sources:
        owners[source.id] = source.enclosure_id if source.enclosure_id in standing else source.id
    return owners
