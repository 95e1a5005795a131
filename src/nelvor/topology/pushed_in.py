"""Which sources of the premises push power in beside the supply: behind a run, and beneath an enclosure."""

from __future__ import annotations

from collections.abc import Iterator

from nelvor.model.things import Device, Run, Source
from nelvor.model.voltages import LEGS
from nelvor.topology.feeds import Feeds
from nelvor.topology.look_ups import LookUps

STEADY = frozenset({"utility"})


def has_own_sources(site: LookUps) -> bool:
    """Tell whether the premises have a source of their own at all."""
    return any(source.kind not in STEADY for source in site.document.sources)


def sources_beneath(site: LookUps, feeds: Feeds) -> dict[str, dict[str, Source]]:
    """Return the sources that come in at each enclosure or at any that it feeds."""
    known: dict[str, dict[str, Source]] = {}
    for owner in reversed(feeds.outward):
        known[owner] = _at(site, feeds, owner)
        for run in feeds.supplying_from.get(owner, []):
            known[owner] |= known.get(site.downstream_of(run), {})
    return known


def _at(site: LookUps, feeds: Feeds, owner: str) -> dict[str, Source]:
    """The sources in an enclosure, and those whose runs come in there beside its feed."""
    found = {source.id: source for source in site.sources_in.get(owner, []) if source.kind not in STEADY}
    for run in site.runs_into.get(owner, []):
        if run.id in feeds.beside:
            found |= {source.id: source for source in sources_behind(site, site.upstream_of(run), {owner})}
    return found


def sources_behind(site: LookUps, owner: str, seen: set[str]) -> Iterator[Source]:
    """The sources from which a run beside comes: its own, or those of the boxes on the way to it."""
    if owner in seen:
        return
    seen.add(owner)
    yield from (source for source in site.sources_in.get(owner, []) if source.kind not in STEADY)
    for run in site.runs_into.get(owner, []):
        yield from sources_behind(site, site.upstream_of(run), seen)


def first_device(site: LookUps, run: Run) -> Device | None:
    """Return the overcurrent device nearest to the source of a run: where it begins, where it ends, or further on."""
    seen: set[str] = set()
    while run.id not in seen:
        seen.add(run.id)
        for part in (run.from_part, run.to_part):
            device = site.devices.get(part)
            if device is not None and device.kind != "switch":
                return device
        run = next(iter(site.runs_from.get(site.downstream_of(run), [])), run)
    return None


def own_run(site: LookUps, source: Source) -> Run | None:
    """Return the run that ends or begins at a source, or in the box in which it stands alone."""
    at_terminals = [run for run in site.drawn_runs if source.id in (run.from_part, run.to_part)]
    owner = site.owners[source.id]
    return next(iter([*at_terminals, *site.runs_from.get(owner, []), *site.runs_into.get(owner, [])]), None)


def lines_of_source(site: LookUps, source: Source) -> int | None:
    """Return how many lines a source brings, by the conductors of its own run; None where they are not drawn."""
    run = own_run(site, source)
    roles = {item.role for item in site.conductors_of.get(run.id, [])} & set(LEGS) if run is not None else set()
    return len(roles) or None


def source_device(site: LookUps, source: Source) -> Device | None:
    """Return the overcurrent device of a source: the one nearest to it on its own run; None where none is drawn."""
    run = own_run(site, source)
    if run is None:
        return None
    at_ends = [site.devices.get(part) for part in (run.from_part, run.to_part)]
    found = next((item for item in at_ends if item is not None and item.kind != "switch"), None)
    return found or first_device(site, run)


def gathers_sources_alone(
    site: LookUps, sources_beneath: dict[str, dict[str, Source]], enclosure_id: str, seen: frozenset[str] = frozenset()
) -> bool:
    """Tell whether an enclosure, with all that it feeds, serves nothing but sources that run beside the utility.

    Every device of it leads to one; a panel is for loads too, unless it is told that no other circuits stand in it.
    """
    sources = sources_beneath.get(enclosure_id, {}).values()
    enclosure = site.enclosures[enclosure_id]
    if enclosure_id in seen or not sources or not all(item.interactive for item in sources):
        return False
    if site.loads_in.get(enclosure_id) or (enclosure.kind == "panel" and not enclosure.no_other_circuits):
        return False
    leading = [item for item in site.devices_in.get(enclosure_id, []) if item.role in ("feeder", "branch")]
    if not all(site.runs_from_part.get(item.id) or site.runs_to_part.get(item.id) for item in leading):
        return False
    fed = {site.downstream_of(run) for run in site.runs_from.get(enclosure_id, [])} & site.enclosures.keys()
    return all(gathers_sources_alone(site, sources_beneath, item, seen | {enclosure_id}) for item in fed)
