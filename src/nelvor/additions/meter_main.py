"""A meter with a main in one box, in place of the meter: it becomes the service disconnect, and all that the meter fed is behind it."""

from __future__ import annotations

from nelvor.additions.draft import Draft, feed_of, legs_at
from nelvor.additions.options import MeterMainOptions
from nelvor.additions.receiver import Receiver
from nelvor.errors import CannotCompute
from nelvor.model.things import Enclosure
from nelvor.topology.names import name_of


def meter_main(receiver: Receiver, options: MeterMainOptions) -> Draft:
    """Return the operations that exchange the meter ahead of a service disconnect for one with a main.

    Raises:
        CannotCompute: nothing feeds it, or what feeds it is no meter alone.
    """
    site = receiver.site
    meter = site.enclosures.get(site.upstream_of(feed_of(site, receiver.enclosure.id)))
    if not receiver.is_service or meter is None or meter.kind != "meter":
        raise CannotCompute(
            f"{name_of(site, receiver.enclosure.id)} is no service disconnect that a meter feeds.",
            "Choose one, or add a disconnect ahead.",
        )
    draft, legs = Draft(site), legs_at(site, feed_of(site, receiver.enclosure.id))
    made = draft.place(
        "disconnect",
        f"{meter.id[:24]}-main",
        receiver.free_name("Meter-main"),
        enclosures={
            "kind": "meter_disconnect",
            "building_id": meter.building_id,
            "placement": meter.placement,
            "meter_class_a": meter.meter_class_a,
            "termination_c": 75,
            **receiver.as_first_disconnect,
        },
        devices={
            "rating_a": options.rating_a if options.rating_a is not None else receiver.rating_ahead,
            "poles": len(legs),
        },
        bonds={"made": True},
    )
    landing = draft.landing("disconnect", made)
    for run in site.runs_into.get(meter.id, []):
        draft.land_at(run, landing)
    for run in site.runs_from.get(meter.id, []):
        draft.begin_at(run, landing)
    _move_electrodes(draft, meter, receiver.enclosure, made["neutral"])
    _take_down(draft, meter)
    return draft


def _move_electrodes(draft: Draft, meter: Enclosure, service: Enclosure, neutral: str) -> None:
    """Those of the meter and of the old service disconnect in its building land in the new one (250.24(A)(1))."""
    boxes = [meter.id, *([service.id] if service.building_id == meter.building_id else [])]
    for box in boxes:
        for electrode in draft.site.electrodes_at.get(box, []):
            draft.propose("electrodes", electrode, connects_to=neutral)


def _take_down(draft: Draft, meter: Enclosure) -> None:
    """The meter with all that is in it; what led to it and from it has moved before."""
    site = draft.site
    for list_name, inside in (
        ("bonds", site.bonds_in),
        ("bars", site.bars_in),
        ("lugs", site.lugs_in),
        ("devices", site.devices_in),
    ):
        for part in inside.get(meter.id, []):
            draft.take_out(list_name, part)
    draft.take_out("enclosures", meter)
