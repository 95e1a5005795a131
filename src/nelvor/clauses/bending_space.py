"""Wire-bending space at terminals (312.6): how far the lugs must stand from the wall."""

from __future__ import annotations

from nelvor.errors import MissingFigure
from nelvor.working import Figure, Recorder

MOST_NOT_OPPOSITE, MOST_OPPOSITE = 5, 4


def bending_space(recorder: Recorder, size: str, wires_per_terminal: int, opposite: bool) -> Figure:
    """Return the space in inches: Table 312.6(B) where conductors leave by the opposite wall, (A) where not.

    Raises:
        MissingFigure: no such size or number of wires per terminal.
    """
    if opposite:
        column = "wires4plus_in" if wires_per_terminal >= MOST_OPPOSITE else f"wires{wires_per_terminal}_in"
        return recorder.table(f"Space for {size}", "bending_opposite", (size,), column)
    if wires_per_terminal > MOST_NOT_OPPOSITE:
        raise MissingFigure(
            recorder.rules.table_title("bending_one_removable"),
            f"{wires_per_terminal} wires per terminal",
            recorder.rules.edition,
            "one to five wires",
        )
    column = f"wires{wires_per_terminal}_in"
    return recorder.table(f"Space for {size}", "bending_one_removable", (size,), column, "bending_space_not_opposite")
