"""Solves a circuit by its nodes: what hangs on a source, its volts, the currents of its branches, and the proof.

With S telling how the volts of nodes drive the currents of branches, Y their admittances and e their sources, currents
are Y (S v - e), and Kirchhoff's law is Sᵀ Y S v = Sᵀ Y e. Parts that no source reaches float and are told, never given
volts that nobody made. What that law leaves over and the balance of power are part of the answer.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_matrix, dia_matrix
from scipy.sparse.csgraph import connected_components
from scipy.sparse.linalg import splu

from nelvor.errors import CannotCompute
from nelvor.study.branches import Amperes, Branch, Circuit, Volts
from nelvor.study.build import EARTH_NODE

LARGEST_RESIDUAL = 1e-6
LEAST_POWER_VA = 1.0
AT_A_TIME = 64
"""Right-hand sides that are solved together."""

Bools = NDArray[np.bool_]
Numbers = NDArray[np.int_]
Complexes = NDArray[np.complex128]


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
    nodal = Nodal(circuit)
    volts = nodal.volts()
    currents = nodal.currents(volts)
    residual = nodal.left_over(currents)
    if residual > LARGEST_RESIDUAL * max(float(np.abs(currents).max(initial=0.0)), 1.0):
        raise CannotCompute(f"The circuit did not solve: {residual:.3g} A are left over.", "Report this site.")
    live = np.flatnonzero(nodal.parts.live)
    return Solved(
        circuit,
        dict(zip(live.tolist(), volts[live].tolist(), strict=True)),
        currents.tolist(),
        circuit.nodes.get(EARTH_NODE) not in nodal.parts.live_nodes,
        residual,
        nodal.imbalance(currents),
    )


def fault_currents(nodal: Nodal, pairs: Sequence[tuple[int, int]]) -> list[float | None]:
    """Return the current of a bolted fault between each of these pairs of nodes, None where one is not live."""
    live = nodal.parts.live_nodes
    asked = [pair for pair in pairs if pair[0] != pair[1] and live.issuperset(pair)]
    a, b = (np.array([pair[end] for pair in asked], dtype=int) for end in (0, 1))
    volts = nodal.volts()
    found = np.abs((volts[a] - volts[b]) / nodal.behind(a, b)).tolist()
    by_pair = dict(zip(asked, found, strict=True))
    return [by_pair.get(pair) for pair in pairs]


def shares_of(branch: Branch) -> list[tuple[int, float]]:
    """How the volts of each node drive the current of a branch, and how that current leaves each node."""
    found = [(branch.a, 1.0), (branch.b, -1.0)]
    if branch.coupled is not None:
        found += [(branch.coupled.p, -1 / branch.coupled.ratio), (branch.coupled.q, 1 / branch.coupled.ratio)]
    return found


class Parts:
    """Which nodes of a circuit hang together, which of these parts a source reaches, and one node of each that is 0 V."""

    def __init__(self, circuit: Circuit) -> None:
        branches = circuit.branches
        self.a: Numbers = np.array([item.a for item in branches], dtype=int)
        self.b: Numbers = np.array([item.b for item in branches], dtype=int)
        self.emf: Complexes = np.array([item.emf for item in branches], dtype=complex)
        coupled = [(at, item.coupled) for at, item in enumerate(branches) if item.coupled is not None]
        self.windings: Numbers = np.array([at for at, _ in coupled], dtype=int)
        self.p: Numbers = np.array([item.p for _, item in coupled], dtype=int)
        self.q: Numbers = np.array([item.q for _, item in coupled], dtype=int)
        self.ratios = np.array([item.ratio for _, item in coupled], dtype=float)
        size = len(circuit.nodes)
        beside = coo_matrix((np.ones(len(branches)), (self.a, self.b)), shape=(size, size))
        number, self._of = connected_components(beside, directed=False)
        self._reached = self._reach(number)
        self.live: Bools = self._reached[self._of]
        self.fixed: Numbers = self._fixed(circuit.nodes.get(EARTH_NODE))

    @cached_property
    def live_nodes(self) -> frozenset[int]:
        """The nodes that a source reaches."""
        return frozenset(np.flatnonzero(self.live).tolist())

    def _reach(self, number: int) -> Bools:
        """Tell of each part whether a source reaches it: along branches, and through windings from either side."""
        reached: Bools = np.zeros(number, dtype=bool)
        reached[self._of[self.a[self.emf != 0]]] = True
        one, other = self._of[self.a[self.windings]], self._of[self.p]
        while (new := reached[one] != reached[other]).any():
            reached[one[new]] = reached[other[new]] = True
        return reached

    def _fixed(self, earth: int | None) -> Numbers:
        """One node of each live part: earth where it belongs to it, else the neutral of a source or of a winding."""
        starts = np.concatenate(
            [
                np.array([] if earth is None else [earth], dtype=int),
                self.b[self.emf != 0],
                self.b[self.windings],
                self.q,
            ]
        )
        starts = starts[self.live[starts]]
        chosen: Numbers = starts[np.unique(self._of[starts], return_index=True)[1]]
        return chosen


class Nodal:
    """The nodal equations of the live part of a circuit, factorised once.

    Raises:
        CannotCompute: no source is on.
    """

    def __init__(self, circuit: Circuit) -> None:
        self.parts = parts = Parts(circuit)
        if not parts.live.any():
            raise CannotCompute("No source is on in this position.", "Choose another position, or draw a source.")
        self._size = len(circuit.nodes)
        free = parts.live.copy()
        free[parts.fixed] = False
        self._free = np.flatnonzero(free)
        self._at = np.full(self._size, -1)
        self._at[self._free] = np.arange(len(self._free))
        self._ohms: Complexes = np.array([item.ohms for item in circuit.branches], dtype=complex)
        self._admittance = np.where(parts.live[parts.a], 1 / self._ohms, 0)
        self._shares = self._incidence()
        number = len(self._ohms)
        through = dia_matrix((self._admittance[None, :], [0]), shape=(number, number))
        self._factors = splu((self._shares.T @ (through @ self._shares)).tocsc()) if len(self._free) else None

    def _incidence(self) -> coo_matrix:
        """The matrix S, of the nodes that are free: as ``shares_of`` tells it branch by branch."""
        parts = self.parts
        every = np.arange(len(parts.a))
        rows = np.concatenate([every, every, parts.windings, parts.windings])
        nodes = np.concatenate([parts.a, parts.b, parts.p, parts.q])
        shares = np.concatenate([np.ones(len(every)), -np.ones(len(every)), -1 / parts.ratios, 1 / parts.ratios])
        columns = self._at[nodes]
        free = columns >= 0
        entries = (shares[free], (rows[free], columns[free]))
        return coo_matrix(entries, shape=(len(every), len(self._free))).tocsr()

    def _solved(self, injected: Complexes) -> Complexes:
        """Return the volts of every node, as columns where what is injected stands in columns."""
        found = np.zeros((self._size, *injected.shape[1:]), dtype=complex)
        if self._factors is not None:
            found[self._free] = self._factors.solve(injected)
        return found

    def volts(self) -> Complexes:
        """Return the volts of every node by its number; 0 of what floats."""
        return self._solved(self._shares.T @ (self._admittance * self.parts.emf))

    def currents(self, volts: Complexes) -> Complexes:
        """Return the current of every branch; none in what floats."""
        found: Complexes = self._admittance * (self._shares @ volts[self._free] - self.parts.emf)
        return found

    def pushed_along(self, a: Numbers, b: Numbers) -> Complexes:
        """Return what one ampere from each ``a`` to its ``b`` adds to the volts of every node: a column for each pair."""
        amperes = np.zeros((len(self._free), len(a)), dtype=complex)
        for nodes, value in ((a, 1), (b, -1)):
            own = self._at[nodes]
            amperes[own[own >= 0], np.flatnonzero(own >= 0)] += value
        return self._solved(amperes)

    def behind(self, a: Numbers, b: Numbers) -> Complexes:
        """Return the impedance that stands behind each pair of nodes."""
        found = np.zeros(len(a), dtype=complex)
        for start in range(0, len(a), AT_A_TIME):
            some = slice(start, start + AT_A_TIME)
            pushed = self.pushed_along(a[some], b[some])
            each = np.arange(pushed.shape[1])
            found[some] = pushed[a[some], each] - pushed[b[some], each]
        return found

    def left_over(self, currents: Complexes) -> float:
        """Return the largest current that Kirchhoff's law leaves over at a node, in A."""
        return float(np.abs(self._shares.T @ currents).max(initial=0.0))

    def imbalance(self, currents: Complexes) -> float:
        """Return the share of the power of the sources that is not accounted for."""
        given = -np.sum(self.parts.emf * currents.conj())
        lost = np.sum(np.abs(currents) ** 2 * self._ohms)
        return float(abs(given - lost) / max(abs(given), LEAST_POWER_VA))
