"""All ways to connect a wanted source at a panel, those with the least work first."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from nelvor.topology.names import name_of
from nelvor.ways import beside_the_bus, on_a_bus
from nelvor.ways.way import Way, Wish


def _second_section(wish: Wish) -> Iterator[Way]:
    name = name_of(wish.receiver.site, wish.receiver.enclosure.id)
    yield Way(
        "second_section",
        f"With a second section or a sub-panel beside {name}",
        wish.receiver.enclosure.id,
        by_hand=True,
        refused="It hangs on which circuits move: draw the panel, take circuits over, and connect the source there.",
        why="Spaces are gained as well, and the old bus is relieved.",
    )


def _new_service(wish: Wish) -> Iterator[Way]:
    yield Way(
        "new_service",
        "With a larger or a second service",
        wish.receiver.enclosure.id,
        by_hand=True,
        refused="It hangs on what the utility offers: draw the new service, and connect the source there.",
        consent="the utility",
        why="Right where the load grows too, or the service equipment is at its end.",
    )


IN_ORDER_OF_WORK: tuple[Callable[[Wish], Iterator[Way]], ...] = (
    on_a_bus.own_bus,
    on_a_bus.smaller_mains,
    on_a_bus.other_buses,
    on_a_bus.power_control,
    beside_the_bus.feeder_tap,
    beside_the_bus.supply_side,
    on_a_bus.larger_buses,
    _second_section,
    _new_service,
)


def all_ways(wish: Wish) -> list[Way]:
    """Return the ways in the order of the work that they usually take."""
    return [way for ways in IN_ORDER_OF_WORK for way in ways(wish)]
