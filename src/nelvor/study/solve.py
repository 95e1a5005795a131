"""Solves a circuit by its nodes: what hangs on a source, its volts, the currents of its branches, and the proof.

Parts that no source reaches float and are told, never given volts that nobody made. The residual of Kirchhoff's law and
the balance of power are part of the answer.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_matrix
from scipy.sparse.linalg import splu

from nelvor.errors import CannotCompute
from nelvor.study.branches import Amperes, Branch, Circuit, Ohms, Volts
from nelvor.study.build import EARTH_NODE

LARGEST_RESIDUAL = 1e-6
LEAST_POWER_VA = 1.0


@dataclass(frozen=True)
class Solved:
    """Volts of nodes against earth and currents of branches from ``a`` to ``b``; nodes that float have no volts.

    ``without_earth``: nothing joins the circuit to earth, and volts are told against the neutral of its first source.
    ``residual_a`` is the largest current that Kirchhoff's law leaves over, ``imbalance`` the share of power not accounted for.
    """

    circuit: Circuit
    volts: dict[int, Volts]
    currents: list[Amperes]
    without_earth: bool
    residual_a: float
    imbalance: float


def solve(circuit: Circuit) -> Solved:
    """Return volts and currents of a circuit.

    Raises:
        CannotCompute: nothing in it is live, or the solution does not prove itself.
    """
    live = connected(circuit)
    if not live:
        raise CannotCompute("No source is on in this position.", "Choose another position, or draw a source.")
    earth = circuit.nodes.get(EARTH_NODE)
    without_earth = earth not in live
    fixed = references(circuit, live, earth)
    volts = Nodal(circuit, live, fixed).volts()
    currents = [_current(branch, volts) for branch in circuit.branches]
    residual = _residual(circuit, currents, fixed)
    imbalance = _imbalance(circuit, volts, currents)
    scale = max((abs(item) for item in currents), default=0.0)
    if residual > LARGEST_RESIDUAL * max(scale, 1.0):
        raise CannotCompute(f"The circuit did not solve: {residual:.3g} A are left over.", "Report this site.")
    return Solved(circuit, volts, currents, without_earth, residual, imbalance)


def connected(circuit: Circuit) -> set[int]:
    """Return the nodes that hang together with a source."""
    beside = _beside(circuit)
    live: set[int] = set()
    for branch in circuit.branches:
        if branch.emf:
            _reach(branch.a, beside, live)
    behind_windings = [branch for branch in circuit.branches if branch.coupled is not None]
    while new := [item for item in behind_windings if item.coupled and item.coupled.p in live and item.a not in live]:
        for branch in new:
            _reach(branch.a, beside, live)
    return live


def _beside(circuit: Circuit) -> dict[int, list[int]]:
    """The nodes beside each node."""
    found: dict[int, list[int]] = defaultdict(list)
    for branch in circuit.branches:
        found[branch.a].append(branch.b)
        found[branch.b].append(branch.a)
    return found


def _reach(start: int, beside: dict[int, list[int]], seen: set[int]) -> None:
    """Add to those seen all nodes that hang together with a start."""
    stack = [start]
    while stack:
        node = stack.pop()
        if node not in seen:
            seen.add(node)
            stack += beside[node]


def references(circuit: Circuit, live: set[int], earth: int | None) -> set[int]:
    """Return one node of each part that hangs together: earth where it belongs to it, else the neutral of a source."""
    beside, chosen, seen = _beside(circuit), set(), set[int]()
    starts = [
        *([earth] if earth is not None and earth in live else []),
        *(item.b for item in circuit.branches if item.emf),
        *(item.b for item in circuit.branches if item.coupled is not None and item.b in live),
    ]
    for start in starts:
        if start not in seen:
            chosen.add(start)
            _reach(start, beside, seen)
    return chosen


def shares_of(branch: Branch) -> list[tuple[int, float]]:
    """How the volts of each node drive the current of a branch, and how that current leaves each node."""
    found = [(branch.a, 1.0), (branch.b, -1.0)]
    if branch.coupled is not None:
        found += [(branch.coupled.p, -1 / branch.coupled.ratio), (branch.coupled.q, 1 / branch.coupled.ratio)]
    return found


class Nodal:
    """The nodal equations of the live part of a circuit, factorised once."""

    def __init__(self, circuit: Circuit, live: set[int], fixed: set[int]) -> None:
        self.fixed = fixed
        self.order = {node: at for at, node in enumerate(sorted(live - fixed))}
        self.numbers = np.array(list(self.order), dtype=int)
        self.injected = np.zeros(len(self.order), dtype=complex)
        rows, columns, values = [], [], []
        for branch in circuit.branches:
            if branch.a not in live or branch.b not in live:
                continue
            admittance = 1 / complex(branch.ohms)
            # What the current of the branch takes from each node, and what each node's volts add to it.
            shares = shares_of(branch)
            for node, share in shares:
                at = self.order.get(node)
                if at is None:
                    continue
                self.injected[at] += share * branch.emf * admittance
                for other, weight in shares:
                    if other in self.order:
                        rows.append(at)
                        columns.append(self.order[other])
                        values.append(share * weight * admittance)
        size = len(self.order)
        self.factors = splu(coo_matrix((values, (rows, columns)), shape=(size, size)).tocsc()) if size else None

    def pushed_along(self, a: int, b: int, size: int) -> NDArray[np.complex128]:
        """Return what one ampere adds to the volts of every node, as an array by their numbers."""
        amperes = np.zeros(len(self.order), dtype=complex)
        for node, value in ((a, 1), (b, -1)):
            if node in self.order:
                amperes[self.order[node]] += value
        found = np.zeros(size, dtype=complex)
        if self.factors is not None:
            found[self.numbers] = self.factors.solve(amperes)
        return found

    def volts(self) -> dict[int, Volts]:
        """Return the volts of every node."""
        found = self.factors.solve(self.injected) if self.factors is not None else self.injected
        volts = dict.fromkeys(self.fixed, 0j)
        return volts | {node: complex(found[at]) for node, at in self.order.items()}

    def behind(self, a: int, b: int) -> Ohms:
        """Return the impedance that stands behind two nodes."""
        found = self.pushed_along(a, b, max(a, b, *self.order, 0) + 1)
        return complex(found[a] - found[b])


def fault_currents(circuit: Circuit, pairs: Sequence[tuple[int, int]]) -> list[float | None]:
    """Return the current of a bolted fault between each of these pairs of nodes, None where one is not live.

    Raises:
        CannotCompute: no source is on.
    """
    live = connected(circuit)
    if not live:
        raise CannotCompute("No source is on in this position.", "Choose another position, or draw a source.")
    nodal = Nodal(circuit, live, references(circuit, live, circuit.nodes.get(EARTH_NODE)))
    volts = nodal.volts()
    return [
        abs((volts[a] - volts[b]) / nodal.behind(a, b)) if a in volts and b in volts and a != b else None
        for a, b in pairs
    ]


def _current(branch: Branch, volts: dict[int, Volts]) -> Amperes:
    shares = shares_of(branch)
    if any(node not in volts for node, _ in shares):
        return 0j
    return (sum(volts[node] * share for node, share in shares) - branch.emf) / branch.ohms


def _residual(circuit: Circuit, currents: list[Amperes], fixed: set[int]) -> float:
    left: dict[int, complex] = defaultdict(complex)
    for branch, current in zip(circuit.branches, currents, strict=True):
        for node, share in shares_of(branch):
            left[node] += share * current
    return max((abs(value) for node, value in left.items() if node not in fixed), default=0.0)


def _imbalance(circuit: Circuit, volts: dict[int, Volts], currents: list[Amperes]) -> float:
    given = lost = 0j
    for branch, current in zip(circuit.branches, currents, strict=True):
        given -= branch.emf * current.conjugate()
        lost += abs(current) ** 2 * branch.ohms
    return abs(given - lost) / max(abs(given), LEAST_POWER_VA)
