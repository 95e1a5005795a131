"""Reading a working: which steps a figure rests on, across subjects, and what would change it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from nelvor.working.number import shown
from nelvor.working.recorder import Figure


@dataclass(frozen=True)
class Line:
    """A step as it is read: its number in this reading and those of the steps that it rests on."""

    number: int
    inputs: tuple[int, ...]
    step: Figure


def numbered(steps: Sequence[Figure]) -> list[Line]:
    """Return all steps of one working in their order, numbered from 0."""
    numbers: dict[Figure, int] = {}
    lines = []
    for number, step in enumerate(steps):
        numbers[step] = number
        lines.append(Line(number, tuple([numbers[figure] for figure in step.inputs]), step))
    return lines


def behind(steps: Sequence[Figure], figure: Figure) -> list[Figure]:
    """Return the steps of one working that a figure rests on, itself last, in the order they were taken."""
    wanted, stack = set(), [figure]
    while stack:
        current = stack.pop()
        if current not in wanted:
            wanted.add(current)
            stack += current.inputs
    return [step for step in steps if step in wanted]


def ancestry(figure: Figure) -> list[Line]:
    """Return the steps that a figure rests on in all workings that it comes through, itself last, numbered anew."""
    lines: list[Line] = []
    numbers: dict[Figure, int] = {}
    stack: list[tuple[Figure, bool]] = [(figure, False)]
    while stack:
        step, ready = stack.pop()
        if step in numbers:
            continue
        before = [*step.inputs, *([step.origin[1]] if step.origin else [])]
        if not ready:
            stack.append((step, True))
            stack += [(item, False) for item in reversed(before)]
            continue
        numbers[step] = len(lines)
        lines.append(Line(len(lines), tuple(numbers[item] for item in before), step))
    return lines


def what_would_change(steps: Sequence[Figure], figure: Figure) -> str:
    """Return the nearest threshold of the governing input, found from the steps themselves, or ""."""
    chain = behind(steps, figure)
    for step in reversed(chain):
        if step.operation == "next_up":
            return _between_options(step, step.inputs[0])
    nearest: tuple[Fraction, str] | None = None
    for step in chain:
        if step.operation != "at_least" or step.value is not True:
            continue
        have, need = step.inputs
        if isinstance(have.value, Fraction) and isinstance(need.value, Fraction) and need.value > 0:
            margin = have.value / need.value
            if nearest is None or margin < nearest[0]:
                nearest = (
                    margin,
                    (
                        f"Changes when “{need.label}” rises above {shown(have.value)} {have.unit} "
                        f"(now {shown(need.value)} {need.unit})."
                    ),
                )
    return nearest[1] if nearest else ""


def _between_options(step: Figure, need: Figure) -> str:
    assert isinstance(step.value, Fraction) and isinstance(need.value, Fraction)
    below = [option for option in step.options if option < step.value]
    lower = f"above {shown(max(below))} " if below else ""
    return (
        f"Stays {shown(step.value)} {step.unit} while “{need.label}” is {lower}up to {shown(step.value)} {step.unit} "
        f"(now {shown(need.value)} {need.unit})."
    )
