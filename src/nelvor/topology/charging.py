"""What storage takes to charge, as a load where it comes in: told by its plate or its setting, drawn nowhere."""

from __future__ import annotations

from collections.abc import Mapping

from nelvor.model.things import Load, Source
from nelvor.model.voltages import LEGS, LINE_TO_LINE_V, LINE_TO_NEUTRAL_V
from nelvor.topology.feeds import Feeds
from nelvor.topology.look_ups import LookUps
from nelvor.topology.passing import Passing
from nelvor.topology.pushed_in import lines_of_source


def stores(source: Source) -> bool:
    """Tell whether a source has storage that its lines may charge: a battery, or an inverter that goes on alone."""
    return source.kind == "battery" or (source.kind == "inverter" and source.forms_supply is True)


def charging_loads(
    things: LookUps,
    feeds: Feeds,
    passing: Mapping[str, Passing],
    beneath: Mapping[str, Mapping[str, Source]],
    systems: Mapping[str, str | None],
) -> dict[str, list[Load]]:
    """Return the charging of each source as a continuous load, by the enclosure that supplies it.

    ``beneath`` are the sources that come in at each enclosure or behind it. Of one that power passes through it is the
    enclosure that feeds its input: while it goes on alone, it takes nothing.
    """
    found: dict[str, list[Load]] = {}
    for box, sources in beneath.items():
        behind = {
            key for run in feeds.supplying_from.get(box, []) for key in beneath.get(things.downstream_of(run), {})
        }
        for source in sources.values():
            feeding = feeds.feeding.get(box) if box in passing else None
            supplies = things.upstream_of(feeding) if feeding is not None else box
            if source.charging_a and source.id not in behind and supplies in things.enclosures:
                found.setdefault(supplies, []).append(_load(things, source, supplies, systems.get(supplies)))
    return found


def _load(things: LookUps, source: Source, box: str, system: str | None) -> Load:
    lines = lines_of_source(things, source) or len(LEGS) - 1
    volts = (LINE_TO_NEUTRAL_V if lines == 1 else LINE_TO_LINE_V).get(system or "")
    units = [
        item.id for item in things.document.dwelling_units if item.building_id == things.enclosures[box].building_id
    ]
    return Load(
        id=f"{source.id}-charging",
        name=f"Charging of {source.name or source.id}",
        enclosure_id=box,
        amount=source.charging_a,
        unit="A",
        volts=float(volts) if volts is not None else None,
        three_phase=lines == len(LEGS),
        continuous=True,
        dwelling_unit_id=units[0] if len(units) == 1 else None,
        without_diversity=True,
    )
