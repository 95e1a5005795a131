"""What a source needs that no figure tells: a disconnect, rapid shutdown, bonded frames, the place of storage, what parts an island
from the utility.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from nelvor.judges.bonds import BondAnswer
from nelvor.judges.facts.fact import About, Ending, Fact
from nelvor.judges.facts.of_sets import facts_of_set
from nelvor.model.things import Source
from nelvor.rulebook.rules import Rules
from nelvor.topology.charging import stores
from nelvor.topology.names import name_of
from nelvor.topology.site import Site

CHARGED = "continuous_125_feeder_ocpd"
OWN_SYSTEM = "bond_in_source"
SHUTDOWN: dict[str | None, tuple[Ending, str]] = {
    None: ("asked", ""),
    "provided": ("holds", "The solar circuits of {name} shut down rapidly."),
    "not_needed": ("holds", "No solar circuit of {name} runs on or in a building."),
    "missing": (
        "must_fix",
        "The solar circuits of {name} on the building do not shut down rapidly, which they have to.",
    ),
}


def facts_of_sources(site: Site, rules: Rules, bonds: Mapping[str, BondAnswer]) -> Iterator[Fact]:
    """Yield the facts of every source of the premises."""
    beside_utility = any(source.kind == "utility" for source in site.document.sources)
    for source in site.document.sources:
        about, bond = About("sources", source, name_of(site, source.id)), bonds.get(source.enclosure_id or "")
        if source.kind == "generator":
            yield from facts_of_set(site, rules, about, source)
        elif source.kind in ("inverter", "battery"):
            yield from _converter(site, about, source)
        if bond is not None and bond.decision == OWN_SYSTEM:
            yield from _of_its_own_system(site, about, source, beside_utility)
        if source.interactive and source.kind != "utility":
            yield from _beside_the_utility(site, about, source, beside_utility)


def _of_its_own_system(site: Site, about: About, source: Source, beside_utility: bool) -> Iterator[Fact]:
    """The metal of the area that it serves; where it is the only supply, a bond that goes away with a plug."""
    if beside_utility and not source.portable:
        yield from area_metal(site, about, str(source.enclosure_id))
    elif source.portable and site.runs_from.get(str(source.enclosure_id)):
        yield about.yes_or_no(
            "always_this_set",
            "system_bonding_jumper",
            (
                "No other set than {name} is plugged in: the one bond of the system goes with it.",
                "Other sets than {name} are plugged in: one without a bond would leave faults that trip nothing. Mark the inlet for "
                "sets with a bonded neutral only.",
            ),
            "whether no other set is ever plugged in, for the one bond of the system goes with its plug",
        )


def _beside_the_utility(site: Site, about: About, source: Source, beside_utility: bool) -> Iterator[Fact]:
    if beside_utility and source.forms_supply and source.kind in ("inverter", "battery"):
        yield from _island(about)
    if _is_joined_ahead(site, source):
        yield from _ahead_of_the_service(about)
    if beside_utility and source.kind in ("generator", "other"):
        yield about.yes_or_no(
            "leaves_dead_grid",
            "loss_of_primary",
            ("{name} leaves the utility's lines when they lose power.", "{name} goes on feeding the utility's lines."),
            "whether it leaves all lines of the utility when they lose power, and comes back only when all are restored",
        )


def area_metal(site: Site, about: About, enclosure_id: str) -> Iterator[Fact]:
    """The fact of pipes and steel in the area that a system of its own serves, where there may be any (250.104(D)).

    What is its electrode is joined by that already.
    """
    box = site.enclosures[enclosure_id]
    building = site.buildings.get(box.building_id or "")
    electrodes = {item.kind for item in site.electrodes_at.get(enclosure_id, [])}
    water = (building is None or building.water_piping != "absent") and "water_pipe" not in electrodes
    steel_here = building is None or (building.steel_frame != "absent" and building.use != "dwelling")
    if water or (steel_here and "building_steel" not in electrodes):
        asked = "whether metal water pipes and steel of the area it serves are joined to its neutral, where they are not its electrode"
        yield about.metal("area_metal", "sds_pipes", f"Metal of the area that {about.name} serves", asked)


def _is_joined_ahead(site: Site, source: Source) -> bool:
    """Tell whether a source comes in at a disconnect for sources alone that stands on the supply side of the service's."""
    device = site.connecting_device(source)
    if device is None:
        return False
    for run in site.runs_to_source(device.enclosure_id):
        box = site.downstream_of(run)
        if not site.gathers_sources_alone(box):
            return False
        if site.protection_ahead.get(run.id) is None:
            return True
    return False


def _ahead_of_the_service(about: About) -> Iterator[Fact]:
    yield about.yes_or_no(
        "utility_agrees",
        "supply_side_interconnect",
        (
            "The utility agrees that {name} is joined ahead of the service disconnect.",
            "The utility does not agree that {name} is joined ahead of the service disconnect.",
        ),
        "whether the utility agrees that it is joined ahead of the service disconnect",
    )
    yield about.yes_or_no(
        "joint_listed",
        "supply_side_joint",
        (
            "{name} is joined to the service conductors by connectors listed for it, with room for them.",
            "{name} is joined to the service conductors by connectors that are not listed for it, or without room for them.",
        ),
        "whether its joint to the service conductors is listed for it and has room",
    )


def _converter(site: Site, about: About, source: Source) -> Iterator[Fact]:
    if source.interactive:
        yield about.yes_or_no(
            "disconnect_in_reach",
            "source_disconnect",
            ("{name} has a disconnect in reach.", "{name} has no disconnect that can be reached readily."),
            "whether its disconnect is readily accessible and opens all lines",
        )
    yield about.yes_or_no(
        "isolated_for_work",
        "source_equipment_disconnect",
        ("{name} can be isolated for work.", "{name} cannot be isolated from all that feeds it for work."),
        "whether it can be isolated from all that feeds it for work",
    )
    if stores(source) and (source.interactive or source.enclosure_id in site.passing):
        yield _charging(about, source)
    if source.kind == "battery":
        yield from _storage(about)
    elif source.neutral_path is None:
        yield from _solar(site, about, source)


def _solar(site: Site, about: About, source: Source) -> Iterator[Fact]:
    ending, text = SHUTDOWN[source.rapid_shutdown]
    asked = "whether its circuits on the building shut down rapidly"
    said = text.format(name=about.name)
    yield Fact("sources", source.id, "rapid_shutdown", ending, "pv_rapid_shutdown", said, asked)
    if source.rapid_shutdown == "provided" and _of_a_dwelling(site, source):
        yield about.yes_or_no(
            "shutdown_switch_outdoors",
            "pv_rapid_shutdown_switch",
            ("The switch of the rapid shutdown is outdoors.", "The switch of the rapid shutdown is not outdoors."),
            "whether the switch of its rapid shutdown is outdoors",
        )
    asked = "whether the frames and rails of its array are bonded"
    yield about.metal("array_bonded", "array_bonding", f"The metal of the array of {about.name}", asked)


def _of_a_dwelling(site: Site, source: Source) -> bool:
    return source.enclosure_id in site.enclosures and bool(site.is_one_family(str(source.enclosure_id)))


def _charging(about: About, source: Source) -> Fact:
    """What it takes to charge is a load where it comes in, but for what its own array gives it."""
    taken = source.charging_a
    said = f"{about.name} takes {taken or 0:g} A to charge" + (
        ", a continuous load where it comes in." if taken else "."
    )
    asked = "the most that it takes from its lines to charge, by its plate or its setting; 0 where it takes nothing"
    return Fact("sources", source.id, "charging_a", "asked" if taken is None else "holds", CHARGED, said, asked)


def _storage(about: About) -> Iterator[Fact]:
    yield about.yes_or_no(
        "storage_disconnect",
        "ess_disconnect",
        ("{name} can be cut from all wiring.", "{name} cannot be cut from all wiring by a disconnect in reach."),
        "whether a disconnect in reach cuts the storage from all wiring",
    )
    yield about.yes_or_no(
        "storage_place_as_required",
        "ess_location",
        ("The place of {name} is one where storage may be.", "Storage may not be where {name} is."),
        "whether storage may be where it stands, with its clearances",
    )


def _island(about: About) -> Iterator[Fact]:
    """What parts a source that can go on alone from the utility: a listed device, in it or beside it."""
    yield about.yes_or_no(
        "island_device_listed",
        "microgrid_device",
        (
            "A device listed for it parts {name} from the utility.",
            "What parts {name} from the utility is not listed for it.",
        ),
        "whether what parts it from the utility, in it or beside it, is listed for that",
    )
    yield about.yes_or_no(
        "island_device_protected",
        "microgrid_device_protection",
        (
            "What parts {name} from the utility is protected from every source.",
            "What parts {name} from the utility is not protected from every source.",
        ),
        "whether that device is protected against overcurrent from every source",
    )
    yield about.yes_or_no(
        "rejoins_in_step",
        "microgrid_reconnect",
        ("{name} rejoins the utility only in step with it.", "{name} can rejoin the utility out of step."),
        "whether it rejoins the utility only in step with it",
    )
