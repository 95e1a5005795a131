"""The recorder: every figure read and every step taken becomes a frozen step of a directed graph.

A rule is handed a recorder and does its arithmetic through it; nothing is global. The closed
set of operations lets a test replay any working to the same values.
"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Callable, Sequence
from fractions import Fraction
from functools import lru_cache, partial
from operator import attrgetter
from typing import Literal, NamedTuple

from nelvor.rulebook.rules import Rules
from nelvor.working.number import difference, exact, greatest, least, product, quotient, reaches, read, shown, total

Operation = Literal[
    "given",
    "carried",
    "table",
    "band",
    "parameter",
    "add",
    "subtract",
    "multiply",
    "divide",
    "greatest",
    "least",
    "root_sum",
    "hypotenuse",
    "next_up",
    "next_down",
    "at_least",
    "choose",
]
Value = Fraction | str | bool
PassedOver = str | Callable[[], str]
"""Why the candidate next to a choice was refused, or what works that out where somebody reads it."""


class Figure(NamedTuple):
    """A value and the step that it came about by: what it is called, from which figures, its unit and the section.

    ``origin`` is the figure that a carried one comes from, behind the working that it stands in.
    """

    label: str
    operation: Operation
    inputs: tuple[Figure, ...]
    value: Value
    unit: str
    clause: str
    section: str
    source: str
    options: tuple[Fraction, ...] = ()
    passed_over: PassedOver = ""
    origin: tuple[Recorder, Figure] | None = None

    def __eq__(self, other: object) -> bool:
        """A figure is itself alone: as a tuple it would be compared with all that it rests on, again and again."""
        return self is other

    def __hash__(self) -> int:
        return id(self)

    @property
    def refused(self) -> str:
        """Why the candidate next to this choice was refused, or "" where there was none."""
        return told(self.passed_over)

    @property
    def number(self) -> Fraction:
        """The value as an exact number."""
        value = self.value
        if type(value) is not Fraction:
            raise TypeError(f"{self.label} is not a number")
        return value

    @property
    def text(self) -> str:
        """The value as text, such as a conductor size."""
        return self.value if isinstance(self.value, str) else read(self.number, self.unit)


def told(why: PassedOver) -> str:
    """Return why a candidate was refused."""
    return why if isinstance(why, str) else why()


def _beside(option: Fraction, side: str, wanted: Figure) -> str:
    return f"{shown(option)} {wanted.unit} is {side} {shown(wanted.number)} {wanted.unit}"


_new = tuple.__new__
VALUE = attrgetter("value")  # of figures that are numbers: what works with them takes nothing else


class Recorder:
    """Takes down the steps of one subject (a run, an enclosure) under one edition's rules."""

    def __init__(self, rules: Rules) -> None:
        self.rules = rules
        self.steps: list[Figure] = []
        self._sections = rules.sections

    def mark(self) -> int:
        """Return a place to which ``forget`` can go back."""
        return len(self.steps)

    def forget(self, mark: int) -> None:
        """Drop the steps of a candidate that was refused."""
        del self.steps[mark:]

    def _take_down(
        self,
        label: str,
        operation: Operation,
        inputs: tuple[Figure, ...],
        value: Value,
        unit: str,
        clause: str = "",
        source: str = "",
        options: tuple[Fraction, ...] = (),
        passed_over: PassedOver = "",
        origin: tuple[Recorder, Figure] | None = None,
    ) -> Figure:
        section = self._sections[clause]
        fields = (label, operation, inputs, value, unit, clause, section, source, options, passed_over, origin)
        figure = _new(Figure, fields)  # as Figure(*fields) is, without the call of its own that names each place
        self.steps.append(figure)
        return figure

    # -- where figures come from -------------------------------------------------------------

    def given(self, label: str, value: float | int | Fraction | str, unit: str, source: str) -> Figure:
        """Take down an input of the design; ``source`` names where it is entered."""
        kept: Value = value if type(value) is Fraction or isinstance(value, str) else exact(value)
        return self._take_down(label, "given", (), kept, unit, "", source)

    def carried(self, label: str, figure: Figure, worked_out_in: Recorder) -> Figure:
        """Take over a figure of another subject's working, which keeps its ancestry there."""
        origin = None if worked_out_in is self else (worked_out_in, figure)
        return self._take_down(label, "carried", (), figure.value, figure.unit, "", figure.label, origin=origin)

    def table(self, label: str, name: str, key: tuple[str, ...], column: str, clause: str | None = None) -> Figure:
        """Read a number of a keyed table.

        Raises:
            MissingFigure: no such figure in this edition.
        """
        cell = self.rules.cited_cell(name, key, column)
        clause = cell.clause if clause is None else clause
        return self._take_down(label, "table", (), cell.value, cell.unit, clause, cell.source)

    def table_text(
        self, label: str, name: str, text: str, unit: str, inputs: Sequence[Figure], clause: str = ""
    ) -> Figure:
        """Take down a size read from a table whose cells are sizes."""
        table = self.rules.table(name)
        return self._take_down(
            label,
            "table",
            tuple(inputs),
            text,
            unit,
            clause or table.clause,
            self.rules.table_title(name),
        )

    def band(self, label: str, name: str, value: Figure, column: str) -> Figure:
        """Read a number of a banded table for a computed value.

        Raises:
            MissingFigure: the value lies outside the table.
        """
        table = self.rules.table(name)
        cell = self.rules.band(name, value.number)[column]
        source = f"{self.rules.table_title(name)}, {column}"
        number = exact(cell) if cell else None
        if number is None:
            number = self.rules.cell(name, ("blank",), column)
        return self._take_down(label, "band", (value,), number, table.unit_of(column), table.clause, source)

    def parameter(self, key: str, label: str) -> Figure:
        """Read a constant of the code.

        Raises:
            MissingFigure: this edition has none.
        """
        entry = self.rules.parameter(key)
        value: Value = entry.value if entry.unit == "AWG" else entry.number
        return self._take_down(label, "parameter", (), value, entry.unit, entry.clause, entry.source)

    # -- arithmetic --------------------------------------------------------------------------

    def add(self, label: str, *figures: Figure, unit: str = "", clause: str = "") -> Figure:
        value = VALUE(figures[0]) if len(figures) == 1 else total(map(VALUE, figures))
        return self._take_down(label, "add", figures, value, unit or figures[0].unit, clause)

    def subtract(self, label: str, whole: Figure, part: Figure, clause: str = "") -> Figure:
        left = difference(whole.number, part.number)
        return self._take_down(label, "subtract", (whole, part), left, whole.unit, clause)

    def multiply(self, label: str, *figures: Figure, unit: str, clause: str = "") -> Figure:
        value = product(map(VALUE, figures))
        return self._take_down(label, "multiply", figures, value, unit, clause)

    def divide(self, label: str, top: Figure, bottom: Figure, unit: str, clause: str = "") -> Figure:
        return self._take_down(label, "divide", (top, bottom), quotient(top.number, bottom.number), unit, clause)

    def greatest(self, label: str, *figures: Figure, clause: str = "") -> Figure:
        return self._take_down(label, "greatest", figures, greatest(map(VALUE, figures)), figures[0].unit, clause)

    def least(self, label: str, *figures: Figure, clause: str = "") -> Figure:
        return self._take_down(label, "least", figures, least(map(VALUE, figures)), figures[0].unit, clause)

    def other_side(self, label: str, power_factor: Figure) -> Figure:
        """Return the sine that belongs to a cosine (the reactive share), to twelve digits."""
        return self._take_down(label, "root_sum", (power_factor,), sine_of(power_factor.number), "")

    def hypotenuse(self, label: str, one: Figure, other: Figure, clause: str = "") -> Figure:
        """Return the root of the sum of two squares, to twelve digits."""
        return self._take_down(
            label, "hypotenuse", (one, other), hypotenuse_of(one.number, other.number), one.unit, clause
        )

    # -- decisions ---------------------------------------------------------------------------

    def next_up(self, label: str, need: Figure, options: Sequence[Fraction], clause: str) -> Figure | None:
        """Choose the smallest option that reaches the need, naming the one below that was refused; None if none does.

        ``options`` stand in ascending order.
        """
        place = bisect_left(options, need.number)
        if place == len(options):
            return None
        return self._take_down(
            label,
            "next_up",
            (need,),
            options[place],
            need.unit,
            clause,
            options=tuple(options),
            passed_over=partial(_beside, options[place - 1], "below", need) if place else "",
        )

    def next_down(self, label: str, limit: Figure, options: Sequence[Fraction], clause: str) -> Figure | None:
        """Choose the largest option that stays within a limit, naming the one above; None if all exceed it.

        ``options`` stand in ascending order.
        """
        place = bisect_right(options, limit.number)
        if place == 0:
            return None
        return self._take_down(
            label,
            "next_down",
            (limit,),
            options[place - 1],
            limit.unit,
            clause,
            options=tuple(options),
            passed_over=partial(_beside, options[place], "above", limit) if place < len(options) else "",
        )

    def at_least(self, label: str, have: Figure, need: Figure, clause: str = "") -> bool:
        """Compare exactly and take the comparison down."""
        holds = reaches(VALUE(have), VALUE(need))
        self._take_down(label, "at_least", (have, need), holds, "", clause)
        return holds

    def choose(
        self,
        label: str,
        value: str,
        unit: str,
        because: Sequence[Figure],
        *,
        clause: str = "",
        refused: PassedOver = "",
    ) -> Figure:
        """Take down a choice and the figures that it rests on."""
        return self._take_down(label, "choose", tuple(because), value, unit, clause, passed_over=refused)

    def last_comparison(self) -> Figure:
        """Return the comparison just taken down, so that a choice can rest on it."""
        return self.steps[-1]


@lru_cache(maxsize=256)
def sine_of(cosine: Fraction) -> Fraction:
    """Return the sine for a cosine between 0 and 1, rounded to twelve digits."""
    return Fraction(f"{math.sqrt(max(0.0, 1 - float(cosine) ** 2)):.12f}")


def hypotenuse_of(one: Fraction, other: Fraction) -> Fraction:
    """Return the root of the sum of two squares, rounded to twelve digits."""
    return Fraction(f"{math.hypot(float(one), float(other)):.12f}")


def replay(steps: Sequence[Figure]) -> list[int]:
    """Work every arithmetic step again from its inputs; return the places of steps that do not come out the same."""
    return [
        place
        for place, step in enumerate(steps)
        if _again(step, [figure.value for figure in step.inputs]) != step.value
    ]


def _again(step: Figure, values: Sequence[Value]) -> Value:
    if step.origin is not None:
        return step.origin[1].value
    numbers = [value for value in values if isinstance(value, Fraction) and not isinstance(value, bool)]
    work = ARITHMETIC.get(step.operation)
    return step.value if work is None else work(step, numbers)


ARITHMETIC: dict[str, Callable[[Figure, list[Fraction]], Value]] = {
    "add": lambda step, numbers: sum(numbers, Fraction(0)),
    "subtract": lambda step, numbers: numbers[0] - numbers[1],
    "multiply": lambda step, numbers: math.prod(numbers, start=Fraction(1)),
    "divide": lambda step, numbers: numbers[0] / numbers[1],
    "greatest": lambda step, numbers: max(numbers),
    "least": lambda step, numbers: min(numbers),
    "root_sum": lambda step, numbers: sine_of(numbers[0]),
    "hypotenuse": lambda step, numbers: hypotenuse_of(numbers[0], numbers[1]),
    "next_up": lambda step, numbers: min(option for option in step.options if option >= numbers[0]),
    "next_down": lambda step, numbers: max(option for option in step.options if option <= numbers[0]),
    "at_least": lambda step, numbers: numbers[0] >= numbers[1],
}
