"""Ways that leave the bus alone: a joint in the feeder, or ahead of the service disconnect."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from nelvor.additions.draft import Draft, Ends, legs_at, start_of
from nelvor.additions.inverter import KIND, LINES, box_of, device_rating, lines_of
from nelvor.errors import CannotCompute
from nelvor.judges.zones import zones
from nelvor.model.new_things import NEW_ENCLOSURES
from nelvor.model.things import Run
from nelvor.topology.names import name_of, run_name
from nelvor.ways.way import Way, Wish, drawn

SWITCHES = (60, 100, 200, 400, 600, 800, 1200)
SHORT_FT = 8.0
JOINT = "the joint is made with connectors listed for it, within the room that the enclosure leaves"


def feeder_tap(wish: Wish) -> Iterator[Way]:
    """A joint in the feeder of the panel, with a disconnect of its own at the end of a short tap."""
    site, panel = wish.receiver.site, wish.receiver.enclosure
    title = f"On the feeder of {name_of(site, panel.id)}"
    way = Way(
        "feeder_tap",
        title,
        panel.id,
        conditions=(JOINT, "the tap is protected from damage, and ends in its one device"),
        why="No space in the panel is needed, and the bus is left alone.",
    )
    run = site.feeding_run(panel.id)
    if run is None or site.protection_ahead.get(run.id) is None:
        yield replace(way, refused=f"{name_of(site, panel.id)} is fed by service conductors, not by a feeder.")
    elif run.id in site.tap_of_run:
        yield replace(way, refused=f"{run_name(site, run)} is a tap itself; no tap may be made from it.")
    else:
        yield drawn(way, lambda: _tapped(wish, run).operations)


def _tapped(wish: Wish, feeder: Run) -> Draft:
    draft = Draft(wish.receiver.site)
    made = _disconnect(draft, wish, service=False)
    landing = draft.landing("disconnect", made)
    start = start_of(wish.receiver.site, feeder)
    values = {**NEW_ENCLOSURES["disconnect"].run, "placement": "indoors", "method": "emt", "length_ft": SHORT_FT}
    run = draft.run("to-source-joint", start, landing, lines_of(wish.receiver, wish.wanted), **values)
    draft.add("taps", "source-tap", run_id=feeder.id, tap_run_id=run, protected_from_damage=True, leaves_enclosure=True)
    _to_inverter(draft, wish, made)
    return draft


def supply_side(wish: Wish) -> Iterator[Way]:
    """A joint ahead of the service disconnect, with a fused switch bonded as a service disconnect is."""
    way = Way(
        "supply_side",
        "Ahead of the service disconnect",
        wish.receiver.enclosure.id,
        conditions=(JOINT, "the switch is suitable as service equipment and can break the fault current there"),
        consent="the utility, before anything is made there",
        why="The panel and its bus are left alone, whatever they are, and the size of the main does not matter.",
    )
    service = _service_run(wish)
    if service is None:
        yield replace(way, refused="No enclosure is drawn ahead of a service disconnect in which it could be joined.")
    else:
        yield drawn(way, lambda: _ahead(wish, service).operations)


def _service_run(wish: Wish) -> Run | None:
    """The run from an enclosure ahead of the service disconnect to it; None where none is drawn."""
    site = wish.receiver.site
    placed = zones(site, wish.receiver.rules)
    for run in [feeding] if (feeding := site.feeding_run(wish.receiver.enclosure.id)) else []:
        for way in (run, *site.runs_to_source(site.upstream_of(run))):
            upstream, end = site.upstream_of(way), site.downstream_of(way)
            if placed[end].kind == "service" and upstream in site.enclosures and placed[upstream].kind == "supply":
                return way
    return None


def _ahead(wish: Wish, service: Run) -> Draft:
    site = wish.receiver.site
    draft = Draft(site)
    made = _disconnect(draft, wish, service=True)
    landing = replace(draft.landing("disconnect", made), ground=None)
    values = {**NEW_ENCLOSURES["disconnect"].run, "length_ft": SHORT_FT, "insulation": "THWN-2", "material": "copper"}
    lines = legs_at(site, service)[: len(lines_of(wish.receiver, wish.wanted))]
    draft.run("to-source-switch", start_of(site, service), landing, lines, **values)
    _to_inverter(draft, wish, made)
    return draft


def _disconnect(draft: Draft, wish: Wish, *, service: bool) -> dict[str, str]:
    """A fused switch near what feeds the panel; as a disconnect of a service it is 60 A at least, whatever fuses it holds."""
    rating = device_rating(wish.receiver, wish.wanted)
    if rating is None or rating > SWITCHES[-1]:
        raise CannotCompute("No switch is large enough for this output.", "Divide the source.")
    frame = next(item for item in SWITCHES if item >= rating)
    marking = {"service_marking": "suitable"} if service else {}
    return draft.place(
        "disconnect",
        "source-switch",
        wish.receiver.free_name("Source disconnect"),
        enclosures={"building_id": wish.receiver.supply_building_id, "termination_c": 75, **marking},
        devices={
            "kind": "fuses",
            "rating_a": rating,
            "frame_a": float(frame),
            "name": "Source fuses",
            "poles": LINES[wish.wanted.lines],
        },
        bonds={"made": service},
    )


def _to_inverter(draft: Draft, wish: Wish, made: dict[str, str]) -> None:
    box = box_of(draft, wish.receiver, wish.wanted)
    start = Ends(made["main"], None, made["ground"])
    values = {**NEW_ENCLOSURES[KIND].run, "length_ft": wish.wanted.distance_ft}
    draft.run("to-inverter", start, draft.landing(KIND, box), lines_of(wish.receiver, wish.wanted), **values)
