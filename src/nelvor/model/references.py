"""Which things name which, and the two structural refusals: unknown ids and loops of feeders."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from nelvor.errors import Issue
from nelvor.model.base import Thing
from nelvor.model.document import Document
from nelvor.model.things import Bar, Device, Lugs

TERMINALS = ("devices", "lugs")
PARTS = ("bars", "enclosures", "devices", "lugs", "sources")

REFERENCES: dict[str, dict[str, tuple[str, ...]]] = {
    "dwelling_units": {"building_id": ("buildings",)},
    "enclosures": {"building_id": ("buildings",)},
    "devices": {"enclosure_id": ("enclosures",)},
    "lugs": {"enclosure_id": ("enclosures",)},
    "bars": {"enclosure_id": ("enclosures",)},
    "bonds": {"enclosure_id": ("enclosures",), "part_a": ("bars", "enclosures"), "part_b": ("bars", "enclosures")},
    "runs": {"from_part": (*TERMINALS, "sources"), "to_part": TERMINALS},
    "stretches": {"run_id": ("runs",)},
    "pulls": {"box_id": ("boxes",), "run_id": ("runs",)},
    "conductors": {"run_id": ("runs",), "from_part": PARTS, "to_part": PARTS},
    "electrodes": {"building_id": ("buildings",), "connects_to": ("bars", "enclosures")},
    "loads": {"enclosure_id": ("enclosures",), "dwelling_unit_id": ("dwelling_units",)},
    "transfers": {
        "enclosure_id": ("enclosures",),
        "normal_part": TERMINALS,
        "standby_part": TERMINALS,
        "load_part": TERMINALS,
    },
    "transformers": {"enclosure_id": ("enclosures",), "primary_part": TERMINALS, "secondary_part": TERMINALS},
    "measurements": {"enclosure_id": ("enclosures",)},
    "taps": {"run_id": ("runs",), "tap_run_id": ("runs",)},
}


def _homes(document: Document) -> tuple[dict[str, str], list[Issue]]:
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
    for field_name, allowed in REFERENCES.get(list_name, {}).items():
        existing = getattr(thing, field_name)
        if existing is not None:
            yield f"{list_name}.{thing.id}.{field_name}", existing, allowed
        proposed = thing.proposed.get(field_name)
        if proposed is not None:
            yield f"{list_name}.{thing.id}.proposed.{field_name}", proposed, allowed


def reference_issues(document: Document) -> list[Issue]:
    """Return an issue for each id used twice and each reference that leads nowhere."""
    homes, issues = _homes(document)
    for list_name, thing in document.things():
        for path, target, allowed in _named_ids(list_name, thing):
            home = homes.get(target)
            if home not in allowed:
                found = "is not in this job" if home is None else f"is one of the {home}"
                issues.append(
                    Issue("unknown_id", path, f"{target} {found}.", f"Name one of the {' or '.join(allowed)}.")
                )
    for record in document.field_records:
        if record.thing_id not in homes:
            issues.append(
                Issue(
                    "unknown_id",
                    f"field_records.{record.id}.thing_id",
                    f"{record.thing_id} is not in this job.",
                    "Name a thing of this job.",
                )
            )
    return issues


def owner_of_parts(document: Document) -> dict[str, str]:
    """Return, for each device, lugs and bar, the id of its enclosure; sources and enclosures own themselves.

    Parts of an enclosure that is not there in this state belong to nothing and are left out.
    """
    owners = {source.id: source.id for source in document.sources}
    owners |= {enclosure.id: enclosure.id for enclosure in document.enclosures}
    standing = set(owners)
    parts: list[Device | Lugs | Bar] = [*document.devices, *document.lugs, *document.bars]
    owners |= {part.id: part.enclosure_id for part in parts if part.enclosure_id in standing}
    return owners


def loop_issues(document: Document) -> list[Issue]:
    """Return an issue for each run that closes a loop of feeders. References must be sound.

    The document must be resolved to one state, since a move may lawfully reverse a feed.
    """
    owners = owner_of_parts(document)
    fed_from: dict[str, list[tuple[str, str]]] = defaultdict(list)
    waiting: dict[str, int] = defaultdict(int)
    runs = [run for run in document.runs if run.from_part in owners and run.to_part in owners]
    for run in runs:
        upstream, downstream = owners[run.from_part], owners[run.to_part]
        fed_from[upstream].append((downstream, run.id))
        waiting[downstream] += 1
    ready = [owner for owner in {*owners.values()} if waiting[owner] == 0]
    settled: set[str] = set()
    while ready:
        owner = ready.pop()
        settled.add(owner)
        for downstream, _ in fed_from[owner]:
            waiting[downstream] -= 1
            if waiting[downstream] == 0:
                ready.append(downstream)
    return [
        Issue(
            "loop",
            f"runs.{run.id}.from_part",
            "this run closes a loop: the enclosure would feed itself.",
            "Feed it from an enclosure that it does not feed.",
        )
        for run in runs
        if _in_loop(owners[run.from_part], owners[run.to_part], settled, fed_from)
    ]


def _in_loop(start: str, end: str, settled: set[str], fed_from: dict[str, list[tuple[str, str]]]) -> bool:
    """Tell whether power leaving ``end`` comes back to ``start``."""
    if start in settled or end in settled:
        return False
    seen, stack = {end}, [end]
    while stack:
        owner = stack.pop()
        if owner == start:
            return True
        for downstream, _ in fed_from[owner]:
            if downstream not in seen:
                seen.add(downstream)
                stack.append(downstream)
    return False
