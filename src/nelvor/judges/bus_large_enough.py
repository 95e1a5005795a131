"""How large a bus has to be for the device that protects it and for what pushes into it besides; devices raised with their bus."""

from __future__ import annotations

from fractions import Fraction

from nelvor.judges.interconnection import BusSources
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Bus, Device
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.site import Site
from nelvor.working import Recorder, exact


def sources_pass(site: Site, rules: Rules, thing: Bus, device: Device, bus_a: Fraction, protection_a: Fraction) -> bool:
    """Tell whether what pushes into a bus would not be against every rule, were it and its protection, in A, so rated."""
    recorder, judge = Recorder(rules), Judge(rules, "enclosures", thing.enclosure_id)
    bus = recorder.given("Bus rating", bus_a, "A", "design")
    protection = recorder.given("Protection", protection_a, "A", "design")
    BusSources(site, rules, None, thing, bus, protection, device, judge, recorder, {}, []).judged()
    return not any((item.code, item.outcome) == ("bus_source", "must_fix") for item in judge.verdicts)


def smallest_bus(
    site: Site, rules: Rules, thing: Bus, device: Device, protection_a: Fraction, from_a: Fraction
) -> Fraction | None:
    """Return the smallest rating of a bus, ``from_a`` or a standard one above it, that its protection and its sources allow."""
    ratings = (from_a, *(rating for rating in rules.standard_ratings() if rating > from_a))
    enough = (rating for rating in ratings if rating >= protection_a)
    return next((item for item in enough if sources_pass(site, rules, thing, device, item, protection_a)), None)


def raising(site: Site, rules: Rules, device: Device, rating_a: Fraction, change: str, fed: str = "") -> Mend | None:
    """Return the mend that raises a device, with another panel where the bus behind it does not take that.

    That of a main is in its own box, that of another device in the box that is ``fed``. None: no standard bus would do.
    """
    enclosure_id = fed if fed and device.role != "main" else device.enclosure_id
    operations = proposing("devices", device, rating_a=float(rating_a))
    thing = site.bus_of(enclosure_id)
    if thing is None or thing.rating_a is None:
        return Mend(change, operations)
    main = site.main_of(enclosure_id)
    protection_a = rating_a
    if main is not None and main.id != device.id and main.kind != "switch" and main.rating_a is not None:
        protection_a = min(protection_a, exact(main.rating_a))
    bus_a = smallest_bus(site, rules, thing, device, protection_a, exact(thing.rating_a))
    if bus_a is None:
        return None
    if bus_a > exact(thing.rating_a):
        change += f"; bus of {name_of(site, enclosure_id)}: {thing.rating_a:g} A to {bus_a} A, another panel"
        operations = (*operations, *proposing("buses", thing, rating_a=float(bus_a)))
    return Mend(change, operations)
