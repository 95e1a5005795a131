"""Reading a working: which steps a figure rests on, and what would change it."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from nelvor.working.number import shown
from nelvor.working.recorder import Step


def behind(steps: Sequence[Step], number: int) -> list[Step]:
    """Return the steps that a step rests on, itself last, in the order they were taken."""
    wanted, stack = set(), [number]
    while stack:
        current = stack.pop()
        if current not in wanted:
            wanted.add(current)
            stack += steps[current].inputs
    return [step for step in steps if step.number in wanted]


def what_would_change(steps: Sequence[Step], number: int) -> str:
    """Return the nearest threshold of the governing input, found from the steps themselves, or ""."""
    chain = behind(steps, number)
    for step in reversed(chain):
        if step.operation == "next_up":
            return _between_options(step, steps[step.inputs[0]])
    nearest: tuple[Fraction, str] | None = None
    for step in chain:
        if step.operation != "at_least" or step.value is not True:
            continue
        have, need = steps[step.inputs[0]], steps[step.inputs[1]]
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


def _between_options(step: Step, need: Step) -> str:
    assert isinstance(step.value, Fraction) and isinstance(need.value, Fraction)
    below = [option for option in step.options if option < step.value]
    lower = f"above {shown(max(below))} " if below else ""
    return (
        f"Stays {shown(step.value)} {step.unit} while “{need.label}” is {lower}up to {shown(step.value)} {step.unit} "
        f"(now {shown(need.value)} {need.unit})."
    )
