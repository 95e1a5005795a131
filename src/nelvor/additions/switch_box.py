"""A box with a switch for each chosen circuit: their breakers stay in the panel, and a set comes in on the box's other side.

Leads go from the breakers to the box and back. It moves the lines alone: the neutral of the set goes with the leads to that of the
panel, and the set makes no bond of its own. The circuits are chosen afterwards, where their sum is seen.
"""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends, bar_of, feed_of, legs_at
from nelvor.additions.generator import FLOATING, fixed_generator, generator_on_a_cord
from nelvor.additions.options import SwitchBoxOptions
from nelvor.additions.receiver import Receiver
from nelvor.errors import CannotCompute
from nelvor.model.new_things import NEW_ENCLOSURES
from nelvor.topology.names import name_of


def switch_box(receiver: Receiver, options: SwitchBoxOptions) -> Draft:
    """Return the operations that add the box with its switches, its leads to the panel, and the set.

    Raises:
        CannotCompute: the enclosure has no bus that holds breakers, or nothing feeds it.
    """
    site, panel = receiver.site, receiver.enclosure
    bus, legs = site.bus_of(panel.id), legs_at(site, feed_of(site, panel.id))
    if bus is None:
        raise CannotCompute(f"{name_of(site, panel.id)} has no breakers to move.", "Choose a panel.")
    draft = Draft(site)
    made = draft.place(
        "switch_box",
        "switch-box",
        receiver.free_name("Switch box"),
        enclosures={"building_id": panel.building_id, "termination_c": 75},
        transfers={"rating_a": options.gear_a, "poles": len(legs)},
    )
    draft.add("throws", f"{made['box']}-on-utility", transfer_id=made["gear"], name="Utility", part=bus.id)
    for number in range(options.switches):
        letter = chr(ord("A") + number)
        leg = legs[number % len(legs)]
        draft.add("circuit_switches", f"{made['box']}-{letter.lower()}", transfer_id=made["gear"], name=letter, leg=leg)
    _leads(draft, receiver, made, options.distance_ft)
    add_generator = generator_on_a_cord if options.portable else fixed_generator
    marking = options.marking or FLOATING
    add_generator(draft, receiver, options, marking, draft.landing("switch_box", made), legs)
    return draft


def _leads(draft: Draft, receiver: Receiver, made: dict[str, str], distance_ft: float) -> None:
    """The leads of the circuits, with the neutral of the box and its grounding conductor, into the panel."""
    site, panel = receiver.site, receiver.enclosure
    lugs = draft.add("lugs", f"{panel.id[:24]}-leads", enclosure_id=panel.id, name="Leads of the switch box")
    end = Ends(lugs, bar_of(site, panel.id, "neutral"), bar_of(site, panel.id, "ground") or panel.id)
    start = Ends(made["load"], made["neutral"], made["ground"])
    values = {**NEW_ENCLOSURES["switch_box"].run, "length_ft": distance_ft}
    draft.run("switch-box-leads", start, end, [], **values)
