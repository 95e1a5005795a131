"""What protects a run: the overcurrent device ahead of it, and the main of each enclosure."""

from __future__ import annotations

from nelvor.model.things import Device
from nelvor.topology.feeds import Feeds
from nelvor.topology.look_ups import LookUps


def main_of(things: LookUps, feeds: Feeds, enclosure_id: str) -> Device | None:
    """Return the main device of an enclosure: the one its feed lands on, the one that feeds its bus, or one marked main."""
    feed = feeds.feeding.get(enclosure_id)
    landed = things.devices.get(feed.to_part) if feed else None
    if landed is not None:
        return landed
    bus = things.bus_of(enclosure_id)
    fed_by = things.devices.get(bus.fed_by or "") if bus else None
    if fed_by is not None:
        return fed_by
    return next((device for device in things.devices_in.get(enclosure_id, []) if device.role == "main"), None)


def protection_ahead(things: LookUps, feeds: Feeds, mains: dict[str, Device | None]) -> dict[str, Device | None]:
    """Return, for each run, the overcurrent device ahead of it, or None on the supply side of the first one.

    ``mains`` holds the main device of each enclosure.
    """
    ahead: dict[str, Device | None] = {}
    for owner in [*(owner for owner in feeds.root if owner in things.sources), *feeds.walking_order]:
        if owner in things.sources:
            ahead |= {run.id: None for run in things.runs_from.get(owner, [])}
            continue
        feed = feeds.feeding.get(owner)
        arriving = ahead.get(feed.id) if feed else None
        main = mains[owner]
        within = main if main is not None and main.kind != "switch" else arriving
        for run in things.runs_from.get(owner, []):
            device = things.devices.get(run.from_part)
            if run.from_part in things.transformer_of_secondary and device is None:
                ahead[run.id] = None
            else:
                ahead[run.id] = device if device is not None and device.kind != "switch" else within
    return ahead
