"""Neutral nets, metal nets and grounded systems: what a neutral is joined to, scenario by scenario.

A grounded system is a connected part of the neutral net that holds the neutral of a live source or of a transformer's
live secondary. Bonds, metal and earth do not join systems: what they join is counted against them.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass

from nelvor.model.things import Source, Transformer
from nelvor.model.voltages import LEGS
from nelvor.topology.look_ups import LookUps
from nelvor.topology.network import METAL, NEUTRAL, Edge, Network, Node, forms_neutral, secondary_bar, shares_windings
from nelvor.topology.scenario import CARRYING, Scenario
from nelvor.topology.site import Site

Closes = Callable[[Edge], bool]


@dataclass(frozen=True)
class GroundedSystem:
    """A neutral net with the live sources in it; ``lines`` are the live nodes that its sources reach.

    ``supplied_by_utility``: a utility's neutral lies in it, so that the bond is the service's, be the utility on or not.
    """

    sources: tuple[str, ...]
    neutral: frozenset[Node]
    lines: frozenset[Node]
    supplied_by_utility: bool


@dataclass(frozen=True)
class Join:
    """A place where a neutral net meets metal; ``made`` is None where it is not known."""

    edge: Edge
    neutral: Node
    metal: Node
    made: bool | None


def neutral_parts(site: Site, enclosure_id: str) -> list[tuple[str, ...]]:
    """Return the neutral bars of an enclosure and the sources in it, grouped by what is one neutral within the box.

    The first group is that of the ordinary neutral: what a transformer's secondary has, or what the feed brings.
    """
    bars = [bar.id for bar in site.bars_in.get(enclosure_id, []) if bar.kind == "neutral"]
    sources = [item.id for item in site.sources_in.get(enclosure_id, []) if has_neutral(site, site.network, item)]
    left = [*bars, *sources]
    first = _ordinary_neutral(site, enclosure_id)
    left.sort(key=lambda part: part != first)
    groups = []
    while left:
        start = Node(left[0], NEUTRAL)
        joined = _walk(site.network, [start], lambda edge: edge.kind in ("neutral_tie", "frame"), NEUTRAL)
        group = tuple(part for part in left if Node(part, NEUTRAL) in joined)
        groups.append(group)
        left = [part for part in left if part not in group]
    return groups


def ordinary_neutral(site: Site, enclosure_id: str) -> tuple[str, ...]:
    """Return the parts of the ordinary neutral of an enclosure: all its neutral bars, but where gear parts them."""
    if enclosure_id in site.transfers_in or enclosure_id in site.transformers_in or enclosure_id in site.sources_in:
        return next(iter(neutral_parts(site, enclosure_id)), ())
    return tuple(bar.id for bar in site.bars_in.get(enclosure_id, []) if bar.kind == "neutral")


def _ordinary_neutral(site: Site, enclosure_id: str) -> str | None:
    for transformer in site.transformers_in.get(enclosure_id, []):
        return secondary_bar(site, transformer)
    feeding = site.feeding_run(enclosure_id)
    conductors = site.conductors_of.get(feeding.id, []) if feeding else []
    return next((item.to_part for item in conductors if item.role == "neutral"), None)


def has_neutral(things: LookUps, network: Network, source: Source) -> bool | None:
    """Tell whether a source has a neutral: by its output, else by a neutral conductor or a bond at it."""
    if source.output is not None:
        return source.output != "line_to_line"
    node = Node(source.id, NEUTRAL)
    return True if any(edge.kind in ("conductor", "bond") for edge in network.at.get(node, ())) else None


# -- nets ----------------------------------------------------------------------------------------


def neutral_net(network: Network, start: Node, closes: Closes, doubtful: bool = False) -> frozenset[Node]:
    """Return what a neutral is joined to over neutral conductors, bars and closed poles; not over bonds or metal."""

    def joins(edge: Edge) -> bool:
        return edge.kind in ("conductor", "neutral_tie", "frame", "switch") and closes(edge) and _sound(edge, doubtful)

    return _walk(network, [start], joins, NEUTRAL)


def metal_net(network: Network, start: Node, without: frozenset[str], owner: Callable[[str], str]) -> frozenset[Node]:
    """Return the metal that is joined to a piece of metal over metal, grounding conductors and bonds between metal.

    ``without`` are enclosures whose metal is left out: what lies ahead of the service disconnect.
    """
    kinds = ("conductor", "bar_on_metal", "bond", "raceway", "metal_path", "frame")

    def joins(edge: Edge) -> bool:
        return edge.kind in kinds and edge.made is True and not {owner(edge.a.part), owner(edge.b.part)} & without

    return _walk(network, [start], joins, METAL)


def joins_of(network: Network, neutral: Iterable[Node], closed_relay: Closes) -> Iterator[Join]:
    """Yield each place where a neutral net meets metal: bonds, bars on the metal, conductors on the wrong bar."""
    for node in neutral:
        for edge in network.at.get(node, ()):
            other = edge.b if edge.a == node else edge.a
            if other.pole == METAL and edge.kind in ("bond", "bar_on_metal", "conductor"):
                yield Join(edge, node, other, edge.made if closed_relay(edge) else False)


def _sound(edge: Edge, doubtful: bool) -> bool:
    return edge.made is True or (doubtful and edge.made is None)


def _walk(network: Network, starts: Iterable[Node], joins: Closes, pole: str | None) -> frozenset[Node]:
    seen = set(starts)
    stack = list(seen)
    while stack:
        node = stack.pop()
        for edge in network.at.get(node, ()):
            other = edge.b if edge.a == node else edge.a
            if other not in seen and (pole is None or other.pole == pole) and joins(edge):
                seen.add(other)
                stack.append(other)
    return frozenset(seen)


# -- systems -------------------------------------------------------------------------------------


def systems_in(site: Site, scenario: Scenario) -> list[GroundedSystem]:
    """Return the grounded systems that are live in a scenario, each with its lines and its sources."""
    utilities = {Node(item.id, NEUTRAL) for item in site.document.sources if item.kind == "utility"}
    found: dict[frozenset[Node], tuple[list[str], set[Node]]] = {}
    net_of: dict[Node, frozenset[Node]] = {}
    formed = {item.id for item in site.document.transformers if forms_neutral(site, item)}
    for name, neutral, lines in _live_neutrals(site, scenario):
        if neutral not in net_of:
            net_of |= dict.fromkeys(net := neutral_net(site.network, neutral, scenario.closes), net)
        net = net_of[neutral]
        names, reached = found.setdefault(net, ([], set()))
        if not names or name not in formed:
            names.append(name)
        reached |= lines
    return [
        GroundedSystem(tuple(names), net, frozenset(reached), bool(net & utilities))
        for net, (names, reached) in found.items()
    ]


def _live_neutrals(site: Site, scenario: Scenario) -> Iterator[tuple[str, Node, frozenset[Node]]]:
    """Yield (id, neutral, lines) of each source that forms a supply and of each live secondary that has a neutral.

    A neutral that is formed between live lines comes last: where it is joined to another one, it is no system of its own.
    """
    lines_of = _Lines(site.network, scenario)
    live: set[Node] = set()
    for source_id in sorted(scenario.sources_on & site.sources.keys()):
        source = site.sources[source_id]
        if source.interactive and not source.forms_supply:
            continue
        lines = lines_of.part(source_id)
        live |= lines
        if Node(source_id, NEUTRAL) in site.network.at:
            yield source_id, Node(source_id, NEUTRAL), lines
    for transformer in _outward(site):
        bar = secondary_bar(site, transformer)
        if shares_windings(site, transformer) or not any(node.part == transformer.primary_part for node in live):
            continue
        lines = lines_of.part(transformer.secondary_part)
        live |= lines
        if bar is not None:
            yield transformer.id, Node(bar, NEUTRAL), lines
    for transformer in _outward(site):
        lines = lines_of.part(transformer.primary_part)
        if forms_neutral(site, transformer) and lines & live:
            yield transformer.id, Node(transformer.secondary_part, NEUTRAL), lines


def _outward(site: Site) -> list[Transformer]:
    """Transformers from the sources outward, so that each is met after what makes its primary live."""
    return [item for owner in site.walking_order for item in site.transformers_in.get(owner, [])]


class _Lines:
    """The line nodes that parts make live in a scenario, not through a winding. What is joined is walked once."""

    def __init__(self, network: Network, scenario: Scenario) -> None:
        self._network, self._closes = network, scenario.closes
        self._starts: dict[str, list[Node]] = {}
        for node in network.at:
            if node.pole in LEGS:
                self._starts.setdefault(node.part, []).append(node)
        self._joined: dict[Node, frozenset[Node]] = {}

    def part(self, part: str) -> frozenset[Node]:
        """Return the line nodes that a part makes live."""
        found: frozenset[Node] = frozenset()
        for start in self._starts.get(part, ()):
            if start not in self._joined:
                self._joined |= dict.fromkeys(joined := _walk(self._network, [start], self._carries, None), joined)
            found |= self._joined[start]
        return found

    def _carries(self, edge: Edge) -> bool:
        return edge.kind in CARRYING - {"winding"} and edge.list != "conductors" and self._closes(edge)
