"""A disconnect on the way to an enclosure; ahead of a service disconnect it becomes the service disconnect itself."""

from __future__ import annotations

from nelvor.additions.draft import Draft, feed_of, legs_at
from nelvor.additions.on_the_way import way_to
from nelvor.additions.options import DisconnectAheadOptions
from nelvor.additions.receiver import Receiver
from nelvor.model.new_things import NEW_ENCLOSURES


def disconnect_ahead(receiver: Receiver, options: DisconnectAheadOptions) -> Draft:
    """Return the operations that add a disconnect ahead of an enclosure.

    Raises:
        CannotCompute: nothing feeds it.
    """
    site, draft, way = receiver.site, Draft(receiver.site), way_to(receiver, options)
    rating = options.rating_a if options.rating_a is not None else receiver.rating_ahead
    made = draft.place(
        "disconnect",
        f"{receiver.enclosure.id[:24]}-ahead",
        receiver.free_name("Outdoor disconnect"),
        enclosures={"building_id": way.building_id, "termination_c": 75, **receiver.as_first_disconnect},
        devices={"rating_a": rating, "poles": len(legs_at(site, feed_of(site, receiver.enclosure.id)))},
        bonds={"made": receiver.is_service},
    )
    landing = draft.landing("disconnect", made)
    way.lead_through(draft, landing, landing, NEW_ENCLOSURES["disconnect"].run)
    way.move_electrodes(draft, made["neutral"], made["ground"])
    return draft
