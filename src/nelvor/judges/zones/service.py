"""The utility's service: what lies ahead of the service disconnect, what holds it, and what lies behind."""

from __future__ import annotations

from nelvor.judges.zones.zone import Zone
from nelvor.model.things import Enclosure, Run
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.separation import kept_apart
from nelvor.topology.site import Site

PASSED_OVER = {"meter_disconnect", "not_service_equipment"}


def not_computed(site: Site, enclosure_id: str) -> Zone | None:
    """Return why the place of an enclosure is not computed yet, or None."""
    if not kept_apart(site, enclosure_id):
        return Zone(
            "unknown", "Two runs feed it and nothing keeps them apart, so which one holds the bond cannot be told."
        )
    return None


def behind_service(site: Site, enclosure_id: str, upstream: str) -> Zone:
    """Return the zone of an enclosure whose feed comes from behind the service disconnect."""
    source = site.source_of(enclosure_id)
    what = "The service disconnect" if source is None or source.kind == "utility" else "The bond of its system"
    return Zone(
        "load",
        f"{what} is ahead of it, so neutral and ground are apart from {name_of(site, upstream)} on.",
        "building_neutral_apart" if site.is_first_of_building(enclosure_id) else "load_side_neutral_ground",
    )


def ahead_or_at(site: Site, rules: Rules, enclosure_id: str) -> Zone:
    """Return the zone of an enclosure that service conductors feed."""
    return _ahead_of_service(site, rules, site.enclosures[enclosure_id])


def _ahead_of_service(site: Site, rules: Rules, enclosure: Enclosure) -> Zone:
    if any(item.meter_mounted for item in site.transfers_in.get(enclosure.id, [])):
        reason = "It is mounted at the meter, ahead of the service disconnect."
        return Zone("supply", reason, "meter_neutral_supply_side")
    if not has_disconnect(site, enclosure.id):
        return Zone("supply", "It is ahead of the service disconnect.", "meter_neutral_supply_side")
    marking = enclosure.emergency_marking
    if marking in PASSED_OVER:
        return _marked_not_service(rules, marking)
    if site.gathers_sources_alone(enclosure.id):
        reason = (
            "It is the disconnect of a source ahead of the service disconnect, and is bonded as a service disconnect."
        )
        return Zone("service", reason, "supply_side_bond")
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
    source = site.source_of(owner) if owner in site.enclosures else site.sources[owner]
    if source is None or source.kind != "utility":
        return False
    for way in (run, *site.runs_to_source(owner)):
        enclosure = site.enclosures.get(site.upstream_of(way))
        if enclosure is None:
            continue
        if not_computed(site, enclosure.id) or site.transformers_in.get(enclosure.id):
            return False
        if has_disconnect(site, enclosure.id) and enclosure.emergency_marking not in passed_over:
            return False
    return True


def has_disconnect(site: Site, enclosure_id: str) -> bool:
    """Tell whether an enclosure can be switched off by its own devices: a main, or each of a few devices on lugs."""
    if site.main_of(enclosure_id) is not None:
        return True
    return bool([device for device in site.devices_in.get(enclosure_id, []) if device.role in ("feeder", "branch")])
