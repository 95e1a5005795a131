"""A circuit that moves to another panel: a breaker of that panel takes its place, its wires and loads go over."""

from __future__ import annotations

from dataclasses import dataclass

from nelvor.judges.verdict import adding, proposing, removing
from nelvor.model.changes.ids import FreeIds
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Device
from nelvor.topology.site import Site


@dataclass(frozen=True)
class NewHome:
    """The panel that a circuit moves to: its box, its bus, where neutrals and grounds land, the series it takes.

    ``lines_only`` tells that behind its gear the neutrals of circuits stay in the panel that they come from.
    """

    enclosure_id: str
    bus_id: str
    neutral: str | None
    ground: str | None
    series: str = ""
    lines_only: bool = False


def moved_circuit(site: Site, ids: FreeIds, device: Device, home: NewHome, space: int | None) -> list[Operation]:
    """Return the operations that move the circuit of a breaker to a space of another panel; the old breaker comes out."""
    fresh: dict[str, object] = {
        "id": ids.take(f"{home.enclosure_id[:24]}-{space}"),
        "enclosure_id": home.enclosure_id,
        "bus_id": home.bus_id,
        "space": space,
        "half": None,
        "series": home.series,
        "listed_for_panel": None,
        "standing": "added",
        "proposed": {},
    }
    moved = Device(**{**device.model_dump(), **fresh})
    found: list[Operation] = [adding("devices", moved)]
    left_in = next((bar.id for bar in site.bars_in.get(device.enclosure_id, []) if bar.kind == "neutral"), None)
    for wires in site.circuits_of.get(device.id, []):
        neutral = (wires.neutral_bar or left_in) if home.lines_only else None
        found += proposing("circuits", wires, device_id=moved.id)
        if neutral != wires.neutral_bar:
            found += proposing("circuits", wires, neutral_bar=neutral)
    for load in site.loads_on.get(device.id, []):
        found += proposing("loads", load, device_id=moved.id, enclosure_id=home.enclosure_id)
    for run in site.runs_from.get(device.enclosure_id, []):
        if run.from_part == device.id:
            found += proposing("runs", run, from_part=moved.id)
            ends = {"neutral": home.neutral, "ground": home.ground}
            for conductor in site.conductors_of.get(run.id, []):
                found += proposing("conductors", conductor, from_part=ends.get(conductor.role, moved.id) or moved.id)
    found.append(removing("devices", device))
    return found
