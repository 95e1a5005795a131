"""Questions of the code that rest on plain values alone: asked again under the same rules, they are not worked out again."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache, wraps
from typing import Any, Concatenate, ParamSpec, TypeVar

from nelvor.rulebook.rules import Rules
from nelvor.working.recorder import Figure, Recorder

MOST_KEPT = 2048

P = ParamSpec("P")
T = TypeVar("T")
_forget: list[Callable[[], None]] = []


def asked_once(question: Callable[Concatenate[Recorder, P], T]) -> Callable[Concatenate[Recorder, P], T]:
    """Keep the answers of a question with their steps, which every working that asks takes down: figures never change.

    Its values have to be hashable; figures among them are themselves alone. What it raises is not kept.
    """

    @lru_cache(maxsize=MOST_KEPT)
    def answered(rules: Rules, *values: Any, **named: Any) -> tuple[T, list[Figure]]:
        recorder = Recorder(rules)
        return question(recorder, *values, **named), recorder.steps

    @wraps(question)
    def ask(recorder: Recorder, /, *values: P.args, **named: P.kwargs) -> T:
        answer, steps = answered(recorder.rules, *values, **named)  # type: ignore[arg-type]  # hashable, as it says
        recorder.steps += steps
        return answer

    _forget.append(answered.cache_clear)
    return ask


def forget_answers() -> None:
    """Forget all answers, for whoever measures how long they take."""
    for forget in _forget:
        forget()
