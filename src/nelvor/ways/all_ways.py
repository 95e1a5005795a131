"""All ways to connect a wanted source at a panel, those with the least work first."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from nelvor.ways import beside_the_bus, larger_equipment, on_a_bus
from nelvor.ways.way import Way, Wish

IN_ORDER_OF_WORK: tuple[Callable[[Wish], Iterator[Way]], ...] = (
    on_a_bus.own_bus,
    on_a_bus.smaller_mains,
    on_a_bus.other_buses,
    on_a_bus.power_control,
    beside_the_bus.feeder_tap,
    beside_the_bus.supply_side,
    on_a_bus.larger_buses,
    larger_equipment.second_section,
    larger_equipment.larger_service,
)


def all_ways(wish: Wish) -> list[Way]:
    """Return the ways in the order of the work that they usually take."""
    return [way for ways in IN_ORDER_OF_WORK for way in ways(wish)]
