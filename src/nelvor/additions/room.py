"""Room for a new breaker on a bus: beside the main, where an interlock reaches, or at the end away from it.

What stands in the way moves to the first spaces that are free for it; the breaker of a source stays.
"""

from __future__ import annotations

from typing import Literal

from nelvor.additions.draft import Draft
from nelvor.errors import CannotCompute
from nelvor.model.things import Bus, Device
from nelvor.spaces.bus_spaces import Spot, free_spots, hung_row, rows_of, spots_from, spots_of

OTHER_END = {"top": "bottom", "bottom": "top"}


def space_at_end(draft: Draft, bus: Bus, poles: int, end: Literal["main", "far"]) -> int | None:
    """Return the space for a new breaker at one end of a bus, what stands there moved; None where spaces are not told.

    Raises:
        CannotCompute: what stands there finds no other place.
    """
    rows = rows_of(bus)
    if rows is None or bus.main_end not in OTHER_END:
        return None
    at = bus.main_end if end == "main" else OTHER_END[bus.main_end]
    starts = _starts_at(bus, poles, 0 if at == "top" else rows - 1, rows)
    plans = [plan for space in starts if (plan := _make_room(draft, bus, Spot(space), poles)) is not None]
    if not plans:
        where = "beside the main" if end == "main" else "at the end away from the main"
        raise CannotCompute(
            f"The spaces {where} are taken, and what stands there fits nowhere else.", "Make room in the panel first."
        )
    moves, space = min(plans, key=lambda plan: len(plan[0]))
    for device, new in moves:
        draft.propose("devices", device, space=new)
    return space


def _starts_at(bus: Bus, poles: int, row: int, rows: int) -> list[int]:
    """The spaces from which poles reach a row as it hangs, the right side first."""
    found = []
    for space in range(bus.spaces or 0, 0, -1):
        spots = spots_from(bus, poles, Spot(space))
        if len(spots) == poles and row in {hung_row(bus, spot.space, rows) for spot in spots}:
            found.append(space)
    return found


def _make_room(draft: Draft, bus: Bus, start: Spot, poles: int) -> tuple[list[tuple[Device, int]], int] | None:
    """Which breakers go where so that poles fit from a start on; None where they do not."""
    wanted = spots_from(bus, poles, start)
    on_bus = [item for item in draft.site.devices_in.get(bus.enclosure_id, []) if item.bus_id in (bus.id, None)]
    placed = {item.id: spots_of(bus, item) for item in on_bus}
    in_way = [item for item in on_bus if any(spot.overlaps(other) for spot in placed[item.id] for other in wanted)]
    staying = [item for item in on_bus if item not in in_way]
    taken = [*wanted, *(spot for item in staying for spot in placed[item.id])]
    moves = []
    for device in in_way:
        free = free_spots(bus, taken, half=False)
        fits = (spots for spot in free if len(spots := spots_from(bus, device.poles, spot)) == device.poles)
        new = next((spots for spots in fits if not any(a.overlaps(b) for a in spots for b in taken)), None)
        if new is None or device.role == "source":
            return None
        taken += new
        moves.append((device, new[0].space))
    return moves, start.space


def free_far_space(draft: Draft, bus: Bus, poles: int) -> int | None:
    """Return the free space that is farthest from the main, where what pushes into the bus belongs; None if not told."""
    rows = rows_of(bus)
    if rows is None:
        return None
    on_bus = [item for item in draft.site.devices_in.get(bus.enclosure_id, []) if item.bus_id in (bus.id, None)]
    taken = [spot for item in on_bus for spot in spots_of(bus, item)]
    fits = [
        spots[0].space
        for start in free_spots(bus, taken, half=False)
        if len(spots := spots_from(bus, poles, start)) == poles
        and not any(spot.overlaps(other) for spot in spots for other in taken)
    ]
    sign = 1 if bus.main_end == "bottom" else -1
    return min(fits, key=lambda space: sign * (hung_row(bus, space, rows) or 0), default=None)
