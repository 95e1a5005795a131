"""The wires of a circuit that moves to another breaker, in words: what is landed there, and what stays where it lands."""

from __future__ import annotations

from typing import Any

from nelvor.model.changes.differences import Difference
from nelvor.model.things import Circuit
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.site import Site

MOVED = frozenset({"device_id", "neutral_bar"})


def moved_wires(before: Site, after: Site, wires: Circuit, difference: Difference) -> str:
    """Return the step of a change of its breaker or of the place of its neutral; "" where nothing is done."""
    if difference.field == "neutral_bar":  # one that is left behind stays where it lands
        return f"Land the neutral of {_breaker(after, wires.device_id)} there, too." if difference.after is None else ""
    places = (_breaker(before, difference.before), _breaker(after, difference.after))
    return f"Move the wires of {places[0]} to {places[1]}; {_to_land(after, wires)}"


def _to_land(site: Site, wires: Circuit) -> str:
    """What of a moved circuit is landed in its new panel: behind gear that moves lines alone its neutral stays."""
    device = site.devices.get(wires.device_id)
    gears = site.transfers_in.get(device.enclosure_id, []) if device is not None else []
    if any(gear.lines_only for gear in gears):
        return "splice and torque its hot wire; neutral and ground stay where they land."
    return "land and torque hot, neutral and ground."


def _breaker(site: Site, device_id: Any) -> str:
    """A breaker as one finds it: its name, its panel, its space."""
    device = site.devices.get(str(device_id))
    if device is None:
        return "its breaker"
    space = f" space {device.space}" if device.space is not None else ""
    return f"{thing_name(site, device.id)} ({name_of(site, device.enclosure_id)}{space})"
