"""The spaces of a bus: where each lies, on which leg, which follows which, and which a device takes.

A row is counted from space 1, where the leg pattern begins; a panel that hangs upside down reads as its door does, so
that its space 1 is at the bottom (``inverted``).
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import lru_cache
from typing import Literal, NamedTuple

from nelvor.model.things import Bus, Device
from nelvor.model.vocabulary import HalfSpace

End = Literal["far", "near", "between"]

COLUMNS = 2
OTHER_HALF: dict[HalfSpace, HalfSpace] = {"first": "second", "second": "first"}


class Spot(NamedTuple):
    """A space of a bus, or one half of it."""

    space: int
    half: HalfSpace | None = None

    def overlaps(self, other: Spot) -> bool:
        """Tell whether two breakers, one in each of these, would be in each other's way."""
        return self.space == other.space and (self.half is None or other.half is None or self.half == other.half)


class Position(NamedTuple):
    """Where a space lies: its column and its row, both from 0, the row counted from space 1."""

    column: int
    row: int


def columns_of(bus: Bus) -> int:
    """Return how many columns of breakers stand on a bus."""
    return bus.rows or COLUMNS


def position_of(bus: Bus, space: int) -> Position | None:
    """Return where a space lies; None where the numbering does not tell."""
    return _position(bus.numbering == "sequential", columns_of(bus), bus.spaces, space)


@lru_cache(maxsize=4096)
def _position(sequential: bool, columns: int, spaces: int | None, space: int) -> Position | None:
    if not sequential:
        row, column = divmod(space - 1, columns)
    elif spaces is None:
        return None
    else:
        column, row = divmod(space - 1, -(-spaces // columns) or 1)
    return Position(column, row)


def rows_of(bus: Bus) -> int | None:
    """Return how many rows a bus has; None where its spaces do not tell."""
    if not bus.spaces:
        return None
    places = [position_of(bus, space) for space in range(1, bus.spaces + 1)]
    return max((place.row for place in places if place is not None), default=0) + 1


def hung_row(bus: Bus, space: int, rows: int) -> int | None:
    """Return the row of a space from the top, as the panel hangs."""
    place = position_of(bus, space)
    if place is None:
        return None
    return rows - 1 - place.row if bus.numbering == "inverted" else place.row


def end_of_spots(bus: Bus, spots: Sequence[Spot]) -> End | None:
    """Return where spots lie from the supply of a bus: at the far end, at the near one, or between.

    None where a place is not told, or the end at which the supply comes in. Of a bus fed in its middle neither end is
    away from the supply.
    """
    if bus.main_end == "middle":
        return "between"
    rows = rows_of(bus)
    if not spots or rows is None or bus.main_end in (None, "none"):
        return None
    hung = [hung_row(bus, spot.space, rows) for spot in spots]
    far, near = (rows - 1, 0) if bus.main_end == "top" else (0, rows - 1)
    if far in hung:
        return "far"
    return "near" if near in hung else "between"


def following(bus: Bus, space: int) -> int | None:
    """Return the space that follows on the same side; None where the bus ends, or the numbering does not tell."""
    here = position_of(bus, space)
    if here is None:
        return None
    found = space + (1 if bus.numbering == "sequential" else columns_of(bus))
    if bus.spaces is not None and found > bus.spaces:
        return None
    there = position_of(bus, found)
    return found if there is not None and there.column == here.column else None


def leg_of_space(bus: Bus, space: int, legs: Sequence[str]) -> str | None:
    """Return the leg on which a space lies; None where that cannot be told."""
    here = position_of(bus, space)
    return None if here is None or not legs else legs[here.row % len(legs)]


def spots_from(bus: Bus, poles: int, start: Spot) -> tuple[Spot, ...]:
    """Return the spots that poles take from a start; fewer than the poles where the bus ends before.

    Two poles of half size take the outer halves of two spaces where they begin in the first half, else the inner ones.
    """
    spots: list[Spot] = []
    space: int | None = start.space if bus.spaces is None or start.space <= bus.spaces else None
    half = start.half
    while space is not None and len(spots) < poles:
        spots.append(Spot(space, half))
        space, half = following(bus, space), OTHER_HALF[half] if half else None
    return tuple(spots)


def spots_of(bus: Bus, device: Device) -> tuple[Spot, ...]:
    """Return the spots that a device takes; none where its space is not told."""
    if device.space is None:
        return ()
    return spots_from(bus, device.poles, Spot(device.space, device.half))


def legs_of_device(bus: Bus, device: Device, legs: Sequence[str]) -> tuple[str, ...]:
    """Return the legs that a device's poles stand on by its space; none where that cannot be told."""
    found = {leg_of_space(bus, spot.space, legs) for spot in spots_of(bus, device)}
    return tuple(sorted(leg for leg in found if leg is not None))


def takes_halves(bus: Bus, space: int) -> bool | None:
    """Tell whether half-size breakers fit in a space by the panel's marking; None where that is not known."""
    if bus.half_size_spaces is not True:
        return bus.half_size_spaces
    return (bus.half_size_from or 1) <= space <= (bus.half_size_to or space)


def free_spots(bus: Bus, taken: Iterable[Spot], half: bool) -> list[Spot]:
    """Return the spots of a bus that nothing stands in, whole spaces or halves of those marked for them.

    None where the number of spaces is not known.
    """
    occupied = list(taken)
    halves: tuple[HalfSpace | None, ...] = ("first", "second") if half else (None,)
    return [
        spot
        for space in range(1, (bus.spaces or 0) + 1)
        if not half or takes_halves(bus, space)
        for spot in (Spot(space, part) for part in halves)
        if not any(spot.overlaps(other) for other in occupied)
    ]
