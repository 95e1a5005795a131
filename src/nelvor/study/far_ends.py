"""Far ends: where a line that touches metal lets so little flow that the breaker ahead need not open at once, and what
would do.

Of the run into the box other lengths and sizes are tried, each as a small change of one factorisation: with U the ends
of its branches and D what is added to their admittances, Z = Z_ff - Z_fU (D⁻¹ + Z_UU)⁻¹ Z_Uf stands behind the fault.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from nelvor.errors import MissingFigure
from nelvor.judges.run import RunAnswer
from nelvor.model.things import Device, Run
from nelvor.model.vocabulary import SIZES
from nelvor.report.check import Report
from nelvor.study.branches import Branch, Circuit
from nelvor.study.build import NOT_STUDIED_SIZES
from nelvor.study.impedances import conductor_ohms
from nelvor.study.shapes import FarEndOut
from nelvor.study.solve import Nodal
from nelvor.study.trip import AT_ONCE_FROM, trip_of
from nelvor.topology.names import name_of, run_name, thing_name
from nelvor.topology.network import METAL, Node

LEG = "L1"
LEAST_KCMIL = 250
HALVINGS = 24
LEAST_SHARE = 0.01
"""A run shortened to less than this is no remedy."""

Complexes = NDArray[np.complex128]


@dataclass(frozen=True)
class Ends:
    """The nodes of a fault from line to metal in a box."""

    line: int
    metal: int


def far_ends(report: Report, circuit: Circuit, nodal: Nodal, lines: dict[str, int | None]) -> Iterator[FarEndOut]:
    """Yield each box behind a breaker that need not open at once; ``lines`` are the nodes of a line in the boxes."""
    live = nodal.parts.live_nodes
    volts = nodal.volts()
    of_run: dict[str, list[Branch]] = {}
    for branch in circuit.branches:
        if branch.list == "runs":
            of_run.setdefault(branch.id, []).append(branch)
    for box in report.site.walking_order:
        run, device = _fed_by(report, box)
        line, metal = lines.get(box), circuit.nodes.get(Node(box, METAL))
        if run is None or device is None or line is None or metal is None or not live.issuperset((line, metal)):
            continue
        loop = _Loop(nodal, volts, Ends(line, metal), of_run.get(run.id, []))
        amperes = loop.amperes({})
        trip = trip_of(report.rules, device, amperes)
        if trip.opens == "at_once" or device.rating_a is None:
            continue
        wanted = AT_ONCE_FROM * device.rating_a
        answer = report.runs[run.id]
        yield FarEndOut(
            id=box,
            name=name_of(report.site, box),
            run=run_name(report.site, run),
            device=f"{device.rating_a:g} A {thing_name(report.site, device.id)}",
            amperes=float(f"{amperes:.4g}"),
            at_once_from_a=wanted,
            opens=trip.opens,
            within_s=trip.within_s,
            length_ft=run.length_ft,
            at_once_up_to_ft=loop.longest(run.length_ft, wanted),
            sizes_that_do=_sizes_that_do(report, answer, loop, wanted),
        )


def _fed_by(report: Report, box: str) -> tuple[Run | None, Device | None]:
    run = report.site.feeding_run(box)
    if run is None or report.runs[run.id].kind in NOT_STUDIED_SIZES:
        return None, None
    device = report.site.protection_ahead.get(run.id)
    return run, device if device is not None and device.kind != "switch" else None


class _Loop:
    """The way of a fault from line to metal at the end of a run, whose branches can be others than they are."""

    def __init__(self, nodal: Nodal, volts: Complexes, ends: Ends, branches: list[Branch]) -> None:
        self.branches = [item for item in branches if item.role in (LEG, "ground", "raceway", "neutral")]
        a = np.array([ends.line, *(item.a for item in self.branches)])
        b = np.array([ends.metal, *(item.b for item in self.branches)])
        pushed = nodal.pushed_along(a, b)
        self._between = pushed[a] - pushed[b]
        self._volts = volts[a] - volts[b]

    def amperes(self, ohms: dict[int, complex]) -> float:
        """Return the current of the fault with these branches, by their place, at other ohms."""
        impedance, volts = self._between[0, 0], self._volts[0]
        if ohms:
            changed = np.array(list(ohms)) + 1
            added = np.array([1 / new - 1 / self.branches[at].ohms for at, new in ohms.items()])
            held = np.diag(1 / added) + self._between[np.ix_(changed, changed)]
            impedance = impedance - self._between[0, changed] @ np.linalg.solve(held, self._between[changed, 0])
            volts = volts - self._between[0, changed] @ np.linalg.solve(held, self._volts[changed])
        return float(abs(volts) / abs(impedance))

    def longest(self, length_ft: float | None, wanted: float) -> float | None:
        """Return the length in whole feet up to which so much flows, None where no length does."""
        if not length_ft or self._shortened(LEAST_SHARE) < wanted:
            return None
        short, long = LEAST_SHARE, 1.0
        for _ in range(HALVINGS):
            middle = (short + long) / 2
            short, long = (middle, long) if self._shortened(middle) >= wanted else (short, middle)
        return float(int(short * length_ft)) or None

    def _shortened(self, share: float) -> float:
        return self.amperes({at: item.ohms * share for at, item in enumerate(self.branches)})

    def with_sizes(self, line: complex, ground: complex | None) -> float:
        """Return the current with another line, and another grounding conductor where there is one."""
        other = {LEG: line, "ground": ground}
        changes = {at: new for at, item in enumerate(self.branches) if (new := other.get(item.role)) is not None}
        return self.amperes({at: new for at, new in changes.items() if new != self.branches[at].ohms})


def _sizes_that_do(report: Report, answer: RunAnswer, loop: _Loop, wanted: float) -> str:
    """The least grounding conductor that does, up to the size of the lines; else lines and grounding conductor alike."""
    line, ground = answer.size("hots"), answer.size("ground")
    if line not in SIZES:
        return ""
    at = SIZES.index(line)
    tried: list[tuple[str, str | None]] = []
    if ground in SIZES:
        tried += [(line, size) for size in SIZES[SIZES.index(ground) + 1 : at + 1]]
    tried += [(size, size if ground in SIZES else None) for size in SIZES[at + 1 :]]
    for hot, own in tried:
        try:
            line_ohms = conductor_ohms(report.rules, answer, LEG, hot)
            ground_ohms = None if own is None else conductor_ohms(report.rules, answer, "ground", own)
        except MissingFigure:
            continue
        if loop.with_sizes(line_ohms, ground_ohms) >= wanted:
            return _words(hot, own, line)
    return ""


def _words(hot: str, own: str | None, line: str) -> str:
    if hot == line:
        return f"a grounding conductor of {_sized(str(own))}"
    return f"lines of {_sized(hot)}" if own is None else f"lines and grounding conductor of {_sized(hot)}"


def _sized(size: str) -> str:
    return f"{size} kcmil" if size.isdecimal() and int(size) >= LEAST_KCMIL else f"{size} AWG"
