"""An inlet and an interlock: the generator's breaker beside the main, so that only one of the two can be on.

The slide of an interlock reaches the spaces next to the main alone. What stands there moves to the first spaces that are
free for it.
"""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends, bar_of, feed_of, legs_at
from nelvor.additions.generator import FLOATING, generator_on_a_cord
from nelvor.additions.options import InletOptions
from nelvor.additions.receiver import Receiver
from nelvor.errors import CannotCompute
from nelvor.model.things import Bus, Device
from nelvor.spaces.bus_spaces import Spot, free_spots, hung_row, rows_of, spots_from, spots_of
from nelvor.topology.names import name_of


def interlock(receiver: Receiver, options: InletOptions) -> Draft:
    """Return the operations that add an inlet with its generator, the breaker beside the main, and the interlock.

    Raises:
        CannotCompute: the panel has no main to be held against, or no room beside it can be made.
    """
    site, panel = receiver.site, receiver.enclosure
    draft, bus, main = Draft(site), site.bus_of(panel.id), site.main_of(panel.id)
    if bus is None or main is None or main.enclosure_id != panel.id or main.kind == "switch":
        raise CannotCompute(
            f"{name_of(site, panel.id)} has no main breaker of its own that an interlock could hold.",
            "Give it a main, or add transfer gear ahead of it.",
        )
    legs = legs_at(site, feed_of(site, panel.id))
    space = _beside_the_main(draft, bus, len(legs))
    source = {"role": "source", "rating_a": options.breaker_a, "held_down": True}
    breaker = draft.breaker(bus, "generator", "Generator inlet", len(legs), space, **source)
    draft.add(
        "interlocks", f"{panel.id[:24]}-interlock", name="Interlock", device_a=main.id, device_b=breaker, listed=True
    )
    end = Ends(breaker, bar_of(site, panel.id, "neutral"), bar_of(site, panel.id, "ground") or panel.id)
    generator_on_a_cord(draft, receiver, options, options.marking or FLOATING, end, legs)
    return draft


def _beside_the_main(draft: Draft, bus: Bus, poles: int) -> int | None:
    """Return the space of the generator's breaker, what stands in its way moved; None where spaces are not told.

    Raises:
        CannotCompute: what stands there finds no other place.
    """
    rows = rows_of(bus)
    if rows is None or bus.main_end not in ("top", "bottom"):
        return None
    nearest = range(rows) if bus.main_end == "top" else range(rows - poles, -1, -1)
    starts = [space for row in list(nearest)[:1] for space in _spaces_in_row(bus, row, rows)]
    plans = [plan for space in starts if (plan := _make_room(draft, bus, Spot(space), poles)) is not None]
    if not plans:
        raise CannotCompute(
            "The spaces beside the main are taken, and what stands there fits nowhere else.",
            "Make room in the panel first, or add transfer gear ahead of it.",
        )
    moves, space = min(plans, key=lambda plan: len(plan[0]))
    for device, new in moves:
        draft.propose("devices", device, space=new)
    return space


def _spaces_in_row(bus: Bus, row: int, rows: int) -> list[int]:
    """The spaces of a row as it hangs, the right side first."""
    return [space for space in range(bus.spaces or 0, 0, -1) if hung_row(bus, space, rows) == row]


def _make_room(draft: Draft, bus: Bus, start: Spot, poles: int) -> tuple[list[tuple[Device, int]], int] | None:
    """Which breakers go where so that poles fit from a start on; None where they do not."""
    wanted = spots_from(bus, poles, start)
    if len(wanted) < poles:
        return None
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
