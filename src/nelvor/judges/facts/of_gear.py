"""Gear between supplies: gear in which both can meet, gear at the meter, large inlets, transformers fed at the wrong side."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from nelvor.judges.facts.fact import About, Fact
from nelvor.judges.facts.of_sources import area_metal
from nelvor.model.things import Enclosure, Transfer, Transformer
from nelvor.model.voltages import LINE_TO_LINE_V
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.network import shares_windings
from nelvor.topology.pushed_in import sources_behind
from nelvor.topology.site import Site
from nelvor.working import exact

LARGE_INLET_A = Fraction(100)


def facts_of_gear(site: Site, rules: Rules) -> Iterator[Fact]:
    """Yield the facts of transfer gear, inlets and transformers."""
    for gear in site.document.transfers:
        if gear.enclosure_id in site.enclosures:
            yield from _transfer(site, About("transfers", gear, name_of(site, gear.enclosure_id)), gear, rules)
    for enclosure in site.document.enclosures:
        if enclosure.kind == "inlet" and _is_large(site, enclosure):
            yield About("enclosures", enclosure, name_of(site, enclosure.id)).yes_or_no(
                "inlet_interlocked",
                "inlet_100a",
                (
                    "{name} is listed and interlocked with a disconnect.",
                    "{name} is one of 100 A or more and has no disconnect that it is interlocked with.",
                ),
                "whether it is listed and interlocked with a disconnect, so that it is not pulled under load",
            )
    for transformer in site.document.transformers:
        if transformer.enclosure_id not in site.enclosures or shares_windings(site, transformer):
            continue
        about = About("transformers", transformer, thing_name(site, transformer.id))
        yield from area_metal(site, about, transformer.enclosure_id)
        if _steps_up(site, transformer):
            yield about.yes_or_no(
                "fed_as_marked",
                "transformer_reverse_feed",
                (
                    "{name} is fed as its plate or its maker allows.",
                    "{name} is fed at the side marked as its secondary, and its maker does not allow that.",
                ),
                "whether the side that is fed is its marked primary, or its maker allows it to be fed at the other one",
            )


def _transfer(site: Site, about: About, gear: Transfer, rules: Rules) -> Iterator[Fact]:
    if gear.meter_mounted:
        yield _at_the_meter(about, gear, rules)
    sources = [
        source
        for throw in site.throws_of.get(gear.id, [])
        for run in site.runs_to_part.get(throw.part, [])
        for source in sources_behind(site, site.upstream_of(run), set())
    ]
    if any(source.interactive is not False for source in sources) and gear.break_before_make is None:
        yield _breaks_first(about)
    elif sources and (gear.may_run_parallel or gear.break_before_make is False):
        source = next((item for item in sources if item.interactive is not True), sources[0])
        yield About("sources", source, name_of(site, source.id)).yes_or_no(
            "interactive",
            "standby_parallel",
            (
                f"{{name}} may run beside the utility, which {about.name} lets it meet; the rules of what is joined to it apply.",
                f"{about.name} lets {{name}} meet the utility, which it is not made for. Use gear that breaks before it makes.",
            ),
            "whether it may run beside the utility, which its gear lets it meet",
        )


def _breaks_first(about: About) -> Fact:
    return about.yes_or_no(
        "break_before_make",
        "standby_parallel",
        ("{name} leaves one supply before it takes the other.", "{name} lets both supplies meet."),
        "whether it leaves one supply before it takes the other",
    )


def _at_the_meter(about: About, gear: Transfer, rules: Rules) -> Fact:
    clause = "standby_meter_mounted"
    asked = "whether the utility agrees with gear at its meter"
    if not rules.has_section(clause):
        words = "whether office and utility allow gear at the meter, which this edition does not speak of"
        return Fact("transfers", gear.id, "utility_agrees", "asked", clause, "", words)
    texts = ("The utility agrees with {name} at its meter.", "The utility does not agree with {name} at its meter.")
    return about.yes_or_no("utility_agrees", clause, texts, asked)


def _is_large(site: Site, inlet: Enclosure) -> bool:
    """Tell whether 100 A or more come over an inlet, by its rating or the devices at either end of its runs."""
    if inlet.inlet_a is not None:
        return exact(inlet.inlet_a) >= LARGE_INLET_A
    runs = [*site.runs_into.get(inlet.id, []), *site.runs_from.get(inlet.id, [])]
    ends = [site.devices.get(part) for run in runs for part in (run.from_part, run.to_part)]
    return any(device is not None and exact(device.rating_a or 0) >= LARGE_INLET_A for device in ends)


def _steps_up(site: Site, transformer: Transformer) -> bool:
    """Tell whether a transformer gives a higher voltage than it is fed with, for which it is rarely marked."""
    fed = LINE_TO_LINE_V.get(site.system_at(transformer.enclosure_id) or "")
    given = LINE_TO_LINE_V.get(transformer.secondary_system or "")
    return fed is not None and given is not None and given > fed
