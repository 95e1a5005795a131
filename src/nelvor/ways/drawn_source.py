"""A source that is drawn already, as a wish: where it is joined, what its plate says, and how it is taken out again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from nelvor.errors import CannotCompute
from nelvor.judges.source_currents import output_through
from nelvor.model.changes.operations import Insert, Operation, apply
from nelvor.model.changes.remove import removal
from nelvor.model.things import Run, Source
from nelvor.model.voltages import LEGS
from nelvor.topology.names import name_of
from nelvor.topology.pushed_in import lines_of_source, own_run, source_device
from nelvor.topology.site import Site
from nelvor.ways.way import WantedSource

OF_ITS_PLACE = frozenset({"id", "enclosure_id", "standing", "proposed", "utility_agrees", "joint_listed"})
"""What does not go along with a source that is joined somewhere else."""


@dataclass(frozen=True)
class DrawnSource:
    """The panel where a source is joined now, its plate as a wish, and the operations that take it out of the design."""

    enclosure_id: str
    wanted: WantedSource
    taken_out: tuple[Operation, ...]
    source: Source

    def brought_along(self, operations: Sequence[Operation]) -> tuple[Operation, ...]:
        """Return operations that draw a source, as ones that draw this one: its name, its plate and what is entered of it."""
        kept = {name: value for name, value in self.source.model_dump().items() if name not in OF_ITS_PLACE}
        return tuple(
            item.model_copy(update={"thing": {**item.thing, **kept}})
            if isinstance(item, Insert) and item.list == "sources"
            else item
            for item in operations
        )


def drawn_source(document: dict[str, Any], site: Site, source: Source) -> DrawnSource:
    """Return a source of a site as a wish.

    Raises:
        CannotCompute: it does not run beside the utility, its output is not read, or nothing connects it.
    """
    name, run = name_of(site, source.id), own_run(site, source)
    if not source.interactive:
        raise CannotCompute(f"{name} does not run beside the utility.", "Transfer gear connects it.")
    if run is None:
        raise CannotCompute(f"{name} is not connected yet.", "Say at which panel it is wanted.")
    panel = _panel_of(site, source, run)
    lines = min(lines_of_source(site, source) or 2, len(site.legs_at.get(panel, ())))
    output = output_through(site, source, site.system_at(panel), lines)
    if output is None:
        raise CannotCompute(f"The rated output of {name} is not read.", "Enter it from its plate.")
    wanted = WantedSource(
        output_a=float(output),
        lines="three" if lines == len(LEGS) else "two",
        largest_device_a=source.largest_device_a,
        distance_ft=run.length_ft if run.length_ft is not None else WantedSource.model_fields["distance_ft"].default,
    )
    return DrawnSource(panel, wanted, tuple(_taking_out(document, site, source, run)), source)


def _panel_of(site: Site, source: Source, run: Run) -> str:
    """The nearest panel on the way from a source to the service; where none is, as ahead of it, the first of the site.

    Raises:
        CannotCompute: no panel is drawn at all.
    """
    own = site.owners[source.id]
    start, end = site.upstream_of(run), site.downstream_of(run)
    joined = end if start == own else start
    ways = [joined, *(site.upstream_of(way) for way in site.runs_to_source(joined)), *site.walking_order]
    found = next((item for item in ways if item in site.enclosures and site.bus_of(item) is not None), None)
    if found is None:
        raise CannotCompute("No panel is drawn to which it could be connected.", "Draw the panel first.")
    return found


def _taking_out(document: dict[str, Any], site: Site, source: Source, run: Run) -> list[Operation]:
    """Its box, its run, its breaker, and a disconnect that serves it alone."""
    operations: list[Operation] = []
    for list_name, thing_id in _of_its_own(site, source, run):
        step = removal(apply(document, operations), "proposed", list_name, thing_id).operations
        operations += step
    return operations


def _of_its_own(site: Site, source: Source, run: Run) -> list[tuple[str, str]]:
    own, device = site.owners[source.id], source_device(site, source)
    found = [("runs", run.id), ("sources", source.id)]
    if own in site.enclosures and len(site.sources_in[own]) == 1:
        found.append(("enclosures", own))
    if device is None:
        return found
    switch = device.enclosure_id
    if site.bus_of(switch) is None and site.gathers_sources_alone(switch) and len(site.sources_beneath[switch]) == 1:
        feed = site.feeding_run(switch)
        return [*found, *([("runs", feed.id)] if feed is not None else []), ("enclosures", switch)]
    return [*found, ("devices", device.id)]
