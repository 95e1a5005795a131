"""An inverter that the utility passes through, and the backup panel behind it, fed from a breaker of a panel."""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends, bar_of, feed_of, legs_at
from nelvor.additions.options import BackupOptions
from nelvor.additions.receiver import Receiver
from nelvor.additions.room import free_far_space
from nelvor.errors import CannotCompute
from nelvor.model.new_things import NEW_ENCLOSURES
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
    space, feeder = free_far_space(draft, bus, len(legs)), {"role": "feeder", "rating_a": options.breaker_a}
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
