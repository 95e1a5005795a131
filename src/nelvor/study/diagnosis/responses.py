"""What every reading would show under every cause: one factorisation of the circuit, and its changes as small ranks of it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from nelvor.report.check import Report
from nelvor.study.branches import Circuit
from nelvor.study.build import Builder
from nelvor.study.diagnosis.causes import Cause, Change
from nelvor.study.diagnosis.observables import Key, Observable
from nelvor.study.situation import Situation
from nelvor.study.solve import Nodal, shares_of
from nelvor.topology.network import Edge
from nelvor.topology.scenario import Scenario

NO_BOND_OHMS = 1e6

Complexes = NDArray[np.complex128]
Reals = NDArray[np.float64]


def circuit_with_bonds(report: Report, scenario: Scenario, situation: Situation) -> Circuit:
    """Return the circuit in which a bond that is not made stands too, as a branch that lets next to nothing through.

    Raises:
        MissingInput, CannotCompute, MissingFigure: as the study.
    """
    builder = Builder(report.site, report.rules, report.runs, report.levels, scenario, situation)
    circuit = builder.without_fault()
    made = {branch.id for branch in circuit.branches if branch.role == "bond"}
    for edge in report.site.network.edges:
        if _is_no_bond(edge) and edge.id not in made:
            circuit.join(edge.a, edge.b, complex(NO_BOND_OHMS), "bonds", edge.id, "no bond")
    return circuit


def _is_no_bond(edge: Edge) -> bool:
    return edge.kind == "bond" and edge.list == "bonds"


class Responses:
    """Readings of a circuit under causes, alone and together."""

    def __init__(self, circuit: Circuit, seen: Sequence[Observable]) -> None:
        self._nodal = Nodal(circuit)
        self.live = self._nodal.parts.live_nodes
        self.seen = list(seen)
        self._size = len(circuit.nodes)
        self._rows, self._constants = self._functionals(circuit)
        self._volts = self._nodal.volts()
        self.base: Complexes = self._rows @ self._volts - self._constants
        self._columns: dict[tuple[int, int], Complexes] = {}
        self._effects: dict[Cause, _Effect] = {}
        self._fallen: dict[tuple[int, int, Key], Complexes] = {}
        self._counting: dict[Key, list[int]] = defaultdict(list)
        for at, item in enumerate(self.seen):
            for key in item.keys:
                self._counting[key].append(at)

    def _functionals(self, circuit: Circuit) -> tuple[Complexes, Complexes]:
        """Each reading as weights on the volts of nodes, and what is taken away from that."""
        rows = np.zeros((len(self.seen), self._size), dtype=complex)
        constants = np.zeros(len(self.seen), dtype=complex)
        for at, item in enumerate(self.seen):
            if item.nodes is not None:
                rows[at, item.nodes[0]] += 1
                rows[at, item.nodes[1]] -= 1
            for branch in circuit.branches:
                if (branch.list, branch.id, branch.role) in item.keys and branch.a in self.live:
                    for node, share in shares_of(branch):
                        rows[at, node] += share / branch.ohms
                    constants[at] += branch.emf / branch.ohms
        return rows, constants

    def _column(self, a: int, b: int) -> Complexes:
        """What one ampere from one node to another adds to the volts of all."""
        if (a, b) not in self._columns:
            self._columns[a, b] = self._nodal.pushed_along(np.array([a]), np.array([b]))[:, 0]
        return self._columns[a, b]

    def can_tell(self, cause: Cause) -> bool:
        """Tell whether all that a cause changes hangs on a source; what floats shows nothing."""
        nodes = {node for change in cause.changes for node in (change.a, change.b)}
        return nodes <= self.live and (not cause.outside_a or {cause.enters, cause.leaves} <= self.live)

    def of(self, *causes: Cause) -> Complexes:
        """Return every reading with these causes together.

        Woodbury: with U the ends of the changed branches and D their admittances, c solves (D⁻¹ + Uᵀ A⁻¹ U) c = Uᵀ x; the
        volts fall by A⁻¹ U c, and c is what flows in the changed branches besides.
        """
        effects = [self._effect(cause) for cause in causes]
        volts, readings = self._volts, self.base
        for effect in effects:
            if effect.outside is not None:
                volts = volts + effect.outside[0]
                readings = readings + effect.outside[1]
        touched = [effect for effect in effects if effect.changes]
        if not touched:
            return readings
        a = np.concatenate([effect.a for effect in touched])
        b = np.concatenate([effect.b for effect in touched])
        columns = np.hstack([effect.columns for effect in touched])
        admittance = np.concatenate([effect.admittance for effect in touched])
        flows = np.linalg.solve(np.diag(1 / admittance) + columns[a] - columns[b], volts[a] - volts[b])
        told: Complexes = readings - np.hstack([effect.falls for effect in touched]) @ flows
        return told

    def _effect(self, cause: Cause) -> _Effect:
        """What a cause changes, worked out once."""
        if cause not in self._effects:
            self._effects[cause] = self._worked_out(cause)
        return self._effects[cause]

    def _worked_out(self, cause: Cause) -> _Effect:
        outside = None
        if cause.outside_a:
            added = cause.outside_a * self._column(cause.enters, cause.leaves)
            outside = (added, self._rows @ added - cause.outside_a * self._counts(cause.through))
        columns = np.zeros((self._size, len(cause.changes)), dtype=complex)
        falls = np.zeros((len(self.seen), len(cause.changes)), dtype=complex)
        for at, change in enumerate(cause.changes):
            columns[:, at] = self._column(change.a, change.b)
            falls[:, at] = self._falls(change)
        return _Effect(
            changes=cause.changes,
            a=np.array([change.a for change in cause.changes], dtype=int),
            b=np.array([change.b for change in cause.changes], dtype=int),
            admittance=np.array([change.admittance for change in cause.changes], dtype=complex),
            columns=columns,
            falls=falls,
            outside=outside,
        )

    def _falls(self, change: Change) -> Complexes:
        """What one ampere through a change takes off every reading; strengths of one cause share it."""
        at = (change.a, change.b, change.key)
        if at not in self._fallen:
            self._fallen[at] = self._rows @ self._column(change.a, change.b) - self._counts(change.key)
        return self._fallen[at]

    def _counts(self, key: Key) -> Reals:
        found = np.zeros(len(self.seen))
        found[self._counting.get(key, [])] = 1.0
        return found


@dataclass(frozen=True)
class _Effect:
    """A cause as arrays: the ends of its changes, their admittances, what one ampere through each adds to volts and takes off
    readings, and what comes from outside."""

    changes: tuple[Change, ...]
    a: NDArray[np.int_]
    b: NDArray[np.int_]
    admittance: Complexes
    columns: Complexes
    falls: Complexes
    outside: tuple[Complexes, Complexes] | None
