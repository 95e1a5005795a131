"""The positions of the gear as they are played on the drawing: what is live in each, whence, and which bonds count."""

from __future__ import annotations

from collections.abc import Collection

from nelvor.judges.bonds.count import bonds_in
from nelvor.judges.panelboard.standing import name_in
from nelvor.report.check import Report
from nelvor.report.sent import PositionOut, SystemBondsOut
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.network import LEADS, LOAD, Node
from nelvor.topology.positions import Position, positions
from nelvor.topology.scenario import feeds_in, live_nodes
from nelvor.topology.site import Site


def positions_out(report: Report) -> list[PositionOut]:
    """Return every position of a site, the ordinary one first; none where nothing can be switched over."""
    return [_position(report, position) for position in positions(report.site, report.state)]


def _position(report: Report, position: Position) -> PositionOut:
    site, scenario = report.site, position.scenario
    feeds = feeds_in(site, site.network, scenario)
    live = live_nodes(site, site.network, scenario)
    owners = {site.owners.get(node.part, node.part) for node in live}
    carrying = {edge.id for node in live for edge in site.network.at[node] if edge.list == "runs"}
    carrying |= {run_id for run_id in site.leads if _leads_are_live(site, run_id, live)}
    return PositionOut(
        name=position.name,
        closed=sorted(throw for _, throw in scenario.positions if throw is not None),
        live=sorted(owners),
        runs=sorted(carrying),
        fed_from={
            enclosure_id: [name_of(site, site.upstream_of(run)) for run in runs]
            for enclosure_id, runs in sorted(feeds.items())
        },
        circuits=_kept_live(site, live),
        systems=[
            SystemBondsOut(sources=[thing_name(site, item) for item in system.sources], places=list(system.places))
            for system in bonds_in(site, report.rules, report.bonds, scenario)
        ],
    )


def _leads_are_live(site: Site, run_id: str, live: Collection[Node]) -> bool:
    box = site.upstream_of(site.runs[run_id])
    gears = {gear.id for gear in site.transfers_in.get(box, [])}
    switches = {item.id for gear in gears for item in site.circuit_switches_of.get(gear, [])}
    return any(node.part in switches for node in live)


def _kept_live(site: Site, live: Collection[Node]) -> dict[str, list[str]]:
    """The circuits that are live behind breakers that are not, by their panel."""
    sides: dict[str, set[str]] = {}
    for node in live:
        if node.part in site.switches_of_device:
            sides.setdefault(node.part, set()).add(node.side)
    found: dict[str, list[str]] = {}
    for device_id in site.switches_of_device:
        if LOAD in sides.get(device_id, ()) and LEADS not in sides[device_id]:
            device = site.devices[device_id]
            found.setdefault(device.enclosure_id, []).append(name_in(site, device))
    return found
