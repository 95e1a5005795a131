"""Which sources push power into a bus besides its supply, and through which of its devices: there, and further down."""

from __future__ import annotations

from collections.abc import Iterator

from nelvor.model.things import Bus, Device, Source
from nelvor.topology.site import Site

STEADY = frozenset({"utility"})


def sources_through(site: Site, device: Device) -> list[Source]:
    """Return the sources whose power comes in through a device of a bus: at its end, or at the panels that it feeds."""
    found: dict[str, Source] = {}
    for run in site.drawn_runs:
        if run.to_part == device.id and (run.id in site.feeds.beside or device.role == "source"):
            found |= {source.id: source for source in _behind(site, site.upstream_of(run), set())}
        elif run.from_part == device.id and run.id not in site.feeds.beside:
            found |= {source.id: source for source in _further_down(site, site.downstream_of(run), set())}
    return list(found.values())


def sources_at_lugs(site: Site, bus: Bus) -> list[Source]:
    """Return the sources that come in at lugs of the enclosure, beside its feed."""
    lugs = {item.id for item in site.lugs_in.get(bus.enclosure_id, [])}
    found: dict[str, Source] = {}
    for run in site.runs_into.get(bus.enclosure_id, []):
        if run.id in site.feeds.beside and run.to_part in lugs:
            found |= {source.id: source for source in _behind(site, site.upstream_of(run), set())}
    return list(found.values())


def _behind(site: Site, owner: str, seen: set[str]) -> Iterator[Source]:
    """The sources from which a run beside comes: its own, or those of the boxes on the way to it."""
    if owner in seen:
        return
    seen.add(owner)
    yield from (source for source in site.sources_in.get(owner, []) if source.kind not in STEADY)
    for run in site.runs_into.get(owner, []):
        yield from _behind(site, site.upstream_of(run), seen)


def _further_down(site: Site, enclosure_id: str, seen: set[str]) -> Iterator[Source]:
    """The sources that come in at an enclosure or at any that it feeds."""
    if enclosure_id in seen:
        return
    seen.add(enclosure_id)
    yield from (source for source in site.sources_in.get(enclosure_id, []) if source.kind not in STEADY)
    for run in site.runs_into.get(enclosure_id, []):
        if run.id in site.feeds.beside:
            yield from _behind(site, site.upstream_of(run), {enclosure_id})
    for run in site.feeds.supplying_from.get(enclosure_id, []):
        yield from _further_down(site, site.downstream_of(run), seen)
