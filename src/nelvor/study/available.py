"""The fault current that is available at every box: line to line, line to neutral, three-phase. All loads off."""

from __future__ import annotations

from math import sqrt

from nelvor.errors import CannotCompute
from nelvor.judges.motor_share import TIMES_FULL_LOAD, Motors
from nelvor.model.things import Source
from nelvor.report.check import Report
from nelvor.study.build import Builder
from nelvor.study.far_ends import LEG, far_ends
from nelvor.study.shapes import AvailableHere, AvailableOut
from nelvor.study.situation import Situation
from nelvor.study.solve import Nodal, fault_currents
from nelvor.topology.names import name_of
from nelvor.topology.network import Node
from nelvor.topology.scenario import Scenario

THIRD_LEG = "L3"


def available(report: Report, scenario: Scenario) -> AvailableOut:
    """Return the available fault current at every enclosure in a position of the gear.

    A three-phase fault is that between lines by two over the square root of three. What motors give is told beside it; with the sources at what was entered of them, or assumed, which is told.

    Raises:
        MissingInput, CannotCompute, MissingFigure: something that the circuit rests on is not known.
    """
    off = frozenset(item.id for item in report.site.document.loads)
    # A fault is what is asked about, so that sources which limit themselves have to tell what they give into one.
    situation = Situation(kind="short_circuit", loads_off=off)
    builder = Builder(report.site, report.rules, report.runs, report.levels, scenario, situation)
    circuit = builder.without_fault()
    boxes = report.site.walking_order
    asked = [_pair(builder, box, to_neutral=neutral) for neutral in (False, True) for box in boxes]
    nodal = Nodal(circuit)
    found = fault_currents(nodal, asked)
    lines = {box: _line(builder, box) for box in boxes}
    between_lines, to_neutral = found[: len(boxes)], found[len(boxes) :]
    motors = Motors(report.site, report.rules)
    three = any(isinstance(node, Node) and node.pole == THIRD_LEG for node in circuit.nodes)
    return AvailableOut(
        boxes=[
            AvailableHere(
                id=box,
                name=name_of(report.site, box),
                line_to_line=_rounded(line),
                line_to_neutral=_rounded(neutral),
                three_phase=_rounded(line * 2 / sqrt(3)) if line is not None and three else None,
                motors_at_most=float(TIMES_FULL_LOAD * motors.on_supply_of(box)),
            )
            for box, line, neutral in zip(boxes, between_lines, to_neutral, strict=True)
        ],
        far_ends=list(far_ends(report, circuit, nodal, lines)),
        told=all(_has_told(report.site.sources[item]) for item in scenario.sources_on),
        assumed=sorted(circuit.assumed),
    )


def _has_told(source: Source) -> bool:
    given = source.fault_current_a if source.kind == "utility" else source.fault_contribution_a
    by_plate = source.kind == "utility" and source.transformer_kva is not None and source.impedance_percent is not None
    return given is not None or by_plate or bool(source.interactive and not source.forms_supply)


NOWHERE = (-1, -1)


def _line(builder: Builder, box: str) -> int | None:
    """The node of a line in a box, None where it does not reach it."""
    try:
        return builder.circuit.nodes[builder.line_in(box, LEG)]
    except CannotCompute:
        return None


def _pair(builder: Builder, box: str, *, to_neutral: bool) -> tuple[int, int]:
    """The nodes between which a fault is put at a box; ``NOWHERE`` where there is nothing to put it between."""
    nodes = builder.circuit.nodes
    try:
        line = builder.line_in(box, "L1")
        other = builder.neutral_at(box) if to_neutral else builder.line_in(box, "L2")
    except CannotCompute:
        return NOWHERE
    return (nodes[line], nodes[other]) if other is not None and other in nodes else NOWHERE


def _rounded(value: float | None) -> float | None:
    return None if value is None else float(f"{value:.4g}")
