"""On which side of the bond of its system does each enclosure stand? From topology, marking and protection."""

from __future__ import annotations

from nelvor.judges.zones import derived, passing_through, service
from nelvor.judges.zones.service import PASSED_OVER, ahead_of_service, has_disconnect
from nelvor.judges.zones.zone import Zone, ZoneKind
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site


def zones(site: Site, rules: Rules) -> dict[str, Zone]:
    """Return the zone of every enclosure, from the sources outward."""
    found: dict[str, Zone] = {}
    for enclosure_id in site.walking_order:
        found[enclosure_id] = _zone(site, rules, enclosure_id, found)
    return found


def _zone(site: Site, rules: Rules, enclosure_id: str, found: dict[str, Zone]) -> Zone:
    obstacle = service.not_computed(site, enclosure_id)
    if obstacle:
        return obstacle
    passing = passing_through.of_passing(site, enclosure_id) or passing_through.before_passing(site, enclosure_id)
    if passing:
        return passing
    if derived.own_sources(site, enclosure_id):
        return derived.of_source(site, enclosure_id)
    feeding = site.feeding_run(enclosure_id)
    if feeding is None:
        return Zone("unknown", "Nothing feeds this enclosure yet: draw the run that does.")
    upstream = site.upstream_of(feeding)
    if upstream in site.sources and site.sources[upstream].kind != "utility":
        return derived.behind_loose_source(site, upstream)
    ahead = found.get(upstream, Zone("supply", ""))
    behind = passing_through.behind_passing(site, enclosure_id, ahead)
    if behind:
        return behind
    if ahead.kind == "unknown":
        return Zone("unknown", f"It is fed from {name_of(site, upstream)}, where it cannot be told.")
    if derived.is_derived_from(site, feeding):
        return derived.behind_bond_point(site, enclosure_id, ahead)
    if ahead.kind != "supply":
        own = derived.of_transformer(site, enclosure_id) or derived.beside_utility(site, enclosure_id)
        return own or service.behind_service(site, enclosure_id, upstream)
    return derived.of_transformer(site, enclosure_id) or service.ahead_or_at(site, rules, enclosure_id)


__all__ = ["PASSED_OVER", "Zone", "ZoneKind", "ahead_of_service", "has_disconnect", "zones"]
