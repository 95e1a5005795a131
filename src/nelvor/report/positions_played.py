"""The positions of the gear as they are played on the drawing: what is live in each, whence, and which bonds count."""

from __future__ import annotations

from nelvor.judges.bonds.count import bonds_in
from nelvor.report.check import Report
from nelvor.report.sent import PositionOut, SystemBondsOut
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.positions import Position, positions
from nelvor.topology.scenario import feeds_in, live_nodes


def positions_out(report: Report) -> list[PositionOut]:
    """Return every position of a site, the ordinary one first; none where nothing can be switched over."""
    return [_position(report, position) for position in positions(report.site, report.state)]


def _position(report: Report, position: Position) -> PositionOut:
    site, scenario = report.site, position.scenario
    feeds = feeds_in(site, site.network, scenario)
    live = live_nodes(site, site.network, scenario)
    owners = {site.owners.get(node.part, node.part) for node in live}
    carrying = {edge.id for node in live for edge in site.network.at[node] if edge.list == "runs"}
    return PositionOut(
        name=position.name,
        closed=sorted(throw for _, throw in scenario.positions if throw is not None),
        live=sorted(owners),
        runs=sorted(carrying),
        fed_from={
            enclosure_id: [name_of(site, site.upstream_of(run)) for run in runs]
            for enclosure_id, runs in sorted(feeds.items())
        },
        systems=[
            SystemBondsOut(sources=[thing_name(site, item) for item in system.sources], places=list(system.places))
            for system in bonds_in(site, report.rules, report.bonds, scenario)
        ],
    )
