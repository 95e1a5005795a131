"""What a person calls the things of a design, and on which sheet a thing is shown."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from nelvor.model.things import Run
from nelvor.topology.look_ups import LookUps

KIND_WORDS = {
    "buses": "bus",
    "taps": "tap",
    "bonds": "bond",
    "electrodes": "electrode",
    "transformers": "transformer",
    "transfers": "transfer gear",
    "metal_paths": "metal path",
    "amendments": "local rule",
}
BOX_WORDS = {"pull_box": "Pull box", "conduit_body": "Conduit body"}
ELECTRODE_WORDS = {
    "rod": "Ground rod",
    "concrete_encased": "Concrete-encased electrode",
    "water_pipe": "Water pipe",
    "building_steel": "Building steel",
    "ring": "Ground ring",
    "plate": "Ground plate",
    "other": "Electrode",
}
PART_WORDS = {
    "devices": "a breaker",
    "lugs": "the lugs",
    "buses": "the bus",
    "enclosures": "the box",
    "sources": "the source",
}
SHEETS = ("enclosure_id", "device_id", "run_id", "tap_run_id", "transfer_id")


def name_of(site: LookUps, owner: str) -> str:
    """Return the name of an enclosure or source as a person knows it."""
    thing = site.enclosures.get(owner) or site.sources.get(owner)
    return (thing.name if thing else "") or owner


def run_name(site: LookUps, run: Run) -> str:
    """Return the name of a run, or the names of what it joins."""
    if run.name:
        return run.name
    ends = [site.owners.get(part, part) for part in (run.from_part, run.to_part)]
    return " → ".join(name_of(site, end) for end in ends)


def part_name(site: LookUps, part: str) -> str:
    """Return what a part of an enclosure is called within it: its own name, or what it is."""
    thing = site.by_id[part][1] if part in site.by_id else None
    own = str(getattr(thing, "name", ""))
    if own:
        return own
    kind = getattr(thing, "kind", "") if part in site.bars else ""
    return f"{kind} bar" if kind else PART_WORDS.get(site.by_id.get(part, ("", None))[0], "its place")


def thing_name(site: LookUps, thing_id: str) -> str:
    """Return the name by which a finding speaks of a thing: its own, or what it is and where."""
    list_name, thing = site.by_id.get(thing_id, ("", None))
    if thing is None:
        return thing_id
    if isinstance(thing, Run):
        return run_name(site, thing)
    by_what_it_is = NAMED_BY.get(list_name)
    if by_what_it_is is not None:
        return by_what_it_is(site, thing)
    own = getattr(thing, "name", "")
    if own:
        return str(own)
    home = home_of(site, thing_id)
    kind = KIND_WORDS.get(list_name, list_name.rstrip("s").replace("_", " "))
    return f"{thing_name(site, home)}, {kind}" if home != thing_id else kind


def _electrode(site: LookUps, thing: Any) -> str:
    where, kind = site.owners.get(thing.connects_to or "", ""), ELECTRODE_WORDS[thing.kind]
    return f"{kind} at {name_of(site, where)}" if where else kind


def _wires(site: LookUps, thing: Any) -> str:
    device = site.devices.get(thing.device_id)
    return f"Wires of {thing_name(site, thing.device_id)}" if device else "Wires"


def _circuit_switch(site: LookUps, thing: Any) -> str:
    gear = site.transfers.get(thing.transfer_id)
    where = f" of {name_of(site, gear.enclosure_id)}" if gear is not None else ""
    return f"Switch {thing.name or thing.id}{where}"


NAMED_BY: dict[str, Callable[[LookUps, Any], str]] = {
    "enclosures": lambda site, thing: thing.name or thing.id,
    "sources": lambda site, thing: thing.name or thing.id,
    "boxes": lambda site, thing: thing.name or BOX_WORDS[thing.kind],
    "pulls": lambda site, thing: thing_name(site, thing.box_id),
    "stretches": lambda site, thing: f"{thing_name(site, thing.run_id)}, {thing.name or 'a stretch'}",
    "measurements": lambda site, thing: f"Record at {name_of(site, thing.enclosure_id)}",
    "electrodes": _electrode,
    "circuits": _wires,
    "circuit_switches": _circuit_switch,
    "amendments": lambda site, thing: thing.key.replace("_", " "),
}


def home_of(site: LookUps, thing_id: str) -> str:
    """Return the id of the run, enclosure or source on whose sheet a thing is shown; its own where it has a sheet."""
    list_name, thing = site.by_id.get(thing_id, ("", None))
    if thing is None or list_name in ("runs", "enclosures", "sources"):
        return thing_id
    if list_name == "boxes":
        return next((pull.run_id for pull in site.document.pulls if pull.box_id == thing_id), thing_id)
    if list_name == "electrodes":
        return site.owners.get(getattr(thing, "connects_to", None) or "", thing_id)
    if list_name == "circuit_switches":
        return home_of(site, str(getattr(thing, "transfer_id", thing_id)))
    if list_name == "taps":
        return str(getattr(thing, "tap_run_id", thing_id))
    named = next((getattr(thing, name) for name in SHEETS if getattr(thing, name, None)), thing_id)
    return home_of(site, named) if named != thing_id else thing_id
