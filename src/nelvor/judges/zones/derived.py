"""Systems other than the utility's: is a source one of its own, and where does its one bond belong?

Derived, never ticked: a source is separately derived where its neutral has no direct connection to another source's
in any position of the gear (Article 100). Bonds, grounding conductors and earth do not count as a connection.
"""

from __future__ import annotations

from typing import Literal

from nelvor.judges.zones.autotransformers import in_line, of_autotransformer, where_neutral_is_formed
from nelvor.judges.zones.service import has_disconnect
from nelvor.judges.zones.zone import Zone
from nelvor.model.things import Enclosure, Run, Source
from nelvor.topology.grounded import has_neutral, metal_net, neutral_net
from nelvor.topology.joints import inside
from nelvor.topology.names import name_of
from nelvor.topology.network import METAL, NEUTRAL, Edge, Node, shares_windings
from nelvor.topology.site import Site

Tie = Literal["joined", "parted", "alone", "unknown"]
NOT_DERIVED = "not_separately_derived"
DERIVED_BOND = "system_bonding_jumper"
DERIVED_APART = "derived_neutral_apart"


def own_sources(site: Site, enclosure_id: str) -> list[Source]:
    """Return the sources that begin in an enclosure that nothing feeds."""
    if site.feeding_run(enclosure_id) is not None:
        return []
    return [item for item in site.sources_in.get(enclosure_id, []) if item.kind != "utility"]


def tie_to_utility(site: Site, source: Source) -> Tie:
    """Tell whether a source's neutral is joined to a utility's without a switch between, parted by one, or alone."""
    utilities = {Node(item.id, NEUTRAL) for item in site.document.sources if item.kind == "utility"}
    start, doubtful = Node(source.id, NEUTRAL), _doubtful_gear(site)

    def solid(edge: Edge) -> bool:
        return edge.kind != "switch"

    def certain(edge: Edge) -> bool:
        return solid(edge) and not {site.owners.get(node.part, node.part) for node in (edge.a, edge.b)} & doubtful

    if neutral_net(site.network, start, certain) & utilities:
        return "joined"
    if neutral_net(site.network, start, solid, doubtful=True) & utilities:
        return "unknown"
    return "parted" if neutral_net(site.network, start, lambda _: True) & utilities else "alone"


def _doubtful_gear(site: Site) -> set[str]:
    """Enclosures of gear of which it is not told whether it opens the neutral, or to which bars its positions take it."""
    found = set()
    for gear in site.document.transfers:
        bars = [throw.neutral_part for throw in site.throws_of.get(gear.id, [])]
        told = gear.lines_only or gear.switches_neutral is False
        if not told and (gear.switches_neutral is None or None in bars or len({*bars}) < len(bars)):
            found.add(gear.enclosure_id)
    return found


# -- sources -------------------------------------------------------------------------------------


def beside_utility(site: Site, enclosure_id: str) -> Zone | None:
    """Return the zone of an enclosure that is fed and holds nothing but a source beside the utility."""
    sources = [item for item in site.sources_in.get(enclosure_id, []) if item.kind != "utility"]
    bars = [bar for bar in site.bars_in.get(enclosure_id, []) if bar.kind == "neutral"]
    return _of(site, sources[0]) if sources and not bars and all(item.interactive for item in sources) else None


def of_source(site: Site, enclosure_id: str) -> Zone:
    """Return the zone of the enclosure that a source stands in."""
    return _of(site, own_sources(site, enclosure_id)[0])


def _of(site: Site, source: Source) -> Zone:
    name = name_of(site, source.id)
    neutral = has_neutral(site, site.network, source)
    if neutral is None:
        return Zone("unknown", f"Whether {name} has a neutral is not entered.", field="output")
    if not neutral:
        return Zone("no_neutral", f"{name} has no neutral, so there is nothing to bond here.", "egc_required_in_feeder")
    if source.interactive and not source.forms_supply:
        return Zone("floating", f"{name} runs beside the utility: the service's bond serves it.", NOT_DERIVED)
    match tie_to_utility(site, source):
        case "unknown":
            reason = (
                f"Whether the transfer gear between {name} and the utility switches the neutral, and on which bar that of "
                "each position lands, is not entered."
            )
            return Zone("unknown", reason, field="switches_neutral")
        case "joined":
            reason = (
                f"No pole parts the neutral of {name} from the utility's: it is no system of its own, and the "
                "service's bond serves it."
            )
            return Zone("floating", reason, NOT_DERIVED)
        case "alone" if _lines_meet_utility(site, source) and not _all_gear_switches(site):
            reason = (
                f"The lines of {name} reach what the utility feeds, but its neutral does not go with them: a fault finds "
                "no way back to it. Bring the neutral along."
            )
            return Zone("no_way_back", reason, "effective_fault_path")
        case tie:
            return _derived_source(site, source, tie)


def _derived_source(site: Site, source: Source, tie: Tie) -> Zone:
    name = name_of(site, source.id)
    why = "the transfer gear opens its neutral with the lines" if tie == "parted" else "no other supply is joined to it"
    elsewhere = _bonded_first_disconnect(site, site.owners[source.id])
    if elsewhere is not None:
        reason = f"{name} is a system of its own; its one bond is at {name_of(site, elsewhere)}."
        return Zone("floating", reason, DERIVED_BOND)
    return Zone("in_source", f"{name} is a system of its own ({why}): its one bond is here.", DERIVED_BOND)


def _lines_meet_utility(site: Site, source: Source) -> bool:
    """Tell whether what a source feeds is fed by the utility too, or by gear that may take either."""
    owners, stack = set(), [site.owners[source.id]]
    while stack:
        owner = stack.pop()
        for run in site.runs_from.get(owner, []):
            beneath = site.downstream_of(run)
            if beneath not in owners:
                owners.add(beneath)
                stack.append(beneath)
    roots = {site.feeds.root.get(owner) for owner in owners}
    return any(item.kind == "utility" for root in roots for item in site.sources_in.get(root or "", []))


def _all_gear_switches(site: Site) -> bool:
    gears = site.document.transfers
    return bool(gears) and all(gear.switches_neutral for gear in gears)


def behind_loose_source(site: Site, source_id: str) -> Zone:
    """Return the zone behind a source that stands in no enclosure: its frame and its bond cannot be drawn."""
    source = site.sources[source_id]
    if has_neutral(site, site.network, source) is False:
        return Zone("load", f"{name_of(site, source_id)} has no neutral.", "egc_required_in_feeder")
    if source.interactive and not source.forms_supply:
        reason = f"{name_of(site, source_id)} runs beside the utility: the service's bond serves it."
        return Zone("load", reason, NOT_DERIVED)
    reason = f"{name_of(site, source_id)} stands in no enclosure, so whether its neutral is bonded inside is not known."
    return Zone("unknown", reason, field="enclosure_id")


# -- transformers --------------------------------------------------------------------------------


def of_transformer(site: Site, enclosure_id: str) -> Zone | None:
    """Return the zone of an enclosure with an isolating transformer: the bond of its secondary is here, or behind it."""
    transformers = site.transformers_in.get(enclosure_id, [])
    if not transformers:
        return None
    if (shared := of_autotransformer(site, enclosure_id)) is not None:
        return shared
    elsewhere = _bonded_first_disconnect(site, enclosure_id)
    if elsewhere is not None:
        reason = f"The secondary is a system of its own; its one bond is at {name_of(site, elsewhere)}."
        return Zone("floating", reason, DERIVED_BOND)
    return Zone("derived", "The secondary is a system of its own: its one bond is here.", DERIVED_BOND)


def is_derived_from(site: Site, feeding: Run) -> bool:
    """Tell whether a run brings the power of a derived system from its beginning: a source's box, or a secondary."""
    upstream = site.upstream_of(feeding)
    return _from_secondary(site, feeding) or bool(own_sources(site, upstream)) or in_line(site, feeding)


def _from_secondary(site: Site, run: Run) -> bool:
    """Tell whether a run begins at a secondary with windings of its own."""
    transformer = site.transformer_of_secondary.get(run.from_part)
    return transformer is not None and not shares_windings(site, transformer)


def behind_bond_point(site: Site, enclosure_id: str, ahead: Zone) -> Zone:
    """Return the zone of the first enclosure of a derived system."""
    feeding = site.feeding_run(enclosure_id)
    assert feeding is not None  # asked only of enclosures that a run feeds
    upstream = site.upstream_of(feeding)
    name = name_of(site, upstream)
    if ahead.kind == "no_neutral" and (formed := where_neutral_is_formed(site, enclosure_id)) is not None:
        return formed
    if ahead.kind == "no_neutral":
        return Zone("load", f"{name} has no neutral.", "egc_required_in_feeder")
    if ahead.kind == "floating" and ahead.clause == NOT_DERIVED:
        return Zone("load", f"{name} is no system of its own: the service's bond serves it here too.", NOT_DERIVED)
    if ahead.kind == "floating":
        reason = f"It is the first disconnect of the system that begins at {name}: the one bond of that system is here."
        return Zone("derived", reason, DERIVED_BOND)
    second = _second_bond_outdoors(site, enclosure_id, feeding)
    return second or Zone(
        "load", f"The bond of this system is at {name}, so neutral and ground are apart.", DERIVED_APART
    )


def _bonded_first_disconnect(site: Site, beginning: str) -> str | None:
    """Return the first disconnect of a system, where the bond stands there and not at the beginning.

    Outdoors that is one beside it, from which the electrode conductor begins too (250.30(A)(1), (C)).
    """
    box = site.enclosures[beginning]
    if box.placement is None or inside(site, beginning).found == "bonded":
        return None
    for run in site.runs_from.get(beginning, []):
        beneath = site.downstream_of(run)
        begins = _from_secondary(site, run) or bool(own_sources(site, beginning))
        beside = box.placement == "indoors" or _beside_outdoors(site, box, beneath)
        if begins and beside and has_disconnect(site, beneath) and inside(site, beneath).found == "bonded":
            return beneath
    return None


def _beside_outdoors(site: Site, box: Enclosure, enclosure_id: str) -> bool:
    other = site.enclosures.get(enclosure_id)
    same_place = other is not None and (other.placement, other.building_id) == (box.placement, box.building_id)
    return same_place and bool(site.electrodes_at.get(enclosure_id))


def _second_bond_outdoors(site: Site, enclosure_id: str, feeding: Run) -> Zone | None:
    """A second bond at the building that an outdoor system feeds, where nothing but earth joins the two."""
    upstream = site.enclosures[site.upstream_of(feeding)]
    if upstream.placement != "outdoors" or not site.is_first_of_building(enclosure_id):
        return None
    metal = metal_net(site.network, Node(enclosure_id, METAL), frozenset(), lambda part: site.owners.get(part, part))
    if Node(upstream.id, METAL) in metal or inside(site, enclosure_id).found != "bonded":
        return None
    path = site.buildings[str(site.enclosures[enclosure_id].building_id)].metal_path_to_supply
    if path is None:
        reason = (
            "A second bond may stand at the building only where no metal joins it to the source: that is not entered."
        )
        return Zone("unknown", reason, "second_bond_of_outdoor_system", "metal_path_to_supply")
    if path:
        return None
    reason = (
        "Fed from an outdoor system without a grounding conductor or other metal between: a second bond may stand here."
    )
    return Zone("derived", reason, "second_bond_of_outdoor_system")
