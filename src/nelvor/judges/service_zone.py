"""On which side of the service disconnect does each enclosure stand? Derived from topology, marking and protection."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from nelvor.model.things import Enclosure, Run
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site

ZoneKind = Literal["supply", "service", "load", "unknown"]
PASSED_OVER = {"meter_disconnect", "not_service_equipment"}


@dataclass(frozen=True)
class Zone:
    """Where an enclosure stands, with the reason in one sentence and the clause it rests on."""

    kind: ZoneKind
    reason: str
    clause: str = ""


def zones(site: Site, rules: Rules) -> dict[str, Zone]:
    """Return the zone of every enclosure."""
    found: dict[str, Zone] = {}
    for enclosure_id in site.walking_order:
        found[enclosure_id] = _zone(site, rules, enclosure_id, found)
    return found


def _zone(site: Site, rules: Rules, enclosure_id: str, found: dict[str, Zone]) -> Zone:
    enclosure = site.enclosures[enclosure_id]
    obstacle = _not_computed(site, enclosure_id)
    if obstacle:
        return Zone("unknown", obstacle)
    feeding = site.feeding_run(enclosure_id)
    if feeding is None:
        return Zone("unknown", "Nothing feeds this enclosure yet: draw the run that does.")
    upstream = site.upstream_of(feeding)
    ahead = found.get(upstream, Zone("supply", ""))
    if ahead.kind == "unknown":
        return Zone("unknown", f"It is fed from {name_of(site, upstream)}, where it cannot be told.")
    if ahead.kind in ("service", "load"):
        return Zone(
            "load",
            f"The service disconnect is ahead of it, so neutral and ground are apart from {name_of(site, upstream)} on.",
            "building_neutral_apart" if site.is_first_of_building(enclosure_id) else "load_side_neutral_ground",
        )
    return _ahead_of_service(site, rules, enclosure)


def _not_computed(site: Site, enclosure_id: str) -> str:
    source = site.source_of(enclosure_id)
    if source is not None and source.kind != "utility":
        return f"It is fed from {source.name or source.id}; bonds of generators and inverters are not computed yet."
    if enclosure_id in site.transfer_enclosures:
        return "It holds transfer gear; bonds there are not computed yet."
    if enclosure_id in site.transformer_enclosures:
        return "It holds a transformer; bonds of derived systems are not computed yet."
    if len(site.runs_into.get(enclosure_id, [])) > 1:
        return "Two runs feed it; which one holds the bond is not computed yet."
    return ""


def _ahead_of_service(site: Site, rules: Rules, enclosure: Enclosure) -> Zone:
    if not has_disconnect(site, enclosure.id):
        return Zone("supply", "It is ahead of the service disconnect.", "meter_neutral_supply_side")
    marking = enclosure.emergency_marking
    if marking in PASSED_OVER:
        return _marked_not_service(rules, marking)
    return Zone(
        "service", "It holds the first disconnect after the utility: the service disconnect.", "main_bonding_jumper"
    )


def _marked_not_service(rules: Rules, marking: str) -> Zone:
    if rules.parameter("emergency_disconnect_required").value == "1":
        return Zone(
            "supply",
            "It is marked as not service equipment, so the service disconnect is further on.",
            "emergency_disconnect",
        )
    if marking == "meter_disconnect":
        return Zone(
            "supply",
            "It is a meter disconnect switch, which may stand ahead of the service disconnect.",
            "meter_disconnect_ahead",
        )
    return Zone("unknown", f"The marking “not service equipment” has no rule in the {rules.edition} edition.")


def ahead_of_service(site: Site, rules: Rules, run: Run) -> bool:
    """Tell whether a run is still on the supply side: every disconnect ahead of it is marked as not the service's."""
    required = rules.parameter("emergency_disconnect_required").value == "1"
    passed_over = PASSED_OVER if required else PASSED_OVER - {"not_service_equipment"}
    owner = site.upstream_of(run)
    for way in (run, *site.runs_to_source(owner)):
        enclosure = site.enclosures.get(site.upstream_of(way))
        if enclosure is None:
            continue
        if _not_computed(site, enclosure.id):
            return False
        if has_disconnect(site, enclosure.id) and enclosure.emergency_marking not in passed_over:
            return False
    return True


def has_disconnect(site: Site, enclosure_id: str) -> bool:
    """Tell whether an enclosure can be switched off by its own devices: a main, or each of a few devices on lugs."""
    if site.main_of(enclosure_id) is not None:
        return True
    return bool([device for device in site.devices_in.get(enclosure_id, []) if device.role in ("feeder", "branch")])
