"""What keeps the several supplies of one enclosure apart: transfer gear, a source they pass through, or
devices of which only one can be on."""

from __future__ import annotations

from nelvor.model.things import Run
from nelvor.topology.feeds import INTERACTIVE
from nelvor.topology.site import Site


def supplies_of(site: Site, enclosure_id: str) -> list[Run]:
    """Return the runs that supply an enclosure by themselves: all but leads and those of sources that run beside the utility."""
    runs = [run for run in site.runs_into.get(enclosure_id, []) if run.id not in site.leads]
    return [run for run in runs if site.feeds.rank[site.upstream_of(run)] != INTERACTIVE]


def kept_apart(site: Site, enclosure_id: str) -> bool:
    """Tell whether no two supplies of an enclosure can be on together."""
    runs = site.runs_into.get(enclosure_id, [])
    supplies = supplies_of(site, enclosure_id) if len(runs) > 1 else runs
    if len(supplies) < 2 or enclosure_id in site.transfer_enclosures or enclosure_id in site.passing:
        return True
    ends = {run.to_part for run in supplies}
    pairs = {frozenset((item.device_a, item.device_b)) for item in site.document.interlocks}
    return len(ends) > 1 and all(frozenset((one, other)) in pairs for one in ends for other in ends if one < other)
