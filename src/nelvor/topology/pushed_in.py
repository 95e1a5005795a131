"""Which sources of the premises push power in beside the supply: behind a run, and beneath an enclosure."""

from __future__ import annotations

from collections.abc import Iterator

from nelvor.model.things import Device, Run, Source
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
