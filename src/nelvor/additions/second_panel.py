"""A second panel beside one, fed from a breaker of it: room for new circuits, or for some of those that stand in the first."""

from __future__ import annotations

from nelvor.additions.draft import Draft
from nelvor.additions.feeder import new_feeder
from nelvor.additions.options import SecondPanelOptions
from nelvor.additions.receiver import Receiver
from nelvor.model.new_things import NEW_ENCLOSURES


def second_panel(receiver: Receiver, options: SecondPanelOptions) -> Draft:
    """Return the operations that add the panel and the breaker that feeds it.

    Raises:
        CannotCompute: the enclosure has no bus to feed it from, or nothing feeds it.
    """
    draft, kind = Draft(receiver.site), NEW_ENCLOSURES["panel"]
    start, legs = new_feeder(draft, receiver, "second", "Second panel", options.feeder_a)
    made = draft.place(
        "panel",
        "second-panel",
        receiver.free_name("Second panel"),
        enclosures={"building_id": receiver.enclosure.building_id, "termination_c": 75},
        devices={"rating_a": options.feeder_a, "poles": len(legs)},
        buses={"rating_a": options.bus_a, "spaces": options.spaces},
    )
    run = {**(kind.run_within or kind.run), "length_ft": options.distance_ft}
    draft.run("to-second-panel", start, draft.landing("panel", made), legs, **run)
    return draft
