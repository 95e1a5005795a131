"""An inlet and an interlock: the generator's breaker beside the main, so that only one of the two can be on.

The slide of an interlock reaches the spaces next to the main alone. What stands there moves to the first spaces that are
free for it.
"""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends, bar_of, feed_of, legs_at
from nelvor.additions.generator import FLOATING, generator_on_a_cord
from nelvor.additions.options import InletOptions
from nelvor.additions.receiver import Receiver
from nelvor.additions.room import space_at_end
from nelvor.errors import CannotCompute
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
    space = space_at_end(draft, bus, len(legs), "main")
    source = {"role": "source", "rating_a": options.breaker_a, "held_down": True}
    breaker = draft.breaker(bus, "generator", "Generator inlet", len(legs), space, **source)
    draft.add(
        "interlocks", f"{panel.id[:24]}-interlock", name="Interlock", device_a=main.id, device_b=breaker, listed=True
    )
    end = Ends(breaker, bar_of(site, panel.id, "neutral"), bar_of(site, panel.id, "ground") or panel.id)
    generator_on_a_cord(draft, receiver, options, options.marking or FLOATING, end, legs)
    return draft
