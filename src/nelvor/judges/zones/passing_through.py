"""Sources that other power passes through: whose system their output is, and where its one bond belongs."""

from __future__ import annotations

from nelvor.judges.zones.derived import DERIVED_APART, DERIVED_BOND, NOT_DERIVED
from nelvor.judges.zones.zone import Zone
from nelvor.topology.names import name_of
from nelvor.topology.passing import Passing
from nelvor.topology.site import Site


def of_passing(site: Site, enclosure_id: str) -> Zone | None:
    """Return the zone of an enclosure with a source that power passes through; None for any other."""
    passing = site.passing.get(enclosure_id)
    if passing is None:
        return None
    name = name_of(site, passing.source.id)
    match passing.source.neutral_path:
        case None:
            return Zone("unknown", f"Whether the neutral passes through {name} is not entered.", field="neutral_path")
        case "none":
            return Zone("no_neutral", f"{name} hands on no neutral, so there is nothing to bond here.")
        case "opens" if not passing.input_bars:
            reason = f"{name} opens the neutral, and its input and output are drawn on one bar: give each its own."
            return Zone("unknown", reason)
        case "opens":
            reason = f"{name} opens the neutral with the lines: alone it is a system of its own, bonded by its relay."
            return Zone("by_relay", reason, DERIVED_BOND)
        case _:
            return _neutral_passes(site, passing, name)


def _neutral_passes(site: Site, passing: Passing, name: str) -> Zone:
    if _utility_behind(site, passing):
        reason = f"The neutral passes through {name}: it is the utility's, and the service's bond serves it."
        return Zone("floating", reason, NOT_DERIVED)
    reason = f"The neutral passes through {name}: it and what feeds it are one system, bonded at its first disconnect."
    return Zone("floating", reason, DERIVED_BOND)


def before_passing(site: Site, enclosure_id: str) -> Zone | None:
    """Return the zone of a set that feeds a source through which its neutral passes: the two have one bond for both.

    The bond is at the first disconnect behind the source, so that it stays when the set is unplugged.
    """
    sources = {item.id for item in site.sources_in.get(enclosure_id, [])}
    for other_id, passing in site.passing.items():
        shares = passing.source.neutral_path == "passes" and not _utility_behind(site, passing)
        if sources & passing.behind and shares and other_id != enclosure_id:
            names = " and ".join(name_of(site, item) for item in (*sorted(sources), passing.source.id))
            return Zone(
                "floating", f"{names} share one neutral: the one bond is at the first disconnect.", DERIVED_BOND
            )
    return None


def behind_passing(site: Site, enclosure_id: str, ahead: Zone) -> Zone | None:
    """Return the zone of an enclosure that a source with power passing through feeds; None for any other."""
    feeding = site.feeding_run(enclosure_id)
    passing = site.passing.get(site.upstream_of(feeding)) if feeding is not None else None
    if feeding is None or passing is None:
        return None
    name = name_of(site, site.upstream_of(feeding))
    if ahead.kind == "floating" and ahead.clause == DERIVED_BOND:
        reason = f"It is the first disconnect of the system that begins at {name}: the one bond of that system is here."
        return Zone("derived", reason, DERIVED_BOND)
    if ahead.kind == "by_relay" or _utility_behind(site, passing):
        return Zone("load", f"Whatever feeds {name}, the bond is ahead of it.", DERIVED_APART)
    return None


def _utility_behind(site: Site, passing: Passing) -> bool:
    return any(site.sources[item].kind == "utility" for item in passing.behind)
