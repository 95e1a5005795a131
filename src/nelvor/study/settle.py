"""Loads that draw the same power whatever their volts: solved again and again, each time at the volts found before.

Far from its volts no load keeps its power: below 70 % and above 130 % it is an impedance again, that of this bound.
"""

from __future__ import annotations

from dataclasses import replace

from nelvor.errors import CannotCompute
from nelvor.study.branches import Branch, Circuit
from nelvor.study.solve import Solved, solve

LEAST, MOST = 0.7, 1.3
SETTLED = 1e-6
MOST_ROUNDS = 60


def settled(circuit: Circuit) -> Solved:
    """Return the solution of a circuit in which every load draws its power.

    Raises:
        CannotCompute: nothing is live, or the volts do not settle.
    """
    rated = [branch.ohms for branch in circuit.branches]
    for _ in range(MOST_ROUNDS):
        solved = solve(circuit)
        pairs = zip(circuit.branches, solved.currents, rated, strict=True)
        branches = [_at_its_volts(branch, current, ohms) for branch, current, ohms in pairs]
        steps = zip(circuit.branches, branches, strict=True)
        if all(abs(new.ohms - old.ohms) <= SETTLED * abs(old.ohms) for old, new in steps):
            return solved
        circuit = Circuit(circuit.nodes, branches, circuit.assumed)
    raise CannotCompute(
        "Loads that keep their power do not settle at any volts: more is drawn than these wires carry.",
        "Study the loads as impedances.",
    )


def _at_its_volts(branch: Branch, current: complex, rated_ohms: complex) -> Branch:
    """A load at the volts that it gets: impedance goes with their square where power stays."""
    if not branch.rated_v:
        return branch
    share = abs(current * branch.ohms) / branch.rated_v
    return replace(branch, ohms=rated_ohms * min(max(share, LEAST), MOST) ** 2)
