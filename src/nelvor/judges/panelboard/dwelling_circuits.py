"""The circuits that every dwelling unit must have: small appliances, laundry, bathroom, garage (210.11(C))."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.things import Device, DwellingUnit, Load
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import thing_name
from nelvor.topology.site import Site

REQUIRED = (
    ("small_appliance", "small_appliance_circuits_least", "small_appliance_circuits", "small-appliance circuits"),
    ("laundry", "laundry_circuits_least", "laundry_circuit", "laundry circuit"),
    ("bathroom", "bathroom_circuits_least", "bathroom_circuit", "bathroom circuit"),
    ("garage", "garage_circuits_least", "garage_circuit", "garage circuit"),
)
BY_LOAD = frozenset({"small_appliance", "laundry"})


def dwelling_circuit_verdicts(site: Site, rules: Rules) -> list[Verdict]:
    """Return what is missing of each unit whose circuits are drawn in their panels; of others nothing is said."""
    if not site.document.dwelling_units or not any(item.space is not None for item in site.document.devices):
        return []
    loads: dict[str, list[Load]] = {}
    for load in site.document.loads:
        if load.dwelling_unit_id:
            loads.setdefault(load.dwelling_unit_id, []).append(load)
    found: list[Verdict] = []
    for unit in site.document.dwelling_units:
        judge = Judge(rules, "dwelling_units", unit.id)
        _judge(site, rules, judge, unit, loads.get(unit.id, []))
        found += judge.verdicts
    return found


def _judge(site: Site, rules: Rules, judge: Judge, unit: DwellingUnit, loads: list[Load]) -> None:
    panels = sorted({load.enclosure_id for load in loads} & site.enclosures.keys())
    circuits = [
        device
        for panel in panels
        for device in site.devices_in.get(panel, [])
        if device.role == "branch" and device.space is not None
    ]
    if not circuits:
        return
    uses = [use for device in circuits for use in _uses(site, device)]
    counted, unread = Counter(uses), sum(use is None for use in uses)
    has_garage = any(load.space_kind == "garage" for load in loads) or counted["garage"] > 0
    new = all(site.enclosures[panel].standing == "added" for panel in panels)
    for use, parameter, clause, words in REQUIRED:
        least = int(rules.parameter(parameter).value)
        if use == "garage" and not has_garage:
            continue
        have = counted[use]
        name = thing_name(site, unit.id)
        if have >= least:
            judge.holds("dwelling_circuits", f"{name} has {have} {words} of {least} needed.", clause)
            continue
        text = (
            f"{name} needs {least} {words}; {have or 'none'} of its circuits {'is' if have < 2 else 'are'} marked so."
        )
        if unread:
            text = f"{text} What {unread} of its circuits serve is not told yet."
            judge.cannot_tell("dwelling_circuits", text, clause)
        elif new:
            judge.must_fix("dwelling_circuits", text, clause)
        else:
            judge.advise("dwelling_circuits", f"{text} A new one would have to have it.", clause)


def _uses(site: Site, device: Device) -> Iterator[str | None]:
    """What each circuit of a device serves: as told, or by a load that names the circuits of a dwelling.

    A multiwire circuit for small appliances counts for each of its poles (210.4(A)).
    """
    wires = site.circuits_of.get(device.id, [])
    by_load = next((load.category for load in site.loads_on.get(device.id, []) if load.category in BY_LOAD), None)
    for use in [item.use or by_load for item in wires] or [by_load]:
        many = device.poles if use == "small_appliance" and len(wires) < device.poles else 1
        yield from [use] * many
