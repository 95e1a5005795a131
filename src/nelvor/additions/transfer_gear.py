"""Transfer gear on the way to an enclosure, with the generator on its other side.

Ahead of a service disconnect the gear becomes the service disconnect itself and is marked so; behind one it is like any
sub-panel. Whether it opens the neutral decides what the generator is: a part of the utility's system, or one of its own.
"""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends, feed_of, legs_at
from nelvor.additions.generator import fixed_generator, generator_on_a_cord, two_rods
from nelvor.additions.on_the_way import way_to
from nelvor.additions.options import TransferOptions
from nelvor.additions.receiver import Receiver
from nelvor.model.new_things import NEW_ENCLOSURES, NewKind


def transfer_gear(receiver: Receiver, options: TransferOptions) -> Draft:
    """Return the operations that add transfer gear and a generator ahead of an enclosure.

    Raises:
        CannotCompute: nothing feeds it, or it lies ahead of the service disconnect.
    """
    draft, standby, legs = gear_on_the_way(receiver, options)
    switched = options.neutral == "switched"
    marking = options.marking or ("bonded_neutral" if switched else "floating_neutral")
    add_generator = generator_on_a_cord if options.portable else fixed_generator
    ground_of_set = add_generator(draft, receiver, options, marking, standby, legs)
    if switched:
        two_rods(draft, ground_of_set)
    return draft


def gear_on_the_way(receiver: Receiver, options: TransferOptions) -> tuple[Draft, Ends, list[str]]:
    """Return the operations that add the gear alone, where its standby side is landed on, and the lines there.

    Raises:
        CannotCompute: as ``transfer_gear``.
    """
    site, draft = receiver.site, Draft(receiver.site)
    way, first = way_to(receiver, options), receiver.is_service
    legs = legs_at(site, feed_of(site, receiver.enclosure.id))
    kind: NewKind = "service_transfer_switch" if first else "transfer_switch"
    rating = options.gear_a if options.gear_a is not None else receiver.rating_ahead
    switched = options.neutral == "switched"
    made = draft.place(
        kind,
        "transfer-switch",
        receiver.free_name("Transfer switch"),
        enclosures={"building_id": way.building_id, "termination_c": 75, **receiver.as_first_disconnect},
        devices={"rating_a": rating, "poles": len(legs)},
        transfers={
            "rating_a": rating,
            "poles": len(legs) + switched,
            "switches_neutral": switched,
            "automatic": options.automatic,
            "break_before_make": True,
            "service_rated": first,
        },
        bonds={"made": first},
    )
    neutrals = _parted_neutrals(draft, made) if switched else dict.fromkeys(("utility", "generator"), made["neutral"])
    ground = made["ground"]
    arrives = Ends(made["main" if first else "normal"], neutrals["utility"], ground)
    way.lead_through(draft, arrives, Ends(made["load"], made["neutral"], ground), NEW_ENCLOSURES[kind].run)
    way.move_electrodes(draft, neutrals["utility"], ground)
    return draft, Ends(made["standby"], neutrals["generator"], ground), legs


def _parted_neutrals(draft: Draft, made: dict[str, str]) -> dict[str, str]:
    """Fit a neutral terminal for each side; the bar that came with the gear is that of the load."""
    found = {}
    normal = "main" if "main" in made else "normal"
    for side, throw in (("utility", f"on {normal}"), ("generator", "on standby")):
        found[side] = draft.add(
            "bars",
            f"{made['box']}-n-{side}",
            enclosure_id=made["box"],
            name=f"{side.capitalize()} neutral",
            kind="neutral",
            insulated=True,
        )
        draft.change(made[throw], neutral_part=found[side])
    draft.change(made["neutral"], name="Load neutral")
    draft.change(made["bond"], part_a=found["utility"])
    return found
