"""An inverter that the utility passes through, and the backup panel behind it, fed from a breaker of a panel."""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends, bar_of, feed_of, legs_at
from nelvor.additions.options import BackupOptions
from nelvor.additions.receiver import Receiver
from nelvor.errors import CannotCompute
from nelvor.model.new_things import NEW_ENCLOSURES
from nelvor.model.things import Bus
from nelvor.spaces.bus_spaces import free_spots, hung_row, rows_of, spots_from, spots_of
from nelvor.topology.names import name_of


def backup(receiver: Receiver, options: BackupOptions) -> Draft:
    """Return the operations that add an inverter and a backup panel behind a breaker of a panel.

    Raises:
        CannotCompute: the enclosure has no bus to feed it from.
    """
    site, panel = receiver.site, receiver.enclosure
    draft, bus = Draft(site), site.bus_of(panel.id)
    if bus is None:
        raise CannotCompute(f"{name_of(site, panel.id)} has no bus to feed it from.", "Choose a panel.")
    legs = legs_at(site, feed_of(site, panel.id))
    space, feeder = _far_space(draft, bus, len(legs)), {"role": "feeder", "rating_a": options.breaker_a}
    breaker = draft.breaker(bus, "backup", "Backup inverter", len(legs), space, **feeder)
    inverter = _inverter(draft, receiver, options)
    start = Ends(breaker, bar_of(site, panel.id, "neutral"), bar_of(site, panel.id, "ground") or panel.id)
    run = {**NEW_ENCLOSURES["pass_through_inverter"].run, "length_ft": options.distance_ft}
    draft.run("to-inverter", start, draft.landing("pass_through_inverter", inverter), legs, **run)
    place = {"building_id": panel.building_id, "termination_c": 75}
    backed = draft.place("panel", "backup-panel", receiver.free_name("Backup panel"), enclosures=place)
    output = Ends(inverter["output"], inverter["neutral"], inverter["ground"])
    draft.run("to-backup-panel", output, draft.landing("panel", backed), legs, **run)
    return draft


def _inverter(draft: Draft, receiver: Receiver, options: BackupOptions) -> dict[str, str]:
    name = receiver.free_name("Backup inverter")
    return draft.place(
        "pass_through_inverter",
        "backup-inverter",
        name,
        enclosures={"building_id": receiver.enclosure.building_id, "termination_c": 75},
        sources={
            "name": name,
            "system": receiver.site.system_at(receiver.enclosure.id),
            "rated_kva": options.rated_kva,
            "neutral_path": options.neutral_path,
            "relay": options.relay,
        },
    )


def _far_space(draft: Draft, bus: Bus, poles: int) -> int | None:
    """Return the free space that is farthest from the main, where what pushes into the bus belongs; None if not told."""
    rows = rows_of(bus)
    if rows is None:
        return None
    on_bus = [item for item in draft.site.devices_in.get(bus.enclosure_id, []) if item.bus_id in (bus.id, None)]
    taken = [spot for item in on_bus for spot in spots_of(bus, item)]
    fits = [
        spots[0].space
        for start in free_spots(bus, taken, half=False)
        if len(spots := spots_from(bus, poles, start)) == poles
        and not any(spot.overlaps(other) for spot in spots for other in taken)
    ]
    sign = 1 if bus.main_end == "bottom" else -1
    return min(fits, key=lambda space: sign * (hung_row(bus, space, rows) or 0), default=None)
