"""How large a bus has to be for the device that protects it and for what pushes into it besides; devices raised with their buses."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

from nelvor.judges.interconnection import BusSources
from nelvor.judges.source_currents import places_on
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Bus, Device
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Recorder, exact

Ratings = Mapping[str, Fraction]
"""Ratings in A of devices by their id, in place of those drawn."""

Supply = tuple[Fraction, Device]
"""What protects a bus from its supply: the rating in A, and the device."""


def sources_pass(
    site: Site,
    rules: Rules,
    thing: Bus,
    device: Device,
    bus_a: Fraction,
    protection_a: Fraction,
    in_place: Ratings | None = None,
) -> bool:
    """Tell whether what pushes into a bus would not be against every rule, were it and its protection, in A, so rated."""
    if not places_on(site, thing):
        return True
    recorder, judge = Recorder(rules), Judge(rules, "enclosures", thing.enclosure_id)
    bus = recorder.given("Bus rating", bus_a, "A", "design")
    protection = recorder.given("Protection", protection_a, "A", "design")
    BusSources(
        site, rules, None, thing, bus, protection, device, judge, recorder, {}, [], in_place=in_place or {}
    ).judged()
    return not any((item.code, item.outcome) == ("bus_source", "must_fix") for item in judge.verdicts)


def smallest_bus(
    site: Site,
    rules: Rules,
    thing: Bus,
    device: Device,
    protection_a: Fraction,
    from_a: Fraction,
    in_place: Ratings | None = None,
) -> Fraction | None:
    """Return the smallest rating of a bus, ``from_a`` or a standard one above it, that its protection and its sources allow."""
    standard = rules.standard_ratings()
    ratings = [from_a] if from_a >= protection_a else []
    ratings += standard[max(standard.up_to(from_a), standard.below(protection_a)) :]
    return next(
        (item for item in ratings if sources_pass(site, rules, thing, device, item, protection_a, in_place)), None
    )


def raising(
    site: Site,
    rules: Rules,
    device: Device,
    rating_a: Fraction,
    change: str,
    *,
    fed: str = "",
    supply: Supply | None = None,
) -> Mend | None:
    """Return the mend that raises a device, with another panel where a bus that it stands on or protects does not take that.

    ``fed`` is the box behind a device that is not a main; ``supply`` what protects the bus on which it stands, where no
    rating of that is entered. None: no standard bus would do.
    """
    operations = proposing("devices", device, rating_a=float(rating_a))
    boxes = ((site.downstream_of(run), run) for run in site.protected_by.get(device.id, []))
    protected = (box for box, run in boxes if site.feeding_run(box) is run)
    for enclosure_id in dict.fromkeys((device.enclosure_id, fed or device.enclosure_id, *protected)):
        thing = site.bus_of(enclosure_id)
        if thing is None or thing.rating_a is None:
            continue
        known = supply if enclosure_id == device.enclosure_id else None
        have, larger = exact(thing.rating_a), _bus_to_take(site, rules, thing, {device.id: rating_a}, known)
        if larger is None:
            return None
        if larger > have:
            change += f"; bus of {name_of(site, enclosure_id)}: {have} A to {larger} A, another panel"
            operations = (*operations, *proposing("buses", thing, rating_a=float(larger)))
    return Mend(change, operations)


def _bus_to_take(site: Site, rules: Rules, thing: Bus, raised: Ratings, supply: Supply | None) -> Fraction | None:
    """The rating that a bus needs with devices raised: its own where it does, or where what is wrong with it stays as it is."""
    assert thing.rating_a is not None  # asked only of a bus whose label is read
    have = exact(thing.rating_a)
    before, after = _protection(site, thing, {}) or supply, _protection(site, thing, raised) or supply
    if after is None:
        return have
    if before is not None and (before[0] > have or not sources_pass(site, rules, thing, before[1], have, before[0])):
        return have
    return smallest_bus(site, rules, thing, after[1], after[0], have, raised)


def _protection(site: Site, thing: Bus, in_place: Ratings) -> Supply | None:
    """The smaller of the panel's own main and the device ahead, as far as their ratings are entered."""
    feeding = site.feeding_run(thing.enclosure_id)
    devices = (site.main_of(thing.enclosure_id), site.protection_ahead.get(feeding.id) if feeding else None)
    rated = [
        (in_place.get(item.id, exact(item.rating_a)), item)
        for item in devices
        if item is not None and item.kind != "switch" and item.rating_a is not None
    ]
    return min(rated, key=lambda pair: pair[0], default=None)
