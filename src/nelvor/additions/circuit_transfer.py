"""Manual transfer gear for chosen circuits: a panel of its own, fed from a breaker here by day and from a set when power fails.

Its gear moves the lines alone: the neutral of the set is joined to that of the panel, and the set makes no bond of its own. The
circuits are chosen afterwards, where their sum is seen against what the set gives.
"""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends
from nelvor.additions.feeder import new_feeder
from nelvor.additions.generator import FLOATING, fixed_generator, generator_on_a_cord
from nelvor.additions.options import CircuitTransferOptions
from nelvor.additions.receiver import Receiver
from nelvor.model.new_things import NEW_ENCLOSURES


def circuit_transfer(receiver: Receiver, options: CircuitTransferOptions) -> Draft:
    """Return the operations that add the gear with its panel, the breaker that feeds it, and the set on its other side.

    Raises:
        CannotCompute: the enclosure has no bus to feed it from.
    """
    draft = Draft(receiver.site)
    start, legs = new_feeder(draft, receiver, "transfer", "Transfer panel", options.feeder_a)
    made = draft.place(
        "circuit_transfer",
        "transfer-panel",
        receiver.free_name("Transfer panel"),
        enclosures={"building_id": receiver.enclosure.building_id, "termination_c": 75},
        buses={"spaces": options.spaces, "rating_a": options.gear_a},
        transfers={"rating_a": options.gear_a, "poles": len(legs)},
    )
    run = {**NEW_ENCLOSURES["circuit_transfer"].run, "length_ft": options.distance_ft}
    draft.run("to-transfer-panel", start, draft.landing("circuit_transfer", made), legs, **run)
    add_generator = generator_on_a_cord if options.portable else fixed_generator
    marking = options.marking or FLOATING
    add_generator(draft, receiver, options, marking, Ends(made["standby"], made["neutral"], made["ground"]), legs)
    return draft
