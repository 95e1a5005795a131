"""A source that runs beside the utility: its box, and its output led to a breaker at the end of a bus away from the main."""

from __future__ import annotations

from nelvor.additions.draft import Draft, Ends, bar_of, legs_at
from nelvor.additions.options import BesideOptions, InverterOptions
from nelvor.additions.receiver import Receiver
from nelvor.additions.room import space_at_end
from nelvor.errors import CannotCompute
from nelvor.judges.source_currents import device_for
from nelvor.model.new_things import NEW_ENCLOSURES, NewKind
from nelvor.model.things import Bus
from nelvor.topology.names import name_of

LINES = {"two": 2, "three": 3}
KIND: NewKind = "inverter"


def feeding_in(receiver: Receiver, options: BesideOptions) -> Draft:
    """Return the operations that add a source of the sun or storage, or several small ones as one, at the far end of a bus.

    Raises:
        CannotCompute: as ``inverter``; several of them give more than a breaker on a bus can carry.
    """
    charging_a = options.charging_a if options.of == "storage" else None
    together, taken = (None if value is None else value * options.units for value in (options.output_a, charging_a))
    device_a = options.device_a
    if device_a is None and together is not None:
        device_a = float(device_for(receiver.rules, max(together, taken or 0)))
    draft = inverter(receiver, options.model_copy(update={"output_a": together, "device_a": device_a}))
    source = next(item.thing for item in draft.added("sources"))
    if options.units > 1:
        draft.change(source["id"], name=f"{options.units} x {source['name']}")
    if options.of == "storage":
        draft.change(source["id"], kind="battery", name=receiver.free_name("Storage"), charging_a=taken)
        draft.change(source["enclosure_id"], name=receiver.free_name("Storage"))
    return draft


def inverter(receiver: Receiver, options: InverterOptions) -> Draft:
    """Return the operations that add an inverter behind a breaker at the far end of a panel's bus.

    Raises:
        CannotCompute: the enclosure has no bus, or no room can be made at its end.
    """
    bus = receiver.site.bus_of(receiver.enclosure.id)
    if bus is None:
        raise CannotCompute(
            f"{name_of(receiver.site, receiver.enclosure.id)} has no bus to feed into.", "Choose a panel."
        )
    return inverter_on(receiver, bus, options)


def inverter_on(receiver: Receiver, bus: Bus, options: InverterOptions) -> Draft:
    """Return the same for a bus as it is going to be.

    Raises:
        CannotCompute: no room can be made at its end.
    """
    site, panel = receiver.site, receiver.enclosure
    draft = Draft(site)
    legs = lines_of(receiver, options)
    space = space_at_end(draft, bus, len(legs), "far")
    rating = device_rating(receiver, options)
    breaker = draft.breaker(bus, "solar", "Solar", len(legs), space, role="source", rating_a=rating)
    made = box_of(draft, receiver, options)
    end = Ends(breaker, None, bar_of(site, panel.id, "ground") or panel.id)
    values = {**NEW_ENCLOSURES[KIND].run, "length_ft": options.distance_ft}
    draft.run("from-inverter", draft.landing(KIND, made), end, legs, **values)
    return draft


def lines_of(receiver: Receiver, options: InverterOptions) -> list[str]:
    """Return the lines over which it gives: two of those that reach the enclosure, or all three.

    Raises:
        CannotCompute: fewer reach it.
    """
    feeding = receiver.site.feeding_run(receiver.enclosure.id)
    legs = legs_at(receiver.site, feeding) if feeding is not None else []
    wanted = LINES[options.lines]
    if legs and len(legs) < wanted:
        raise CannotCompute(
            f"{len(legs)} lines reach {name_of(receiver.site, receiver.enclosure.id)}; the source gives over {wanted}.",
            "Choose a panel that three lines reach, or a source for two.",
        )
    return legs[:wanted]


def box_of(draft: Draft, receiver: Receiver, options: InverterOptions) -> dict[str, str]:
    """Add the box of the inverter, with its plate."""
    name = receiver.free_name("Inverter")
    return draft.place(
        KIND,
        "inverter",
        name,
        enclosures={"building_id": receiver.enclosure.building_id, "termination_c": 75},
        sources={
            "name": name,
            "system": receiver.site.system_at(receiver.enclosure.id),
            "rated_output_a": options.output_a,
            "largest_device_a": options.largest_device_a,
        },
    )


def device_rating(receiver: Receiver, options: InverterOptions) -> float | None:
    """Return the rating of its device: as asked, else the smallest for 125 % of its output; None where that is not read."""
    if options.device_a is not None or options.output_a is None:
        return options.device_a
    return float(device_for(receiver.rules, options.output_a))
