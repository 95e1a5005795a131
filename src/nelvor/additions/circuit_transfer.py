"""Manual transfer gear for chosen circuits: a panel of its own, fed from a breaker here by day and from a set when power fails.

Its gear moves the lines alone: the neutral of the set is joined to that of the panel, and the set makes no bond of its own. The
circuits are chosen afterwards, where their sum is seen against what the set gives.
"""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends, bar_of, feed_of, legs_at
from nelvor.additions.generator import FLOATING, fixed_generator, generator_on_a_cord
from nelvor.additions.options import CircuitTransferOptions
from nelvor.additions.receiver import Receiver
from nelvor.additions.room import free_far_space
from nelvor.errors import CannotCompute
from nelvor.model.new_things import NEW_ENCLOSURES
from nelvor.topology.names import name_of


def circuit_transfer(receiver: Receiver, options: CircuitTransferOptions) -> Draft:
    """Return the operations that add the gear with its panel, the breaker that feeds it, and the set on its other side.

    Raises:
        CannotCompute: the enclosure has no bus to feed it from.
    """
    site, panel = receiver.site, receiver.enclosure
    draft, bus = Draft(site), site.bus_of(panel.id)
    if bus is None:
        raise CannotCompute(f"{name_of(site, panel.id)} has no bus to feed it from.", "Choose a panel.")
    legs = legs_at(site, feed_of(site, panel.id))
    space, feeder = free_far_space(draft, bus, len(legs)), {"role": "feeder", "rating_a": options.feeder_a}
    breaker = draft.breaker(bus, "transfer", "Transfer panel", len(legs), space, **feeder)
    made = draft.place(
        "circuit_transfer",
        "transfer-panel",
        receiver.free_name("Transfer panel"),
        enclosures={"building_id": panel.building_id, "termination_c": 75},
        buses={"spaces": options.spaces, "rating_a": options.gear_a},
        transfers={"rating_a": options.gear_a, "poles": len(legs)},
    )
    start = Ends(breaker, bar_of(site, panel.id, "neutral"), bar_of(site, panel.id, "ground") or panel.id)
    run = {**NEW_ENCLOSURES["circuit_transfer"].run, "length_ft": options.distance_ft}
    draft.run("to-transfer-panel", start, draft.landing("circuit_transfer", made), legs, **run)
    add_generator = generator_on_a_cord if options.portable else fixed_generator
    marking = options.marking or FLOATING
    add_generator(draft, receiver, options, marking, Ends(made["standby"], made["neutral"], made["ground"]), legs)
    return draft
