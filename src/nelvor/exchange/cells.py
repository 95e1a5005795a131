"""Text cells of tables that other programs open: nothing in them may start a formula."""

from __future__ import annotations

STARTS_A_FORMULA = ("=", "+", "-", "@", "\t", "\r")
MARK = "'"


def for_spreadsheet(text: str) -> str:
    """Return a harmless text cell without the control characters that a spreadsheet's file cannot hold."""
    return harmless("".join(letter for letter in text if letter >= " " or letter in "\t\n\r"))


def harmless(text: str) -> str:
    """Return a text cell that no program takes for a formula; ``as_written`` gives the text back."""
    return MARK + text if text.startswith((*STARTS_A_FORMULA, MARK)) else text


def as_written(cell: str) -> str:
    """Return the text that ``harmless`` was given; a cell of other origin stays as it is."""
    rest = cell[1:]
    return rest if cell.startswith(MARK) and rest.startswith((*STARTS_A_FORMULA, MARK)) else cell
