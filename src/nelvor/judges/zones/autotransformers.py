"""Autotransformers: they make no system of their own, and one may form the neutral of a source that has none (450.4(A))."""

from __future__ import annotations

from nelvor.judges.zones.service import has_disconnect
from nelvor.judges.zones.zone import Zone
from nelvor.model.things import Run, Transformer
from nelvor.topology.grounded import has_neutral, neutral_net
from nelvor.topology.joints import inside
from nelvor.topology.names import name_of
from nelvor.topology.network import NEUTRAL, Node, forms_neutral, shares_windings
from nelvor.topology.site import Site

FEEDER, FORMS = "autotransformer_feeder", "autotransformer_neutral"
BOND = "system_bonding_jumper"


def of_autotransformer(site: Site, enclosure_id: str) -> Zone | None:
    """Return the zone of an enclosure whose transformers are all autotransformers; None for any other."""
    transformers = site.transformers_in.get(enclosure_id, [])
    if not transformers or not all(shares_windings(site, item) for item in transformers):
        return None
    if any(forms_neutral(site, item) for item in transformers):
        return Zone("load", "It forms a neutral, and no system of its own: no bond belongs here.", FORMS)
    return Zone("load", "Its windings share a conductor, so it makes no new system and gets no bond.", FEEDER)


def where_neutral_is_formed(site: Site, enclosure_id: str) -> Zone | None:
    """Return the zone of the first enclosure behind a source without a neutral, where one is formed for it; else None."""
    name = name_of(site, enclosure_id)
    own = _of_enclosure(site, enclosure_id)
    if own is not None:
        beneath = _bonded_beneath(site, enclosure_id)
        if beneath is not None:
            reason = f"It forms the neutral, and the one bond of that system is at {name_of(site, beneath)}."
            return Zone("floating", reason, BOND)
        return Zone("derived", "The source has no neutral; it is formed here, and so the one bond may be here.", BOND)
    formed = _fed_from(site, enclosure_id)
    if formed is None:
        return None
    where = name_of(site, formed.enclosure_id)
    net = neutral_net(site.network, Node(formed.secondary_part, NEUTRAL), lambda _: True)
    if any(Node(bar.id, NEUTRAL) in net for bar in site.bars_in.get(enclosure_id, [])):
        reason = f"The source has no neutral; {where} forms it, and the one bond is here, in the first disconnect."
        return Zone("derived", reason, BOND)
    reason = f"{where} forms a neutral that does not come to {name}: a fault finds no way back over it. Bring it along."
    return Zone("no_way_back", reason, "effective_fault_path")


def in_line(site: Site, feeding: Run) -> bool:
    """Tell whether a run leaves an enclosure that forms the neutral for a source on its way."""
    return _of_enclosure(site, site.upstream_of(feeding)) is not None


def _of_enclosure(site: Site, enclosure_id: str) -> Transformer | None:
    """The transformer in an enclosure that forms the neutral of a source without one, and hands the lines on."""
    forming = next((item for item in site.transformers_in.get(enclosure_id, []) if forms_neutral(site, item)), None)
    feeding = site.feeding_run(enclosure_id)
    if forming is None or feeding is None or not site.runs_from.get(enclosure_id):
        return None
    sources = site.sources_in.get(site.upstream_of(feeding), [])
    without = sources and all(has_neutral(site, site.network, item) is False for item in sources)
    return forming if without else None


def _fed_from(site: Site, enclosure_id: str) -> Transformer | None:
    """The transformer that forms a neutral on a run from an enclosure, or further down."""
    stack, seen = [enclosure_id], {enclosure_id}
    while stack:
        for run in site.runs_from.get(stack.pop(), []):
            beneath = site.downstream_of(run)
            for transformer in site.transformers_in.get(beneath, []):
                if forms_neutral(site, transformer):
                    return transformer
            if beneath not in seen:
                seen.add(beneath)
                stack.append(beneath)
    return None


def _bonded_beneath(site: Site, enclosure_id: str) -> str | None:
    """The first disconnect behind, where the bond stands there and not here."""
    if inside(site, enclosure_id).found == "bonded":
        return None
    ends = [site.downstream_of(run) for run in site.runs_from.get(enclosure_id, [])]
    return next((end for end in ends if has_disconnect(site, end) and inside(site, end).found == "bonded"), None)
