"""Ground-fault protection of large feeder disconnects on a wye above 150 V to ground (215.10)."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from nelvor.judges.bonds import BondAnswer
from nelvor.judges.verdict import Judge, Mend, Verdict, proposing
from nelvor.model.things import Device
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site
from nelvor.working import exact

ABOVE_150_V = "wye_480_277"
FIELD = "ground_fault_protection"


def feeder_ground_fault_verdicts(site: Site, rules: Rules, bonds: Mapping[str, BondAnswer]) -> list[Verdict]:
    """Return what the feeder disconnects of 1000 A and more ask for; protection ahead of them serves as well."""
    least = rules.parameter("ground_fault_protection_from_a").number
    found: list[Verdict] = []
    for device in _feeders(site, bonds):
        if device.rating_a is None or exact(device.rating_a) < least:
            continue
        ahead = [item.ground_fault_protection for item in _ahead(site, device)]
        judge, name = Judge(rules, "devices", device.id), device.name or device.id
        clause = "feeder_ground_fault_protection"
        if device.ground_fault_protection or any(ahead):
            where = "It" if device.ground_fault_protection else "A device ahead of it"
            judge.holds(FIELD, f"{where} protects equipment against ground faults.", clause, FIELD)
        elif device.ground_fault_protection is None or None in ahead:
            text = f"Whether {name}, or a device ahead of it, has ground-fault protection of equipment is not entered."
            judge.cannot_tell(FIELD, text, clause, FIELD)
        else:
            text = f"{name} needs ground-fault protection of equipment, as every feeder disconnect of {least} A and more here."
            mend = Mend("Fit it", proposing("devices", device, ground_fault_protection=True))
            judge.must_fix(FIELD, text, clause, FIELD, mend)
        found += judge.verdicts
    return found


def _feeders(site: Site, bonds: Mapping[str, BondAnswer]) -> Iterator[Device]:
    """The devices at the beginning of feeders; those of a service disconnect itself go by 230.95."""
    for run in site.drawn_runs:
        device, owner = site.devices.get(run.from_part), site.upstream_of(run)
        service_main = owner in bonds and bonds[owner].decision == "bond" and site.main_of(owner) is device
        if device is not None and not service_main and site.system_at(owner) == ABOVE_150_V:
            yield device


def _ahead(site: Site, device: Device) -> Iterator[Device]:
    """The devices between a device and its source, its own box's main first."""
    owners = [device.enclosure_id, *(site.upstream_of(run) for run in site.runs_to_source(device.enclosure_id))]
    for owner in owners:
        main = site.main_of(owner) if owner in site.enclosures else None
        if main is not None and main is not device:
            yield main
