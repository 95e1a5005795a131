"""Electrodes of an enclosure: new rods for it, and those that land behind it though they belong here."""

from __future__ import annotations

from collections.abc import Sequence

from nelvor.judges.verdict import adding, proposing
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Electrode, Enclosure
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.site import Site


def electrodes_behind(site: Site, enclosure: Enclosure) -> list[Electrode]:
    """Return the electrodes that land in boxes fed from an enclosure, in the same building, behind its bond."""
    found = []
    for box in site.boxes_beneath(enclosure.id)[1:]:
        other = site.enclosures.get(box)
        if other is not None and other.building_id == enclosure.building_id and not site.transformers_in.get(box):
            found += site.electrodes_at.get(box, [])
    return found


def landing_words(site: Site, electrodes: Sequence[Electrode]) -> str:
    """Return where electrodes land instead."""
    boxes = " and ".join(dict.fromkeys(name_of(site, site.owners[item.connects_to or ""]) for item in electrodes))
    return f"{thing_name(site, electrodes[0].id)} lands in {boxes}, behind the bond."


def landed_at(electrodes: Sequence[Electrode], part: str) -> list[Operation]:
    """Return the operations that land electrode conductors at a part."""
    return [operation for item in electrodes for operation in proposing("electrodes", item, connects_to=part)]


def new_rods(site: Site, enclosure: Enclosure, part: str, count: int, there: int) -> list[Operation]:
    """Return the operations that drive rods for an enclosure, beside those that are there."""
    ids = site.free_ids()
    return [
        adding(
            "electrodes",
            Electrode(
                id=ids.take(f"{enclosure.id}-rod{there + number + 1}"),
                kind="rod",
                building_id=enclosure.building_id,
                connects_to=part,
                length_ft=8.0,
                spacing_ft=6.0,
                conductor_size="6",
                conductor_material="copper",
            ),
        )
        for number in range(count)
    ]
