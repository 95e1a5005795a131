"""One way in which a site can stand: positions of transfer gear and sources that are on; and what is live then."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import product

from nelvor.model.resolve import State
from nelvor.model.things import Run, Throw
from nelvor.model.voltages import LEGS
from nelvor.topology.feeds import UTILITY, Feeds
from nelvor.topology.look_ups import LookUps
from nelvor.topology.network import Edge, Network, Node
from nelvor.topology.passing import passing_on, passing_sources

CARRYING = frozenset({"conductor", "device", "bus", "switch", "winding", "shared_winding"})
MOST_SCENARIOS = 64


@dataclass(frozen=True)
class Scenario:
    """A state of the design, the throw that each transfer device is in (None: off), and the sources that are on.

    ``open_devices`` are off; all others are on. ``passing`` are the sources that hand their live input on.
    """

    state: State
    positions: tuple[tuple[str, str | None], ...]
    sources_on: frozenset[str]
    open_devices: frozenset[str] = frozenset()
    passing: frozenset[str] = frozenset()

    def closes(self, edge: Edge) -> bool:
        """Tell whether an edge conducts here, as far as switches are concerned."""
        if edge.kind == "device":
            return edge.id not in self.open_devices
        if edge.list == "sources" and edge.kind == "switch":
            return edge.id in self.passing
        return edge.kind != "switch" or edge.id in {throw for _, throw in self.positions}


def ordinary(things: LookUps, feeds: Feeds, state: State) -> Scenario:
    """Return the scenario of an ordinary day: utilities and interactive sources on, transfer gear where they reach it."""
    on = {source.id for source in things.document.sources if source.kind == "utility" or source.interactive}
    positions = tuple(
        (transfer.id, _ordinary_throw(things, feeds, transfer.id)) for transfer in things.document.transfers
    )
    sources_on = frozenset(on or {source.id for source in things.document.sources})
    return Scenario(state, positions, sources_on, passing=passing_on(things, sources_on))


def _ordinary_throw(things: LookUps, feeds: Feeds, transfer_id: str) -> str | None:
    """The throw at which the best supply arrives."""
    throws = things.throws_of.get(transfer_id, [])
    arriving = {run.to_part: feeds.rank[things.upstream_of(run)] for run in reversed(things.drawn_runs)}
    nowhere = UTILITY + len(things.sources) + 9

    def rank(throw: Throw) -> int:
        if throw.part in things.buses:  # the breakers of circuits stay on it
            return feeds.rank.get(things.owners.get(throw.part, ""), nowhere)
        return arriving.get(throw.part, nowhere)

    return min(throws, key=rank).id if throws else None


def scenarios(things: LookUps, state: State) -> Iterator[Scenario]:
    """Yield every rest position of the transfer gear with every source on, then with the utility away.

    Where power passes through sources that make a supply, these alone come last. At most ``MOST_SCENARIOS``; a site with more transfer gear than that is told by its first ones.
    """
    choices = [
        [(item.id, throw.id) for throw in things.throws_of.get(item.id, [])] for item in things.document.transfers
    ]
    every = frozenset(things.sources)
    away = frozenset(source.id for source in things.document.sources if source.kind != "utility")
    makers = frozenset(item.source.id for item in passing_sources(things).values())
    number = 0
    for positions in product(*(choice for choice in choices if choice)):
        for on in dict.fromkeys((every, away, *((makers,) if makers else ()))):
            if number == MOST_SCENARIOS:
                return
            number += 1
            yield Scenario(state, tuple(positions), on, passing=passing_on(things, on))


def live_nodes(things: LookUps, network: Network, scenario: Scenario) -> frozenset[Node]:
    """Return the line nodes that are live in a scenario, devices taken as closed."""
    return frozenset(_first_reached(things, network, scenario))


def feeds_in(things: LookUps, network: Network, scenario: Scenario) -> dict[str, list[Run]]:
    """Return, for each enclosure that is live in a scenario, the runs over which power arrives there."""
    reached = _first_reached(things, network, scenario)
    found: dict[str, list[Run]] = {}
    for enclosure_id, runs in things.runs_into.items():
        arriving = [run for run in runs if run.id not in things.leads and _is_live(things, network, run, reached)]
        if arriving:
            found[enclosure_id] = arriving
    return found


def _is_live(things: LookUps, network: Network, run: Run, reached: dict[Node, str]) -> bool:
    """Tell whether the near end of a run is live by another way than over the run itself."""
    edges = [edge for node in reached for edge in network.at[node] if edge.id == run.id and edge.kind == "conductor"]
    return any(edge.a in reached and reached[edge.a] != run.id for edge in edges)


def _first_reached(things: LookUps, network: Network, scenario: Scenario) -> dict[Node, str]:
    """Return the live nodes, each with the id of the thing over which it was reached first, outward from the sources."""
    starts = [Node(source, leg) for source in sorted(scenario.sources_on & things.sources.keys()) for leg in LEGS]
    reached = {node: "" for node in starts if node in network.at}
    waiting = deque(reached)
    while waiting:
        node = waiting.popleft()
        for edge in network.at[node]:
            if edge.kind in CARRYING and edge.list != "conductors" and scenario.closes(edge):
                other = edge.b if edge.a == node else edge.a
                if other not in reached:
                    reached[other] = edge.id
                    waiting.append(other)
    return reached
