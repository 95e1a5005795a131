"""An inverter that the utility passes through, and the backup panel behind it, fed from a breaker of a panel."""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends
from nelvor.additions.feeder import new_feeder
from nelvor.additions.options import BackupOptions
from nelvor.additions.receiver import Receiver
from nelvor.model.new_things import NEW_ENCLOSURES


def backup(receiver: Receiver, options: BackupOptions) -> Draft:
    """Return the operations that add an inverter and a backup panel behind a breaker of a panel.

    Raises:
        CannotCompute: the enclosure has no bus to feed it from.
    """
    panel, draft = receiver.enclosure, Draft(receiver.site)
    start, legs = new_feeder(draft, receiver, "backup", "Backup inverter", options.breaker_a)
    inverter = _inverter(draft, receiver, options)
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
            "charging_a": options.charging_a,
            "neutral_path": options.neutral_path,
            "relay": options.relay,
        },
    )
