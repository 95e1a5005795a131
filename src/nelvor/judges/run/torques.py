"""The torque of each terminal that a run ends on, where its label or its screw tells one."""

from __future__ import annotations

from collections.abc import Iterator

from nelvor.clauses.terminal_torque import terminal_torque
from nelvor.errors import CannotCompute
from nelvor.judges.run.case import RunCase
from nelvor.judges.run.fit_out import FitOut
from nelvor.topology.look_ups import Terminal
from nelvor.topology.names import thing_name
from nelvor.working import Figure, Recorder

CLAUSE = "torque_terminals"
SIZED_BY = {"neutral": "neutral", "ground": "ground"}


def torques(case: RunCase) -> Iterator[FitOut]:
    """Yield a line for each terminal of the run whose torque is told, each once."""
    told, done = case.site.terminals_told, set()
    for conductor in case.site.conductors_of.get(case.run.id, []) if told else []:
        part = SIZED_BY.get(conductor.role, "hots")
        for end in (conductor.from_part, conductor.to_part):
            if end in told and (end, part) not in done:
                done.add((end, part))
                yield from _line(case, told[end], part)


def _line(case: RunCase, terminal: Terminal, part: str) -> Iterator[FitOut]:
    sized = case.figures.get(part)
    name, key = thing_name(case.site, terminal.id), f"torque {terminal.id} {part}"
    words, torque = torque_of(case.recorder, terminal, sized.text if sized is not None else None)
    yield FitOut(key, f"{name}, {part}: {words}" if torque else f"{name}: {words}", CLAUSE, torque)


def torque_of(recorder: Recorder, terminal: Terminal, size: str | None) -> tuple[str, Figure | None]:
    """Return what is told of the torque of a terminal with a conductor of a size, as words and as a figure."""
    try:
        torque = terminal_torque(recorder, terminal.torque_lb_in, terminal.screw, size)
    except CannotCompute as reason:
        return f"{reason.reason} {reason.remedy}", None
    marked = "marked on it" if terminal.torque_lb_in is not None else "by its screw; a marked figure governs"
    return f"{torque.text} lb-in, {marked}.", torque
