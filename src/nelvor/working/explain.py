"""Reading a working: which steps a figure rests on, across subjects, and what would change it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from nelvor.working.number import shown
from nelvor.working.recorder import Figure, Recorder


@dataclass(frozen=True)
class Line:
    """A step as it is read: its number in this reading and those of the steps that it rests on."""

    number: int
    inputs: tuple[int, ...]
    step: Figure


def behind(steps: Sequence[Figure], number: int) -> list[Figure]:
    """Return the steps of one working that a step rests on, itself last, in the order they were taken."""
    wanted, stack = set(), [number]
    while stack:
        current = stack.pop()
        if current not in wanted:
            wanted.add(current)
            stack += [figure.place for figure in steps[current].inputs]
    return [step for step in steps if step.place in wanted]


def ancestry(working: Recorder, number: int) -> list[Line]:
    """Return the steps that a figure rests on in all workings that it comes through, itself last, numbered anew."""
    lines: list[Line] = []
    places: dict[tuple[int, int], int] = {}
    stack: list[tuple[Recorder, int, bool]] = [(working, number, False)]
    while stack:
        book, current, ready = stack.pop()
        key = (id(book), current)
        if key in places:
            continue
        step = book.steps[current]
        before = [(book, figure.place) for figure in step.inputs] + ([step.origin] if step.origin else [])
        if not ready:
            stack.append((book, current, True))
            stack += [(*item, False) for item in reversed(before)]
            continue
        places[key] = len(lines)
        inputs = tuple(places[id(other), item] for other, item in before)
        lines.append(Line(len(lines), inputs, step))
    return lines


def what_would_change(steps: Sequence[Figure], number: int) -> str:
    """Return the nearest threshold of the governing input, found from the steps themselves, or ""."""
    chain = behind(steps, number)
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
