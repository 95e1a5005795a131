"""What a generator needs that no figure tells: what cuts it off and stops it, what stands at the building, what its outlets have."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from nelvor.judges.facts.fact import About, Ending, Fact
from nelvor.model.things import Run, Source
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of
from nelvor.topology.pushed_in import own_run
from nelvor.topology.site import Site
from nelvor.working import exact

SMALL_SET_KW = Fraction(15)


def facts_of_set(site: Site, rules: Rules, about: About, source: Source) -> Iterator[Fact]:
    """Yield the facts of one generator."""
    if source.portable is False:
        yield from _cut_off_and_stopped(site, rules, about, source)
    if source.portable and _is_small(source):
        yield from _outlets(about, source)
    elif source.portable is not None:
        yield from _at_the_building(site, about, source)


def _is_small(source: Source) -> bool:
    """Tell whether a set has 15 kW at most, as far as its plate is read."""
    if source.rated_kva is None:
        return True
    return exact(source.rated_kva) * exact(source.power_factor or 1) <= SMALL_SET_KW


def _cut_off_and_stopped(site: Site, rules: Rules, about: About, source: Source) -> Iterator[Fact]:
    yield about.yes_or_no(
        "disconnect_in_reach",
        "generator_disconnect",
        ("{name} has a disconnect that locks open.", "{name} has no disconnect that opens all its lines."),
        "whether a disconnect opens all its lines and can be locked open",
    )
    yield about.yes_or_no(
        "emergency_stop",
        "generator_stop",
        ("{name} can be stopped and kept from starting.", "{name} cannot be stopped and kept from starting."),
        "whether it can be stopped so that it does not start again until it is reset, above 15 kW also from outside",
    )
    if rules.parameter("generator_stop_outdoors_required").value == "1" and _feeds_a_dwelling(site, source):
        yield about.yes_or_no(
            "stop_outdoors",
            "generator_stop_dwelling",
            ("{name} has an emergency stop outdoors.", "{name} has no emergency stop outdoors that is in reach."),
            "whether its emergency stop is outdoors and readily accessible",
        )


def _feeds_a_dwelling(site: Site, source: Source) -> bool:
    run = own_run(site, source)
    boxes = {source.enclosure_id, site.downstream_of(run) if run is not None else None}
    return any(box in site.enclosures and bool(site.is_one_family(box)) for box in boxes if box is not None)


def _outlets(about: About, source: Source) -> Iterator[Fact]:
    """Interrupters at the small outlets of a small set; of a bonded one they trip where the house has a bond, too."""
    bonded = source.marking == "bonded_neutral"
    yield about.yes_or_no(
        "outlet_with_interrupter",
        "generator_gfci_bonded" if bonded else "generator_gfci_floating",
        (
            "The 15 and 20 A outlets of {name} have ground-fault interrupters.",
            "The 15 and 20 A outlets of {name} have no ground-fault interrupters, which a set of 15 kW or less has to have"
            + ("." if bonded else ", unless they are locked out while its large outlet is in use."),
        ),
        "whether its 15 and 20 A outlets have ground-fault interrupters",
    )


def _at_the_building(site: Site, about: About, source: Source) -> Iterator[Fact]:
    """A building that an outdoor set feeds has a disconnect for it, or that of the set stands within sight."""
    box = site.enclosures.get(source.enclosure_id or "")
    run = own_run(site, source)
    into = site.enclosures.get(site.downstream_of(run)) if run is not None else None
    if box is None or box.placement != "outdoors" or run is None or into is None or into.building_id is None:
        return
    ending: Ending = "asked" if source.disconnect_within_sight is None else "holds"
    text = f"The disconnect of {about.name} stands within sight of the building."
    if source.disconnect_within_sight is False:
        ends_in = site.devices.get(_last_of(site, run).to_part)
        name = name_of(site, into.id)
        if ends_in is not None:
            text = f"The building has a disconnect of its own for {about.name}."
        else:
            ending = "must_fix"
            text = f"The disconnect of {about.name} is out of sight of the building, and {name} has none for it: give the building one."
    asked = "whether its own disconnect is in reach and within sight of the building"
    yield Fact("sources", source.id, "disconnect_within_sight", ending, "generator_outdoor_disconnect", text, asked)


def _last_of(site: Site, run: Run) -> Run:
    """The run by which a set comes to its gear: behind an inlet it is the next one."""
    box = site.enclosures.get(site.downstream_of(run))
    onward = site.runs_from.get(box.id, []) if box is not None and box.kind == "inlet" else []
    return next(iter(onward), run)
