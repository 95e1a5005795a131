"""The count: in every scenario each live system meets the load-side metal that its lines enter exactly once.

None: fault current has no way home. Two: metal carries neutral current. Screws do not move with the handle, so a bond
that one scenario needs and another forbids means that the gear must change. A relay closes in its scenarios only.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field

from nelvor.judges.bonds.answer import BondAnswer
from nelvor.judges.verdict import Judge, Verdict
from nelvor.model.resolve import State
from nelvor.rulebook.rules import Rules
from nelvor.topology.grounded import GroundedSystem, Join, joins_of, metal_net, systems_in
from nelvor.topology.names import name_of, thing_name
from nelvor.topology.network import METAL, Edge, Node
from nelvor.topology.scenario import Scenario, scenarios
from nelvor.topology.site import Site

EACH_ITS_OWN = frozenset({"bond", "existing_three_wire", "derived_bond"})
SAID_OF_BONDS = frozenset({"bond", "other_neutral", "neutral_missing", "ground_missing", "jumper_missing"})
SAID_OF_PATHS = frozenset({"ground_missing", "jumper_missing", "metal_path", "ground_bar"})


def count_verdicts(
    site: Site, rules: Rules, state: State, bonds: Mapping[str, BondAnswer], so_far: Iterable[Verdict]
) -> list[Verdict]:
    """Return what the count of bonds finds that no enclosure's own judgement has said already.

    A site with one source and no transformer has one system in one scenario: what its enclosures say is the count.
    """
    document = site.document
    if len(document.sources) < 2 and not document.transfers and not document.transformers:
        return []
    counting = _Counting(site, rules, bonds, _said(so_far))
    for scenario in scenarios(site, state):
        for system in systems_in(site, scenario):
            counting.count(scenario, system)
    return list(counting.found.values())


def bonds_in(site: Site, rules: Rules, bonds: Mapping[str, BondAnswer], scenario: Scenario) -> Iterator[SystemBonds]:
    """Yield, for each grounded system that is live in a scenario, the enclosures in which its neutral meets metal."""
    counting = _Counting(site, rules, bonds, {})
    for system in systems_in(site, scenario):
        yield SystemBonds(system.sources, tuple(counting.places(scenario, system)))


@dataclass(frozen=True)
class SystemBonds:
    """A live grounded system by its sources, and the enclosures of its bonds."""

    sources: tuple[str, ...]
    places: tuple[str, ...]


def _said(verdicts: Iterable[Verdict]) -> dict[str, set[str]]:
    said: dict[str, set[str]] = {}
    for item in verdicts:
        if item.outcome in ("must_fix", "cannot_tell"):
            said.setdefault(item.id, set()).add(item.code)
    return said


@dataclass
class _Counting:
    """Counts system by system; ``found`` holds each finding once, for the first scenario that shows it."""

    site: Site
    rules: Rules
    bonds: Mapping[str, BondAnswer]
    said: Mapping[str, set[str]]
    found: dict[tuple[str, str], Verdict] = field(default_factory=dict)

    def count(self, scenario: Scenario, system: GroundedSystem) -> None:
        """Count the bonds of one live system."""
        entered = [item for item in self._entered(system) if item not in self._ahead]
        if not entered or any(self.bonds[item].decision == "unknown" for item in entered):
            return
        joins = [join for join in self.joins(scenario, system) if self._owner(join.metal.part) not in self._ahead]
        metals = list(self._metals(entered))
        bonded = [self._places(joins, metal, doubtful=False) for metal, _ in metals]
        possible = [self._places(joins, metal, doubtful=True) for metal, _ in metals]
        lacking = [boxes for maybe, (_, boxes) in zip(possible, metals, strict=True) if not maybe]
        lacking = [boxes for boxes in lacking if not self._over_supply_side(system, boxes[0])]
        if len(lacking) == len(metals):
            self._none(scenario, system, entered)
            return
        for boxes in lacking:
            self._no_path(scenario, system, boxes)
        for places in bonded:
            if len(places) > 1:
                self._two(scenario, system, places)

    def joins(self, scenario: Scenario, system: GroundedSystem) -> list[Join]:
        """Return where the neutral of a system meets metal, relays as they stand in the scenario."""
        islanded = not any(self.site.sources[item].kind == "utility" for item in self._on(system, scenario))
        return list(joins_of(self.site.network, system.neutral, lambda edge: self._closed(edge, islanded, scenario)))

    def places(self, scenario: Scenario, system: GroundedSystem) -> list[str]:
        """Return the enclosures in which the neutral of a system surely meets metal."""
        return sorted({self._owner(join.metal.part) for join in self.joins(scenario, system) if join.made})

    # -- what the lines enter ------------------------------------------------------------------

    @property
    def _ahead(self) -> frozenset[str]:
        """What lies ahead of the service disconnect: its bonds are no second bonds."""
        return frozenset(item for item, bond in self.bonds.items() if bond.decision == "supply_side")

    def _over_supply_side(self, system: GroundedSystem, box: str) -> bool:
        """Another source's circuit that lands ahead of the service disconnect has the bond there as its own."""
        metal = metal_net(self.site.network, Node(box, METAL), frozenset(), self._owner)
        joins = joins_of(self.site.network, system.neutral, lambda _: True)
        return any(join.made is not False and join.metal in metal for join in joins)

    def _entered(self, system: GroundedSystem) -> list[str]:
        owners = {self._owner(node.part) for node in system.lines}
        return [item for item in self.bonds if item in owners]

    def _owner(self, part: str) -> str:
        return self.site.owners.get(part, part)

    def _on(self, system: GroundedSystem, scenario: Scenario) -> list[str]:
        return [item for item in system.sources if item in self.site.sources and item in scenario.sources_on]

    def _closed(self, edge: Edge, islanded: bool, scenario: Scenario) -> bool:
        if edge.kind != "bond":
            return True
        if edge.list == "sources":  # the relay in a source: closed always, or while nothing feeds its input
            always = self.site.sources[edge.id].relay == "always_closed"
            return always or (edge.id in scenario.sources_on and edge.id not in scenario.passing)
        bond = next(item for item in self.site.document.bonds if item.id == edge.id)
        return bond.kind != "relay" or not bond.closes_when_islanded or islanded

    def _metals(self, entered: list[str]) -> Iterator[tuple[frozenset[Node], list[str]]]:
        """The connected parts of the metal that the lines enter, each with its enclosures."""
        left = list(entered)
        while left:
            metal = metal_net(self.site.network, Node(left[0], METAL), self._ahead, self._owner)
            boxes = [item for item in left if Node(item, METAL) in metal]
            yield metal, boxes
            left = [item for item in left if item not in boxes]

    def _places(self, joins: list[Join], metal: frozenset[Node], doubtful: bool) -> list[str]:
        """The enclosures in which the neutral meets this metal."""
        made = [join for join in joins if join.metal in metal and (join.made or (doubtful and join.made is None))]
        return sorted({self._owner(join.metal.part) for join in made})

    # -- findings ------------------------------------------------------------------------------

    def _none(self, scenario: Scenario, system: GroundedSystem, entered: list[str]) -> None:
        inside = {self._owner(node.part) for node in system.neutral}
        if any(self._is_said(item, SAID_OF_BONDS) for item in (*inside, *entered)):
            return
        text = (
            f"{self._when(scenario)}, the neutral of {self._named(system)} meets the metal nowhere: a fault would never "
            "trip a breaker."
        )
        self._find("no_bond", self._first(system), text, "effective_fault_path")

    def _two(self, scenario: Scenario, system: GroundedSystem, places: list[str]) -> None:
        beside = [item for item in places if self.bonds[item].decision not in EACH_ITS_OWN]
        if not beside or any(self._is_said(item, SAID_OF_BONDS) for item in places):
            return
        names = " and at ".join(name_of(self.site, item) for item in places)
        text = (
            f"{self._when(scenario)}, the neutral of {self._named(system)} meets the metal at {names}: metal carries neutral "
            "current. The screws do not move with the handle, so the gear must open the neutral, or one of them comes out."
        )
        self._find("second_bond", beside[-1], text, "load_side_neutral_ground")

    def _no_path(self, scenario: Scenario, system: GroundedSystem, boxes: list[str]) -> None:
        for box in boxes:
            if self._is_said(box, SAID_OF_PATHS):
                continue
            text = (
                f"{self._when(scenario)}, nothing joins the metal of {name_of(self.site, box)} to the bond of "
                f"{self._named(system)}: a fault to it would stay live. Bring a grounding conductor along."
            )
            self._find("ground_missing", box, text, "effective_fault_path")

    def _is_said(self, thing_id: str, codes: frozenset[str]) -> bool:
        return bool(self.said.get(thing_id, set()) & codes)

    def _find(self, code: str, enclosure_id: str, text: str, clause: str) -> None:
        judge = Judge(self.rules, "enclosures", enclosure_id)
        judge.must_fix(code, text, clause)
        self.found.setdefault((code, enclosure_id), judge.verdicts[0])

    def _first(self, system: GroundedSystem) -> str:
        """The enclosure in which a system begins, or the first that its lines enter."""
        own = [self._owner(item) for item in system.sources]
        return next((item for item in (*own, *self._entered(system)) if item in self.bonds), next(iter(self.bonds)))

    def _named(self, system: GroundedSystem) -> str:
        return " and ".join(thing_name(self.site, item) for item in system.sources)

    def _when(self, scenario: Scenario) -> str:
        """The scenario in words: the positions of the gear, and the utility where it is away."""
        throws = {throw.id: throw for throw in self.site.document.throws}
        parts = [
            f"{thing_name(self.site, gear)} on {throws[throw].name or thing_name(self.site, throws[throw].part)}"
            for gear, throw in scenario.positions
            if throw in throws
        ]
        utilities = [item.id for item in self.site.document.sources if item.kind == "utility"]
        away = ["the utility away"] if utilities and not scenario.sources_on & {*utilities} else []
        words = [*parts, *away]
        return f"With {', '.join(words)}" if words else "With every source on"
