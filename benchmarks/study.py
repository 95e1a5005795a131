"""The study of a chain of panels over the bare sparse solve of the same matrix, and over a whole check of the same job.

Run: ``PYTHONPATH=src:. .nelvor/venv/bin/python -m benchmarks.study``
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from scipy.sparse import coo_matrix
from scipy.sparse.linalg import splu

from benchmarks.panel import median_ms
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.study.branches import Circuit
from nelvor.study.build import Builder
from nelvor.study.outcome import study, study_available
from nelvor.study.situation import Situation
from nelvor.study.solve import Parts, solve
from nelvor.topology.scenario import ordinary
from tests.support.jobs import chain

SIZES = (50, 500)


def bare_solve(circuit: Circuit) -> Callable[[], None]:
    """Assemble the matrix of a circuit from arrays that lie ready, and solve it: what no study can do without."""
    parts = Parts(circuit)
    free = sorted(parts.live_nodes - set(parts.fixed.tolist()))
    order = {node: at for at, node in enumerate(free)}
    within = [item for item in circuit.branches if item.a in parts.live_nodes]
    a = np.array([order.get(item.a, -1) for item in within])
    b = np.array([order.get(item.b, -1) for item in within])
    y = 1 / np.array([item.ohms for item in within], dtype=complex)
    pushed = y * np.array([item.emf for item in within], dtype=complex)

    def work() -> None:
        rows, columns, values = [], [], []
        injected = np.zeros(len(order), dtype=complex)
        for one, other, sign in ((a, b, 1), (b, a, -1)):
            own = one >= 0
            rows.append(one[own])
            columns.append(one[own])
            values.append(y[own])
            np.add.at(injected, one[own], sign * pushed[own])
            both = own & (other >= 0)
            rows.append(one[both])
            columns.append(other[both])
            values.append(-y[both])
        entries = (np.concatenate(values), (np.concatenate(rows), np.concatenate(columns)))
        splu(coo_matrix(entries, shape=(len(order), len(order))).tocsc()).solve(injected)

    return work


def told(size: int) -> None:
    """Print the ratios for a chain of so many panels."""
    document = parse_value(chain(size))
    report = check(document)
    scenario = ordinary(report.site, report.site.feeds, "proposed")

    def built() -> Circuit:
        return Builder(report.site, report.rules, report.runs, report.levels, scenario, Situation()).built()

    circuit = built()
    bare = median_ms(bare_solve(circuit))
    print(f"chain of {size}: {len(circuit.nodes)} nodes, {len(circuit.branches)} branches; bare solve {bare:.1f} ms")
    for name, work in (
        ("numeric part", lambda: solve(circuit)),
        ("circuit built and solved", lambda: solve(built())),
        ("whole study", lambda: study(report, Situation())),
        ("available at every box", lambda: study_available(report)),
        ("a whole check", lambda: check(document)),
    ):
        took = median_ms(work)
        print(f"  {name}: {took:.1f} ms, {took / bare:.1f} × bare")


def main() -> None:
    """Print the ratios for each size."""
    for size in SIZES:
        told(size)


if __name__ == "__main__":
    main()
