"""The circuit as a SPICE netlist, so that anyone can check it with an independent simulator.

Names and numbers are made here alone: nothing that a user typed goes into it but as a comment of letters and digits.
"""

from __future__ import annotations

from cmath import phase
from math import pi

from nelvor.study.branches import Branch, Circuit
from nelvor.study.solve import Parts

HERTZ = 60.0


def netlist(circuit: Circuit) -> str:
    """Return the part of a circuit that a source reaches, for one frequency; branch n is measured by Vm<n>.

    Earth is node 0; where it does not belong to a part, the neutral of the part's source is.
    """
    parts = Parts(circuit)
    live, grounded = parts.live_nodes, frozenset(parts.fixed.tolist())
    lines = ["* circuit of a site at 60 Hz, one point; currents of branches are those of Vm<number>"]
    for number, branch in enumerate(circuit.branches):
        if branch.a in live and branch.b in live:
            lines += _branch(number, branch, grounded)
    return "\n".join([*lines, f".ac lin 1 {HERTZ:g} {HERTZ:g}", ".end"]) + "\n"


def _branch(number: int, branch: Branch, grounded: frozenset[int]) -> list[str]:
    """A resistance, an inductance where there is one, a source where there is one, and a source of 0 V that measures."""
    a, b = (_name(node, grounded) for node in (branch.a, branch.b))
    points = [a, f"b{number}m"]
    parts = [f"Vm{number} {points[0]} {points[1]} dc 0 ac 0"]
    if branch.emf:
        points.append(f"b{number}e")
        degrees = phase(branch.emf) * 180 / pi
        parts.append(f"Ve{number} {points[-2]} {points[-1]} dc 0 ac {abs(branch.emf):.12g} {degrees:.12g}")
    if branch.coupled is not None:
        p, q = (_name(node, grounded) for node in (branch.coupled.p, branch.coupled.q))
        points.append(f"b{number}w")
        parts.append(f"Ew{number} {points[-2]} {points[-1]} {p} {q} {1 / branch.coupled.ratio:.12g}")
        parts.append(f"Fw{number} {q} {p} Vm{number} {1 / branch.coupled.ratio:.12g}")
    inductance = branch.ohms.imag / (2 * pi * HERTZ)
    middle = f"b{number}r" if inductance else b
    parts.append(f"R{number} {points[-1]} {middle} {branch.ohms.real:.12g}")
    if inductance:
        parts.append(f"L{number} {middle} {b} {inductance:.12g}")
    return parts


def _name(node: int, grounded: frozenset[int]) -> str:
    return "0" if node in grounded else f"n{node}"
