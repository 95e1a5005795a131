"""Ways over the bus of a panel: as it is, with a smaller main, under a power control, with a larger bus; another panel."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction

from nelvor.additions.inverter import inverter, inverter_on
from nelvor.additions.receiver import Receiver
from nelvor.errors import CannotCompute
from nelvor.judges.source_currents import output_at
from nelvor.judges.verdict import proposing
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Bus, Device
from nelvor.topology.names import name_of
from nelvor.ways.way import Way, Wish, drawn
from nelvor.working import exact

USUAL_BUSES = (100, 125, 150, 200, 225, 400, 600, 800, 1000, 1200)
MOST_OTHERS = 12
SUITABLE = "its breaker is suitable for feeding back: no LINE and LOAD marks on it, and of a kind listed for the panel"
LISTED_MAIN = "the label of the panel, or its maker, lists a main of that size for it"
LISTED_CONTROL = "the control is listed for it, its settings are locked, and a failed sensor makes it hold the limit"


def own_bus(wish: Wish) -> Iterator[Way]:
    """The panel as it is, the breaker of the source at the end away from the main."""
    name = name_of(wish.receiver.site, wish.receiver.enclosure.id)
    yield _drawn(wish, wish.receiver, Way("own_bus", f"On the bus of {name} as it is", wish.receiver.enclosure.id))


def other_buses(wish: Wish) -> Iterator[Way]:
    """The bus of each other panel of the site, as it is."""
    site = wish.receiver.site
    panels = [item for item in site.walking_order if site.bus_of(item) and item != wish.receiver.enclosure.id]
    for enclosure_id in panels[:MOST_OTHERS]:
        title = f"On the bus of {name_of(site, enclosure_id)}"
        why = "Shorter wire, or a bus with more to spare, where the source stands nearer to it."
        way = Way("other_bus", title, enclosure_id, why=why)
        try:
            yield _drawn(wish, Receiver(site, wish.receiver.rules, enclosure_id), way)
        except CannotCompute:
            continue  # ahead of the service, or fed by nothing
    if len(panels) > MOST_OTHERS:
        left = f"{len(panels) - MOST_OTHERS} further panels are not tried: ask at each of them."
        yield Way("other_bus", "On the bus of a further panel", wish.receiver.enclosure.id, by_hand=True, refused=left)


def smaller_mains(wish: Wish) -> Iterator[Way]:
    """Each smaller main that carries the calculated load; whether it is above every floor the check tells."""
    site, panel = wish.receiver.site, wish.receiver.enclosure
    main = site.main_of(panel.id)
    name = name_of(site, panel.id)
    title = f"On the bus of {name} with a smaller main"
    if main is None or main.enclosure_id != panel.id or main.kind == "switch" or main.rating_a is None:
        yield Way("smaller_main", title, panel.id, refused=f"{name} has no main breaker of its own.")
        return
    if wish.level is None:
        yield Way("smaller_main", title, panel.id, refused=f"The load of {name} is not known, which the main carries.")
        return
    load = wish.level.worst.design.number
    ratings = [item for item in wish.receiver.rules.standard_ratings() if load <= item < exact(main.rating_a)]
    if not ratings:
        text = f"The load of {float(load):.1f} A leaves no main below {main.rating_a:g} A."
        yield Way("smaller_main", title, panel.id, refused=text)
    for rating in sorted(ratings, reverse=True):
        yield _with_main(wish, main, rating, name)


def _with_main(wish: Wish, main: Device, rating: Fraction, name: str) -> Way:
    way = Way(
        "smaller_main",
        f"On the bus of {name} with a main of {rating} A",
        wish.receiver.enclosure.id,
        conditions=(LISTED_MAIN, "the load calculation stays true: what is added later has to fit the smaller main"),
        why="The panel stays, and the bus is spared; but nothing large may be added to the house later.",
    )
    return _drawn(wish, wish.receiver, way, proposing("devices", main, rating_a=float(rating)))


def power_control(wish: Wish) -> Iterator[Way]:
    """A listed control holds the sources, and the supply with them, within the bus."""
    bus = wish.receiver.site.bus_of(wish.receiver.enclosure.id)
    name = name_of(wish.receiver.site, wish.receiver.enclosure.id)
    title = f"On the bus of {name}, held by a power control"
    if bus is None or bus.rating_a is None:
        yield Way("power_control", title, wish.receiver.enclosure.id, refused="The rating of the bus is not known.")
        return
    way = Way(
        "power_control",
        title,
        wish.receiver.enclosure.id,
        conditions=(LISTED_CONTROL, "it measures the current of the supply and holds the sum within its setting"),
        why="The largest source on a bus that stays; it gives less in hours of great load or sun.",
    )
    setting = proposing("buses", bus, control_setting_a=bus.rating_a, control_listed=True, control_watches_supply=True)
    yield _drawn(wish, wish.receiver, way, setting)


def larger_buses(wish: Wish) -> Iterator[Way]:
    """The panel replaced by one whose bus takes the source at its far end, behind the main that stands."""
    site, panel = wish.receiver.site, wish.receiver.enclosure
    bus = site.bus_of(panel.id)
    name = name_of(site, panel.id)
    title = f"With another panel in place of {name}"
    primary = wish.receiver.rating_ahead
    if bus is None or bus.rating_a is None or primary is None:
        text = "The rating of the bus, or of what protects it, is not known."
        yield Way("larger_bus", title, panel.id, refused=text)
        return
    rating = _rating_that_takes(wish, bus, exact(primary))
    if rating is None:
        yield Way("larger_bus", title, panel.id, refused="No standard rating is large enough for it.")
        return
    way = Way(
        "larger_bus",
        f"With a panel of {rating} A bus in place of {name}, its main as it is",
        panel.id,
        conditions=(SUITABLE, "the new panel is marked for that bus and takes a main of the present size"),
        why="An old panel, a label that is gone, no spaces left or growth that is planned can make it the better one.",
    )
    new: dict[str, float | str] = {"rating_a": float(rating)}
    if bus.main_end in (None, "none"):
        new["main_end"] = "top"  # of a new panel one chooses at which end it is fed
    with_it = bus.model_copy(update=new)
    steps = proposing("buses", bus, **new)
    yield drawn(way, lambda: (*inverter_on(wish.receiver, with_it, wish.wanted).operations, *steps))


def _rating_that_takes(wish: Wish, bus: Bus, primary: Fraction) -> Fraction | None:
    """The least usual bus above this one whose 120 % takes the device ahead and 125 % of all outputs."""
    need = (primary + raised_outputs(wish, bus)) / wish.receiver.rules.parameter("bus_120_factor").number
    return next((Fraction(item) for item in USUAL_BUSES if item >= need and item > exact(bus.rating_a or 0)), None)


def raised_outputs(wish: Wish, bus: Bus) -> Fraction:
    """The output of all sources on a bus, the wanted one among them, at 125 %."""
    site = wish.receiver.site
    outputs = [exact(wish.wanted.output_a)]
    for source in site.sources_beneath.get(bus.enclosure_id, {}).values():
        outputs.append(output_at(site, bus, source, None) or Fraction(0))
    return wish.receiver.rules.parameter("source_output_factor").number * sum(outputs, Fraction(0))


def _drawn(wish: Wish, receiver: Receiver, way: Way, besides: tuple[Operation, ...] = ()) -> Way:
    suitable = replace(way, conditions=(SUITABLE, *way.conditions))
    return drawn(suitable, lambda: (*inverter(receiver, wish.wanted).operations, *besides))
