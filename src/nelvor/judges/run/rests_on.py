"""Everything that the answer of one run rests on, gathered: the same things give the same answer."""

from __future__ import annotations

from collections.abc import Hashable, Iterator, Sequence

from nelvor.judges.level_loads import carries_entire_unit
from nelvor.judges.run.case import ENDS_IN_ITS_DEVICE, RunCase
from nelvor.model.things import Device
from nelvor.topology.pushed_in import own_run
from nelvor.topology.site import Site

OF_SOURCES = frozenset({"output", "alone", "standby"})


def rests_on(case: RunCase, taken: object) -> tuple[Sequence[object], Hashable]:
    """Return the things that a run is judged by, and the values that are derived from others. ``taken`` stands for the
    ids that its ways out may not give again.

    A run whose device is still to be chosen, or that taps, is tapped or leaves a transformer, rests on more than is
    worth telling: it is held to be the same only within one and the same site.
    """
    site, run = case.site, case.run
    start, end = site.upstream_of(run), case.fed
    device, main = site.protection_ahead.get(run.id), site.main_of(end) if end in site.enclosures else None
    objects: list[object] = [
        run,
        taken,
        case.rules,
        site.document.settings,
        device,
        main,
        _at_the_end(site, run.from_part),
        _at_the_end(site, run.to_part),
        site.enclosures.get(start),
        site.enclosures.get(end),
        case.levels.get(end),
        *site.stretches_of.get(run.id, []),
        *site.conductors_of.get(run.id, []),
        *site.bars_in.get(start, []),
        *site.bars_in.get(end, []),
        *site.sources_beneath.get(end, {}).values(),
        *_buses_to_take(site, (start, end), device, main),
    ]
    by_others = (
        run.id in site.tap_of_run or run.id in site.taps_on_run or run.from_part in site.transformer_of_secondary
    )
    protecting = main if case.kind in ENDS_IN_ITS_DEVICE else device
    if case.kind in OF_SOURCES or by_others or (protecting is not None and protecting.rating_a is None):
        objects.append(site)
    whole = carries_entire_unit(site, case.levels, end)
    system = site.system_at(end) if end in site.enclosures else None
    return objects, (case.kind, case.ahead, system, whole, site.feeding_run(end) is run, case.several_disconnects)


def _at_the_end(site: Site, part: str) -> object:
    """What a run ends at."""
    return site.devices.get(part) or site.lugs.get(part) or site.buses.get(part) or site.sources.get(part)


def _buses_to_take(site: Site, ends: Sequence[str], device: Device | None, main: Device | None) -> Iterator[object]:
    """What tells whether the buses at both ends, and those that its devices protect, would take a device raised."""
    protected = [run for item in (device, main) if item is not None for run in site.protected_by.get(item.id, [])]
    for box in dict.fromkeys((*ends, *(site.downstream_of(run) for run in protected))):
        if box not in site.enclosures:
            continue
        feeding = site.feeding_run(box)
        yield site.bus_of(box)
        yield site.main_of(box)
        yield site.protection_ahead.get(feeding.id) if feeding is not None else None
        sources = site.sources_beneath.get(box, {})
        yield from sources.values()
        if sources:
            own = [run for source in sources.values() if (run := own_run(site, source)) is not None]
            yield from site.devices_in.get(box, [])
            yield from site.runs_into.get(box, [])
            yield from site.runs_from.get(box, [])
            yield from site.document.interlocks
            yield from (item for run in own for item in (run, *site.conductors_of.get(run.id, [])))
