"""What power comes in through: what holds breakers in their place, whether they may be fed from their load side, whether
ground-fault protection ahead sees what comes from the source, and limiters of conductors ahead of the service disconnect.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from nelvor.judges.facts.fact import About, Fact
from nelvor.model.things import Device, Source
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import run_name, thing_name
from nelvor.topology.site import Site


def facts_of_back_feed(site: Site, rules: Rules) -> Iterator[Fact]:
    """Yield the facts of every device through which a source of the premises comes in."""
    joining = [site.connecting_device(source) for source in site.document.sources if source.interactive]
    own = {device.id for device in joining if device is not None}
    for device in site.document.devices:
        lets_in = bool(site.sources_beneath) or (device.space is not None and device.id in site.runs_to_part)
        if not lets_in or device.enclosure_id not in site.enclosures:
            continue
        sources = site.sources_through(device) or _beneath_a_main(site, device)
        about = About("devices", device, thing_name(site, device.id))
        if device.space is not None and device.kind == "breaker":
            yield from _held(site, about, device, sources)
        if any(source.interactive for source in sources):
            yield from _fed_from_its_load_side(about, device, device.id in own or device.role == "source")
    for run in site.document.runs:
        if run.limiters is not None:
            said = f"Where each line of {run_name(site, run)} has a limiter is entered; its length ahead of the device goes by that."
            asked = "where each line has a limiter, along the conductors from their joint"
            yield Fact("runs", run.id, "limiters", "holds", "supply_side_distance", said, asked)


def _beneath_a_main(site: Site, device: Device) -> list[Source]:
    """What pushes back through the main of an enclosure to its supply."""
    if device.role != "main" or not site.runs_to_part.get(device.id):
        return []
    feeding = site.feeding_run(device.enclosure_id)
    fed = feeding is not None and feeding.to_part == device.id
    return list(site.sources_beneath.get(device.enclosure_id, {}).values()) if fed else []


def _held(site: Site, about: About, device: Device, pushing: Sequence[Source]) -> Iterator[Fact]:
    """One that is plugged on a bus and lets a supply in is held by more than its grip.

    Where all that comes in is gone with the utility, as of a listed interactive source, it needs none; one whose run leads on
    from it lets nothing else in.
    """
    arriving = site.runs_to_part.get(device.id, [])
    if not arriving or (pushing and all(source.interactive for source in pushing)):
        return
    behind = [source for run in arriving for source in site.sources_in.get(site.upstream_of(run), [])]
    stands_alone = any(source.kind in ("inverter", "battery") for source in (*pushing, *behind))
    yield about.yes_or_no(
        "held_down",
        "standalone_fastener" if stands_alone else "backfed_breaker_fastened",
        (
            "{name} is held in its place by a fastener.",
            "{name} lets a supply in and is held by its grip alone: pulled out, its plug stays live. Fit the fastener made for it.",
        ),
        "whether a fastener holds it in its place beyond its grip on the bus",
        mended_by=f"{about.name}: fit a fastener",
    )


def _fed_from_its_load_side(about: About, device: Device, is_of_the_source: bool) -> Iterator[Fact]:
    if device.kind == "breaker" and is_of_the_source:
        yield about.yes_or_no(
            "line_load_marked",
            "source_backfeed_breaker_suitable",
            (
                "{name} is not marked line and load: it may be fed from either side.",
                "{name} is marked line and load and is fed from its load side. Use one without these marks, or one marked for power "
                "in both directions.",
            ),
            "whether it is marked line and load",
            fits=False,
        )
    if device.ground_fault_protection:
        yield about.yes_or_no(
            "ground_fault_both_ways",
            "source_and_ground_fault_protection",
            (
                "The ground-fault protection of {name} sees what comes from the source, too.",
                "The ground-fault protection of {name} does not see what comes from the source: join the source ahead of it.",
            ),
            "whether its ground-fault protection covers the current from all sources",
        )
