"""The circuit of a site: branches between nodes of its network, each with its impedance and the thing that it is."""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import dataclass, field

from nelvor.topology.network import Node

Volts = complex
Amperes = complex
Ohms = complex


@dataclass(frozen=True)
class Coupling:
    """The other winding of a transformer: its nodes, and how many of its volts make one here."""

    p: int
    q: int
    ratio: float


@dataclass(frozen=True)
class Branch:
    """An impedance between two nodes, in series with a source of volts from ``b`` to ``a`` (0 for none).

    A branch that is ``coupled`` is the winding of a transformer: the volts of the other one, by the ratio, are in series too.

    ``list`` and ``id`` name its thing, ``role`` what it is of it: a leg, neutral, ground, metal, bond, electrode, load.
    ``rated_v`` are the volts at which a load draws its power; 0 of all else.
    """

    a: int
    b: int
    ohms: Ohms
    list: str
    id: str
    role: str
    emf: Volts = 0j
    coupled: Coupling | None = None
    rated_v: float = 0.0


@dataclass
class Circuit:
    """Branches between numbered nodes. ``assumed`` are the figures that nobody entered, in words."""

    nodes: dict[Hashable, int] = field(default_factory=dict)
    branches: list[Branch] = field(default_factory=list)
    assumed: dict[str, None] = field(default_factory=dict)

    def number(self, node: Node) -> int:
        """Return the number of a node, a new one where it has none yet."""
        return self.nodes.setdefault(node, len(self.nodes))

    def join(self, a: Node, b: Node, ohms: Ohms, list_name: str, thing_id: str, role: str, emf: Volts = 0j) -> None:
        """Add a branch between two nodes."""
        if a != b:
            self.branches.append(Branch(self.number(a), self.number(b), ohms, list_name, thing_id, role, emf))

    def put_load(self, a: Node, b: Node, va: float, volts: float, load_id: str) -> None:
        """Add a load that draws so many VA at so many volts."""
        ohms = complex(volts**2 / va)
        self.branches.append(Branch(self.number(a), self.number(b), ohms, "loads", load_id, "load", rated_v=volts))

    def couple(
        self, ends: tuple[Node, Node], other: tuple[Node, Node], ratio: float, ohms: Ohms, thing_id: str
    ) -> None:
        """Add the winding of a transformer between two nodes, with the other one and its impedance seen from here."""
        coupling = Coupling(self.number(other[0]), self.number(other[1]), ratio)
        a, b = (self.number(node) for node in ends)
        self.branches.append(Branch(a, b, ohms, "transformers", thing_id, "winding", coupled=coupling))

    def assume(self, words: str) -> None:
        """Take down a figure that is assumed."""
        self.assumed[words] = None
