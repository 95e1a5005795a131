"""A transformer on the way to an enclosure: what is behind it is a system of its own, with its bond and its electrode."""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends, feed_of, legs_at
from nelvor.additions.on_the_way import way_to
from nelvor.additions.options import TransformerOptions
from nelvor.additions.receiver import Receiver
from nelvor.errors import CannotCompute
from nelvor.model.new_things import NEW_ENCLOSURES
from nelvor.model.voltages import legs_of
from nelvor.topology.names import name_of


def transformer_ahead(receiver: Receiver, options: TransformerOptions) -> Draft:
    """Return the operations that add a transformer ahead of an enclosure; its secondary is bonded at it.

    Raises:
        CannotCompute: nothing feeds the enclosure, it holds the service disconnect, or its lines are not those of the secondary.
    """
    site, draft, way = receiver.site, Draft(receiver.site), way_to(receiver, options)
    name = name_of(site, receiver.enclosure.id)
    if receiver.is_service:
        raise CannotCompute(f"{name} holds the service disconnect.", "Choose a panel behind it.")
    legs = legs_at(site, feed_of(site, receiver.enclosure.id))
    if len(legs) != len(legs_of(options.secondary_system)):
        raise CannotCompute(
            f"{len(legs)} lines lead to {name}, and that secondary has {len(legs_of(options.secondary_system))}.",
            "Choose a secondary with as many lines, or draw the run that feeds it anew.",
        )
    made = draft.place(
        "transformer",
        f"{receiver.enclosure.id[:24]}-ahead",
        receiver.free_name("Transformer"),
        enclosures={"building_id": way.building_id, "termination_c": 75},
        transformers={"kva": options.kva, "secondary_system": options.secondary_system},
    )
    arrives = Ends(made["primary"], None, made["ground"])
    leaves = Ends(made["secondary"], made["neutral"], made["ground"])
    way.lead_through(draft, arrives, leaves, NEW_ENCLOSURES["transformer"].run)
    return draft
