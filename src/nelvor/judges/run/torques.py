"""The torque of each terminal that a run ends on, where its label or its screw tells one."""

from __future__ import annotations

from collections.abc import Iterator

from nelvor.clauses.terminal_torque import terminal_torque
from nelvor.errors import CannotCompute
from nelvor.judges.run.case import RunCase
from nelvor.judges.run.fit_out import FitOut
from nelvor.model.things import Bar, Device, Lugs
from nelvor.topology.names import thing_name

CLAUSE = "torque_terminals"
SIZED_BY = {"neutral": "neutral", "ground": "ground"}


def torques(case: RunCase) -> Iterator[FitOut]:
    """Yield a line for each terminal of the run whose torque is told, each once."""
    done: set[tuple[str, str]] = set()
    for conductor in case.site.conductors_of.get(case.run.id, []):
        part = SIZED_BY.get(conductor.role, "hots")
        for end in (conductor.from_part, conductor.to_part):
            terminal = case.site.by_id.get(end, ("", None))[1]
            if (end, part) in done or not isinstance(terminal, Device | Lugs | Bar):
                continue
            done.add((end, part))
            if terminal.torque_lb_in is not None or terminal.screw is not None:
                yield from _line(case, terminal, part)


def _line(case: RunCase, terminal: Device | Lugs | Bar, part: str) -> Iterator[FitOut]:
    figure = case.figures.get(part)
    size = figure.text if figure is not None else None
    name = thing_name(case.site, terminal.id)
    try:
        torque = terminal_torque(case.recorder, terminal.torque_lb_in, terminal.screw, size)
    except CannotCompute as reason:
        yield FitOut(f"torque {terminal.id} {part}", f"{name}: {reason.reason} {reason.remedy}", CLAUSE)
        return
    marked = "marked on it" if terminal.torque_lb_in is not None else "by its screw; a marked figure governs"
    words = f"{name}, {part}: {torque.text} lb-in, {marked}."
    yield FitOut(f"torque {terminal.id} {part}", words, CLAUSE, torque)
