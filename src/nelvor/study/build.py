"""Builds the circuit of a site in a position of its gear and a situation: conductors, contacts, bonds, earth, loads, sources."""

from __future__ import annotations

from cmath import exp, pi

from nelvor.clauses.calculated_load import LevelLoad
from nelvor.clauses.load_kind import EVEN_ON, LoadKind, kind_of
from nelvor.errors import CannotCompute, MissingInput
from nelvor.judges.level_loads import LevelLoads
from nelvor.judges.run import RunAnswer
from nelvor.model.things import Electrode, Load, MetalPath, Source, Transformer
from nelvor.model.voltages import LINE_TO_LINE_V, LINE_TO_NEUTRAL_V, THREE_PHASE, legs_of
from nelvor.rulebook.rules import Rules
from nelvor.study.branches import Circuit, Ohms, Volts
from nelvor.study.impedances import (
    BOND,
    COMMON_LEAKAGE,
    CONTACT,
    HALF_LEAKAGE,
    METAL_PATH_OHMS,
    UTILITY_GROUND_OHMS,
    conductor_ohms,
    electrode_ohms,
    raceway_ohms,
    source_ohms,
    transformer_ohms,
)
from nelvor.study.situation import AT_A_BOX, Situation
from nelvor.topology.names import name_of, run_name, thing_name
from nelvor.topology.network import EARTH, METAL, NEUTRAL, Edge, Node, forms_neutral, secondary_bar
from nelvor.topology.scenario import Scenario
from nelvor.topology.site import Site

EARTH_NODE = Node(EARTH, EARTH)
SPLIT = "split_120_240"
TIGHT = frozenset({"device", "bus", "switch", "neutral_tie", "frame", "bar_on_metal"})
NOT_STUDIED_SIZES = frozenset({"utility", "cord", "leads"})
COUNTED_VA = {"lighting_area": 3.0, "small_appliance": 1500.0, "laundry": 1500.0}
"""What one square foot or one circuit of a dwelling counts for, in VA."""


class Builder:
    """Walks the network of a site and adds a branch for each edge that conducts."""

    def __init__(
        self,
        site: Site,
        rules: Rules,
        answers: dict[str, RunAnswer],
        levels: LevelLoads,
        scenario: Scenario,
        situation: Situation,
    ) -> None:
        self.site = site
        self.rules = rules
        self.answers = answers
        self.levels = levels
        self.scenario = scenario
        self.situation = situation
        self.circuit = Circuit()
        self.conductors = {item.id: item for item in site.document.conductors}
        self.windings: dict[str, dict[str, tuple[Node, Node]]] = {}
        self.electrodes = {item.id: item for item in site.document.electrodes}

    def built(self) -> Circuit:
        """Return the circuit with the fault of its situation, through the stated ohms; raises as ``without_fault``."""
        self.without_fault()
        ends = self.fault_ends()
        if ends is not None:
            self.join_fault(*ends, self.situation.fault_ohms)
        return self.circuit

    def without_fault(self) -> Circuit:
        """Return the circuit without the fault of its situation.

        Raises:
            MissingInput, CannotCompute, MissingFigure: something that it rests on is not known or not studied.
        """
        for edge in self.site.network.edges:
            self._edge(edge)
        for transformer in self.site.document.transformers:
            self._transformer(transformer)
        for source in self.site.document.sources:
            self._source(source)
        drawn = [item for item in self.site.document.loads if item.enclosure_id in self.site.enclosures]
        share = self._share(drawn)
        for load in drawn:
            if load.id not in self.situation.loads_off:
                self._load(load, share)
        return self.circuit

    # -- what is drawn -------------------------------------------------------------------------

    def _edge(self, edge: Edge) -> None:
        if edge.kind in TIGHT:
            if edge.made is not False and self.scenario.closes(edge):
                self._join(edge, CONTACT, edge.a.pole or edge.kind)
            return
        add = {
            "conductor": self._conductor,
            "raceway": self._raceway,
            "electrode": self._electrode,
            "bond": self._bond,
            "metal_path": self._metal_path,
            "winding": self._winding,
            "shared_winding": self._winding,
        }.get(edge.kind)
        if add is not None:
            add(edge)

    def _raceway(self, edge: Edge) -> None:
        self._join(edge, raceway_ohms(self.circuit, self.site.runs[edge.id]), "raceway")

    def _electrode(self, edge: Edge) -> None:
        played = self.situation.electrode_ohms.get(edge.id)
        ohms = self._as_found(self.electrodes[edge.id]) if played is None else complex(played)
        self._join(edge, ohms, "electrode")

    def _as_found(self, electrode: Electrode) -> Ohms:
        return electrode_ohms(self.circuit, electrode, self.situation.soil_ohm_m)

    def _bond(self, edge: Edge) -> None:
        if self._bond_is_made(edge):
            self._join(edge, BOND, "bond")

    def _metal_path(self, edge: Edge) -> None:
        path = self.site.by_id[edge.id][1]
        assert isinstance(path, MetalPath)  # an edge of the metal paths
        if path.continuous:
            self._join(edge, complex(path.resistance_ohm or METAL_PATH_OHMS), "metal")

    def _winding(self, edge: Edge) -> None:
        self.windings.setdefault(edge.id, {})[edge.a.pole] = (edge.a, edge.b)

    def _transformer(self, transformer: Transformer) -> None:
        """Add the windings of a transformer: each leg of its secondary from a pair of primary lines."""
        if forms_neutral(self.site, transformer):
            self._halves(transformer)
            return
        ends = self.windings.get(transformer.id, {})
        name, system = thing_name(self.site, transformer.id), transformer.secondary_system
        if transformer.isolating is False:
            raise CannotCompute(f"{name} joins both its sides; it is not studied yet.", "Study a site without it.")
        primary = LINE_TO_LINE_V.get(self.site.system_at(transformer.enclosure_id) or "")
        bar = secondary_bar(self.site, transformer)
        if system not in LINE_TO_NEUTRAL_V or primary is None or bar is None:
            raise MissingInput(transformer.id, "secondary_system", f"What {name} gives")
        if not {leg for pair in pairs_of(system).values() for leg in pair} <= ends.keys():
            raise MissingInput(transformer.id, "primary_part", f"The lines that come to {name}")
        lines = {leg: primary_end for leg, (primary_end, _) in ends.items()}
        ohms = transformer_ohms(transformer, system)
        if system not in THREE_PHASE:
            # One primary for both halves: part of what leaks is common to them.
            core = Node(transformer.id, "core")
            common = ohms * COMMON_LEAKAGE * (primary / LINE_TO_LINE_V[system]) ** 2
            self.circuit.join(lines["L1"], core, common, "transformers", transformer.id, "core")
            lines["L1"], ohms = core, ohms * HALF_LEAKAGE
        for leg, (one, other) in pairs_of(system).items():
            ratio = primary / LINE_TO_NEUTRAL_V[system]
            pair = (lines[one], lines[other])
            self.circuit.couple((ends[leg][1], Node(bar, NEUTRAL)), pair, ratio, ohms, transformer.id)

    def _halves(self, transformer: Transformer) -> None:
        """Add the halves of a winding between two lines, from the middle of which a neutral leaves."""
        lines = [Node(transformer.primary_part, leg) for leg in ("L1", "L2")]
        if not all(line in self.site.network.at for line in lines):
            raise MissingInput(
                transformer.id, "primary_part", f"The lines that come to {thing_name(self.site, transformer.id)}"
            )
        middle = Node(transformer.secondary_part, NEUTRAL)
        ohms = transformer_ohms(transformer, SPLIT) * HALF_LEAKAGE
        self.circuit.couple((lines[0], middle), (middle, lines[1]), 1.0, ohms, transformer.id)

    def _join(self, edge: Edge, ohms: complex, role: str) -> None:
        self.circuit.join(edge.a, edge.b, ohms, edge.list, edge.id, role)

    def _conductor(self, edge: Edge) -> None:
        run_id = edge.id if edge.list == "runs" else self.conductors[edge.id].run_id
        answer = self.answers[run_id]
        role = edge.a.pole if edge.list == "runs" else self.conductors[edge.id].role
        opened = {"neutral_open": "neutral", "ground_open": "ground"}.get(self.situation.kind)
        if role == opened and run_id == self.situation.place:
            return
        if answer.kind in NOT_STUDIED_SIZES:
            ohms = CONTACT
            if answer.kind == "utility":
                self.circuit.assume("the utility's own wires are counted with its transformer")
            else:
                self.circuit.assume("cords, and leads of a box of switches, have no length")
        else:
            ohms = conductor_ohms(self.rules, answer, role)
            if answer.unread:
                self.circuit.assume(
                    f"{run_name(self.site, answer.run)}: the least sizes that would do, where none is read"
                )
        self.circuit.join(edge.a, edge.b, ohms or CONTACT, "runs", run_id, role)

    def _bond_is_made(self, edge: Edge) -> bool:
        if edge.list == "sources":  # a relay in a source that power passes through
            always = self.site.sources[edge.id].relay == "always_closed"
            return always or (edge.id in self.scenario.sources_on and edge.id not in self.scenario.passing)
        if edge.id in self.situation.bonds:
            return self.situation.bonds[edge.id]
        if edge.made is None:
            self.circuit.assume("bonds that nobody looked at are open")
        return edge.made is True

    # -- sources and loads ---------------------------------------------------------------------

    def _source(self, source: Source) -> None:
        beside = source.interactive and not source.forms_supply
        if source.id not in self.scenario.sources_on or beside or source.id in self.scenario.passing:
            return
        owner = self.site.owners[source.id]
        system = source.system or self.site.system_at(owner)
        if system not in LINE_TO_NEUTRAL_V or system not in LINE_TO_LINE_V:
            raise MissingInput(source.id, "system", f"The system of {name_of(self.site, source.id)}")
        fault = self.situation.kind in AT_A_BOX
        ohms, neutral = source_ohms(self.circuit, source, system, into_a_fault=fault), Node(source.id, NEUTRAL)
        if source.kind == "utility" and system == SPLIT:
            self._split_utility(source, neutral, ohms * 2)
        else:
            for leg, volts in phasors(system).items():
                self.circuit.join(Node(source.id, leg), neutral, ohms, "sources", source.id, leg, volts)
        if source.kind == "utility":
            self.circuit.assume(f"the utility's own grounds at {UTILITY_GROUND_OHMS:g} Ω")
            self.circuit.join(neutral, EARTH_NODE, complex(UTILITY_GROUND_OHMS), "sources", source.id, "electrode")

    def _share(self, loads: list[Load]) -> float:
        """How much of the stated power is on: the calculated load of the site, as a share of all of it."""
        stated = sum(self._va(load, kind) for load in loads if (kind := self._kind(load)) is not None)
        calculated = max(
            (float(level.demand_va.number) for level in self.levels.values() if isinstance(level, LevelLoad)),
            default=0.0,
        )
        if self.situation.use == "stated" or not stated or not calculated:
            return 1.0
        return min(1.0, calculated / stated)

    def _kind(self, load: Load) -> LoadKind | None:
        system = self.site.system_at(load.enclosure_id)
        if system not in LINE_TO_LINE_V:
            return None
        brought = self.site.legs_at[load.enclosure_id]
        return kind_of(load, system, self.rules, brought, self.site.connection_of(load))

    def _split_utility(self, source: Source, neutral: Node, between_lines: complex) -> None:
        """The utility's transformer: one primary, and a secondary tapped in its middle; a half leaks less than the whole."""
        core = (Node(source.id, "core"), Node(source.id, "core end"))
        whole = float(LINE_TO_LINE_V[SPLIT])
        self.circuit.join(*core, between_lines * COMMON_LEAKAGE, "sources", source.id, "core", complex(whole))
        for leg, ends in (("L1", core), ("L2", core[::-1])):
            half = between_lines * HALF_LEAKAGE
            self.circuit.couple((Node(source.id, leg), neutral), (ends[0], ends[1]), 2.0, half, source.id)

    def _load(self, load: Load, share_on: float) -> None:
        kind, system = self._kind(load), self.site.system_at(load.enclosure_id) or ""
        va = self._va(load, kind) * share_on if kind is not None else 0.0
        if kind is None or va <= 0:
            return
        neutral = self.neutral_at(load.enclosure_id)
        at = {leg: self._line_at(load, leg) for leg in legs_of(system)}
        for one, other, share in shares(kind.connection, system):
            ends = (at[one], neutral if other == "N" else at[other])
            if None in ends:
                continue
            volts = LINE_TO_NEUTRAL_V[system] if other == "N" else LINE_TO_LINE_V[system]
            a, b = ends[0], ends[1]
            assert a is not None and b is not None  # just looked at
            self.circuit.put_load(a, b, va * share, float(volts), load.id)

    def _va(self, load: Load, kind: LoadKind) -> float:
        each = float(kind.each) * load.quantity
        if kind.category not in COUNTED_VA:
            return each
        if load.dwelling_unit_id is None:
            self.circuit.assume(f"{load.name or load.id} is left out: its lighting goes by area")
            return 0.0
        return each * COUNTED_VA[kind.category]

    def _line_at(self, load: Load, leg: str) -> Node | None:
        device = self.site.devices.get(load.device_id or "")
        if device is not None:
            return Node(device.id, leg, "load")
        buses = self.site.buses_in.get(load.enclosure_id, [])
        return Node(buses[0].id if len(buses) == 1 else load.enclosure_id, leg)

    def neutral_at(self, enclosure_id: str) -> Node | None:
        """Return the neutral bar of an enclosure, None where it has none."""
        bars = self.site.bars_in.get(enclosure_id, [])
        return next((Node(bar.id, NEUTRAL) for bar in bars if bar.kind == "neutral"), None)

    # -- the situation -------------------------------------------------------------------------

    def fault_ends(self) -> tuple[Node, Node] | None:
        """Return what the fault of the situation joins, None where there is none.

        Raises:
            CannotCompute: the line does not reach its place, or there is no neutral.
        """
        situation = self.situation
        if situation.kind not in AT_A_BOX:
            return None
        return self.line_in(situation.place or "", situation.leg), self._other_end(situation)

    def join_fault(self, line: Node, other: Node, ohms: float) -> None:
        """Add the fault to the circuit."""
        self.circuit.join(line, other, complex(ohms), "faults", "fault", "fault")

    def _other_end(self, situation: Situation) -> Node:
        place = situation.place or ""
        if situation.kind == "ground_fault":
            return Node(place, METAL)
        if situation.kind == "line_to_neutral":
            neutral = self.neutral_at(place)
            if neutral is None:
                raise CannotCompute(f"{name_of(self.site, place)} has no neutral bar.", "Choose another place.")
            return neutral
        return self.line_in(place, next(leg for leg in ("L1", "L2") if leg != situation.leg))

    def line_in(self, enclosure_id: str, leg: str) -> Node:
        """A point of the line in an enclosure: on its bus, else where a run ends there."""
        buses = self.site.buses_in.get(enclosure_id, [])
        wanted = Node(buses[0].id if len(buses) == 1 else enclosure_id, leg)
        if wanted in self.circuit.nodes:
            return wanted
        own = (node for node in self.circuit.nodes if isinstance(node, Node) and node.pole == leg)
        found = sorted(node for node in own if self.site.owners.get(node.part) == enclosure_id)
        if not found:
            raise CannotCompute(
                f"Line {leg} does not reach {name_of(self.site, enclosure_id)}.", "Choose another line or place."
            )
        return found[0]


def pairs_of(system: str) -> dict[str, tuple[str, str]]:
    """Return the primary lines that each leg of a secondary is wound from: halves of one winding, or three of a delta."""
    if system in THREE_PHASE:
        return {"L1": ("L1", "L2"), "L2": ("L2", "L3"), "L3": ("L3", "L1")}
    return {"L1": ("L1", "L2"), "L2": ("L2", "L1")}


def phasors(system: str) -> dict[str, Volts]:
    """Return the volts to neutral of each leg as phasors."""
    volts = LINE_TO_NEUTRAL_V[system]
    turn = 2 * pi / 3 if system in THREE_PHASE else pi
    return {leg: volts * exp(-1j * turn * number) for number, leg in enumerate(legs_of(system))}


def shares(connection: str, system: str) -> list[tuple[str, str, float]]:
    """Return between which legs ("N": neutral) a load of this connection lies, and its share on each pair."""
    legs = legs_of(system)
    if connection.endswith("-N"):
        return [(connection.removesuffix("-N"), "N", 1.0)]
    if connection == "even" or connection.startswith(EVEN_ON):
        on = legs if connection == "even" else tuple(connection.removeprefix(EVEN_ON).split(","))
        return [(leg, "N", 1 / len(on)) for leg in on]
    if connection in ("three_phase", "even_line_to_line"):
        pairs = [(one, other) for one, other in (("L1", "L2"), ("L2", "L3"), ("L1", "L3")) if other in legs]
        return [(one, other, 1 / len(pairs)) for one, other in pairs]
    one, other = connection.split("-")
    return [(one, other, 1.0)]
