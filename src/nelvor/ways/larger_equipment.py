"""Ways that renew what the panel stands on: a second section for its circuits, or a larger service."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction

from nelvor.additions.draft import Draft, Ends, bar_of, feed_of, legs_at
from nelvor.additions.inverter import inverter
from nelvor.additions.moved_circuit import NewHome, moved_circuit
from nelvor.additions.receiver import Receiver
from nelvor.additions.room import space_at_end
from nelvor.judges.verdict import proposing
from nelvor.model.base import Thing
from nelvor.model.changes.operations import Operation
from nelvor.model.new_things import NEW_ENCLOSURES
from nelvor.model.things import Bus, Device, Run
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.ways.on_a_bus import SUITABLE, USUAL_BUSES, raised_outputs
from nelvor.ways.way import Way, Wish, drawn
from nelvor.working import exact

BESIDE_FT = 3.0
USUAL_SERVICES = (100, 125, 150, 200, 225, 400, 600, 800, 1000, 1200)
METERS = frozenset({"meter", "meter_disconnect"})
REACH = "each cable reaches the new panel, or is spliced in a box that stays open to reach"
UTILITY_TELLS = "the utility sizes its own wires, and tells the fault current of the larger service"


def second_section(wish: Wish) -> Iterator[Way]:
    """The circuits of the panel in a new one beside it: its bus then holds their feeder and the source alone."""
    site, panel = wish.receiver.site, wish.receiver.enclosure
    bus, name = site.bus_of(panel.id), name_of(site, panel.id)
    way = Way(
        "second_section",
        f"With the circuits of {name} in a second panel beside it",
        panel.id,
        conditions=(REACH, SUITABLE),
        why="Spaces are gained as well, and the old bus is relieved.",
    )
    circuits = [item for item in site.devices_in.get(panel.id, []) if item.role == "branch"]
    if bus is None or bus.spaces is None or not circuits or any(item.space is None for item in circuits):
        yield replace(way, by_hand=True, refused=f"The circuits of {name} are not drawn in their spaces yet.")
        return
    rating = _feeder_rating(wish)
    if rating is None:
        yield replace(way, refused=f"The load of {name} is not known, or too large for one feeder.")
        return
    draft, landing = _beside(wish, bus, rating, circuits)
    yield replace(
        way,
        title=f"{way.title}, fed with {rating} A",
        operations=tuple(draft.operations),
        then=lambda receiver: _fed_beside_the_source(receiver, wish, rating, landing),
    )


def _feeder_rating(wish: Wish) -> Fraction | None:
    """The least device that carries the load of the whole panel."""
    if wish.level is None:
        return None
    load = wish.level.worst.design.number
    most = max(USUAL_BUSES)
    return next((item for item in wish.receiver.rules.standard_ratings() if load <= item <= most), None)


def _beside(wish: Wish, bus: Bus, rating: Fraction, circuits: list[Device]) -> tuple[Draft, Ends]:
    """The new panel with the circuits in it, each under its number; and where its feed lands."""
    site, panel = wish.receiver.site, wish.receiver.enclosure
    draft = Draft(site)
    like = {"spaces": bus.spaces, "numbering": bus.numbering, "rows": bus.rows, "main_end": "top"}
    made = draft.place(
        "panel",
        f"{panel.id[:20]}-beside",
        wish.receiver.free_name(f"{name_of(site, panel.id)} 2"),
        enclosures={"building_id": panel.building_id, "placement": panel.placement, "termination_c": 75},
        devices={"rating_a": float(rating)},
        buses={"rating_a": float(next(item for item in USUAL_BUSES if item >= rating)), **like},
    )
    home = NewHome(made["box"], made["bus"], made["neutral"], made["ground"])
    for device in circuits:
        draft.operations += moved_circuit(site, draft.ids, device, home, device.space)
    return draft, draft.landing("panel", made)


def _fed_beside_the_source(receiver: Receiver, wish: Wish, rating: Fraction, landing: Ends) -> tuple[Operation, ...]:
    """The feeder of the new panel at the main's end of the old bus, and the source at the other."""
    site, panel = receiver.site, receiver.enclosure
    bus = site.bus_of(panel.id)
    assert bus is not None  # it was there before the circuits moved
    draft, legs = Draft(site), legs_at(site, feed_of(site, panel.id))
    space = space_at_end(draft, bus, len(legs), "main")
    breaker = draft.breaker(bus, "second", "Second panel", len(legs), space, role="feeder", rating_a=float(rating))
    start = Ends(breaker, bar_of(site, panel.id, "neutral"), bar_of(site, panel.id, "ground") or panel.id)
    values = {**NEW_ENCLOSURES["panel"].run, "placement": "indoors", "method": "emt", "length_ft": BESIDE_FT}
    draft.run("to-second-panel", start, landing, legs, **values)
    return (*draft.operations, *inverter(receiver, wish.wanted).operations)


def larger_service(wish: Wish) -> Iterator[Way]:
    """A larger main and bus in the service panel, with all that stands between it and the utility made as large."""
    site, panel = wish.receiver.site, wish.receiver.enclosure
    main, bus, name = site.main_of(panel.id), site.bus_of(panel.id), name_of(site, panel.id)
    way = Way(
        "new_service",
        "With a larger service",
        panel.id,
        conditions=(UTILITY_TELLS, SUITABLE),
        consent="the utility",
        why="Right where the load grows too, or the service equipment is at its end.",
    )
    if not wish.receiver.is_service or main is None or main.enclosure_id != panel.id:
        text = f"The service disconnect is not in {name}: a larger service leaves its own feeder and bus as they are."
        yield replace(way, refused=text)
        return
    if bus is None or bus.rating_a is None or main.rating_a is None:
        yield replace(way, refused=f"The rating of {name}, or of its main, is not known.")
        return
    between = next((box for box in _boxes_of_service(wish) if _makes_another_supply(site, box)), None)
    if between is not None:
        text = (
            f"{name_of(site, between)} stands on the way and makes a supply of its own: draw the new service by hand."
        )
        yield replace(way, by_hand=True, refused=text)
        return
    rating = _service_that_takes(wish, bus, max(exact(main.rating_a), exact(bus.rating_a)))
    if rating is None:
        yield replace(way, refused="No usual service is large enough for it.")
        return
    larger = (
        *proposing("devices", main, rating_a=float(rating)),
        *proposing("buses", bus, rating_a=float(rating)),
        *_service_way(wish, rating),
    )
    titled = replace(way, title=f"With a service of {rating} A")
    yield drawn(titled, lambda: (*inverter(wish.receiver, wish.wanted).operations, *larger))


def _service_that_takes(wish: Wish, bus: Bus, present: Fraction) -> Fraction | None:
    """The least usual service above the present one of which a fifth is as much as 125 % of all outputs."""
    more = wish.receiver.rules.parameter("bus_120_factor").number - 1
    need = raised_outputs(wish, bus) / more
    return next((Fraction(item) for item in USUAL_SERVICES if item >= need and item > present), None)


def _service_way(wish: Wish, rating: Fraction) -> Iterator[Operation]:
    """What stands on the way to the service made as large as it, and its conductors chosen anew."""
    site = wish.receiver.site
    for run in _runs_of_service(wish):
        yield from proposing("runs", run, hot_size=None, neutral_size=None, ground_size=None, raceway_size=None)
    passed = {part for run in _way_to_utility(wish) for part in (run.from_part, run.to_part)}
    for box in _boxes_of_service(wish):
        yield from _as_large(site, box, rating, passed)


def _as_large(site: Site, box: str, rating: Fraction, passed: set[str]) -> Iterator[Operation]:
    """A box on the way: its meter, its gear, its buses, and those of its devices that the current passes through."""
    enclosure = site.enclosures[box]
    if enclosure.kind in METERS:
        yield from _raised("enclosures", enclosure, "meter_class_a", rating)
    for gear in site.transfers_in.get(box, []):
        yield from _raised("transfers", gear, "rating_a", rating)
    for bus in site.buses_in.get(box, []):
        yield from _raised("buses", bus, "rating_a", rating)
    for device in site.devices_in.get(box, []):
        bare = device.kind == "switch"
        if device.id in passed and (device.rating_a is not None or not bare):
            yield from _raised("devices", device, "rating_a", rating)
        if device.id in passed and (device.frame_a is not None or bare):
            yield from _raised("devices", device, "frame_a", rating)


def _raised(list_name: str, thing: Thing, field: str, rating: Fraction) -> Iterator[Operation]:
    if exact(getattr(thing, field) or 0) < rating:
        yield from proposing(list_name, thing, **{field: float(rating)})


def _makes_another_supply(site: Site, box: str) -> bool:
    """Tell whether a box holds a transformer or a source: behind it the service is another system's."""
    return box in site.transformer_enclosures or bool(site.sources_in.get(box))


def _boxes_of_service(wish: Wish) -> list[str]:
    """What stands between the utility and the service panel."""
    return [wish.receiver.site.upstream_of(run) for run in _runs_of_service(wish)]


def _runs_of_service(wish: Wish) -> list[Run]:
    """The runs from the utility to the service panel that are not the utility's own."""
    site = wish.receiver.site
    return [run for run in _way_to_utility(wish) if site.upstream_of(run) in site.enclosures]


def _way_to_utility(wish: Wish) -> list[Run]:
    """All runs from the service panel back to the utility, nearest first."""
    site = wish.receiver.site
    feeding = feed_of(site, wish.receiver.enclosure.id)
    return [feeding, *site.runs_to_source(site.upstream_of(feeding))]
