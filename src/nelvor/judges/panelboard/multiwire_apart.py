"""A circuit that is said to share its neutral, and whose other half is not beside it: in another panel, or not found (210.4(A)).

This is what becomes of a multiwire circuit when one of its lines is moved to transfer gear and the other left behind.
"""

from __future__ import annotations

from collections import defaultdict

from nelvor.judges.panelboard.standing import name_in
from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Device
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site

CLAUSE = "multiwire_one_neutral"


def multiwire_apart_verdicts(site: Site, rules: Rules) -> list[Verdict]:
    """Return what is said of each device of one pole whose circuit shares a neutral with none of its own panel."""
    judge = Judge(rules, "devices", "")
    for halves in _alone_by_word(site).values():
        for half in halves:
            about = judge.about("devices", half.id)
            other = next((item for item in halves if _one_feeds_the_other(site, half, item)), None)
            if other is None:
                text = (
                    f"{name_in(site, half)} is said to share its neutral, and no other circuit with it. "
                    "Find the other one before anything is opened: its neutral would carry current."
                )
                about.cannot_tell("multiwire", text, CLAUSE)
            elif half.id < other.id:
                text = (
                    f"{name_in(site, half)} in {name_of(site, half.enclosure_id)} and {name_in(site, other)} in "
                    f"{name_of(site, other.enclosure_id)} share a neutral. Both lines of it belong into one panel: on two supplies "
                    "the neutral carries the sum of their currents, and with one of them off it is still live."
                )
                about.must_fix("multiwire_apart", text, CLAUSE, "enclosure_id")
    return judge.verdicts


def _alone_by_word(site: Site) -> dict[str, list[Device]]:
    """The devices of one pole that have their word for a shared neutral to themselves in their panel, by the word."""
    sharing: dict[tuple[str, str], dict[str, Device]] = defaultdict(dict)
    for wires in site.document.circuits:
        device = site.devices.get(wires.device_id)
        if wires.shared_neutral and device is not None:
            sharing[wires.shared_neutral, device.bus_id or device.enclosure_id][device.id] = device
    found: dict[str, list[Device]] = defaultdict(list)
    for (word, _), devices in sorted(sharing.items()):
        found[word] += [device for device in devices.values() if len(devices) == 1 and device.poles == 1]
    return found


def _one_feeds_the_other(site: Site, one: Device, other: Device) -> bool:
    return one.enclosure_id != other.enclosure_id and (
        other.enclosure_id in site.boxes_beneath(one.enclosure_id)
        or one.enclosure_id in site.boxes_beneath(other.enclosure_id)
    )
