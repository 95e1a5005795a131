"""An arc in place of a bolted fault: it keeps about the same volts whatever flows, so that less does, or it goes out.

Between the volts that drive it, V, and the impedance behind it, Z, flows the current I of V² = (I·R + U)² + (I·X)²,
with U the volts of the arc, in phase with its current. Where U is more than V nothing holds it.
"""

from __future__ import annotations

from math import sqrt

import numpy as np

from nelvor.study.branches import Circuit
from nelvor.study.solve import Nodal
from nelvor.topology.network import Node


def arc_ohms(circuit: Circuit, a: Node, b: Node, arc_volts: float) -> float | None:
    """Return the resistance that an arc of so many volts amounts to between two nodes; None where it does not hold.

    Raises:
        CannotCompute: no source is on.
    """
    nodal = Nodal(circuit)
    one, other = circuit.nodes.get(a, -1), circuit.nodes.get(b, -1)
    if not nodal.parts.live_nodes.issuperset((one, other)):
        return None
    volts = nodal.volts()
    driving = abs(volts[one] - volts[other])
    behind = complex(nodal.behind(np.array([one]), np.array([other]))[0])
    if driving <= arc_volts:
        return None
    amperes = _amperes(driving, behind, arc_volts)
    return arc_volts / amperes


def _amperes(driving: float, behind: complex, arc_volts: float) -> float:
    """The positive root of (R² + X²)·I² + 2·R·U·I + U² - V² = 0."""
    square, resistance = abs(behind) ** 2, behind.real
    return (
        sqrt((resistance * arc_volts) ** 2 + square * (driving**2 - arc_volts**2)) - resistance * arc_volts
    ) / square
