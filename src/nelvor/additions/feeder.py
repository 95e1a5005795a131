"""A breaker that feeds something new from a panel, in the free space farthest from its main."""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends, bar_of, feed_of, legs_at
from nelvor.additions.receiver import Receiver
from nelvor.additions.room import free_far_space
from nelvor.errors import CannotCompute
from nelvor.topology.names import name_of


def new_feeder(
    draft: Draft, receiver: Receiver, wish: str, name: str, rating_a: float | None
) -> tuple[Ends, list[str]]:
    """Add the breaker, and return where its conductors begin, with the lines that they bring.

    Raises:
        CannotCompute: the enclosure has no bus to feed it from, or nothing feeds it.
    """
    site, panel = receiver.site, receiver.enclosure
    bus = site.bus_of(panel.id)
    if bus is None:
        raise CannotCompute(f"{name_of(site, panel.id)} has no bus to feed it from.", "Choose a panel.")
    legs = legs_at(site, feed_of(site, panel.id))
    space = free_far_space(draft, bus, len(legs))
    breaker = draft.breaker(bus, wish, name, len(legs), space, role="feeder", rating_a=rating_a)
    return Ends(breaker, bar_of(site, panel.id, "neutral"), bar_of(site, panel.id, "ground") or panel.id), legs
