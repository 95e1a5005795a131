"""The one shape of an answer: what it is about, its figures, what could not be worked out, its verdicts, its working."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import NamedTuple

from nelvor.errors import CannotCompute
from nelvor.judges.verdict import Verdict
from nelvor.working import Figure, Recorder


class Subject(NamedTuple):
    """What an answer is about: a kind of question and the thing that it is asked of."""

    kind: str
    id: str

    def key(self, name: str) -> str:
        """Return the identity of one of its figures, which an edit elsewhere does not change."""
        return f"{self.kind}:{self.id}/{name}"


@dataclass(frozen=True, kw_only=True)
class Answer:
    """Everything worked out for one subject. ``gaps`` holds the parts that could not be, with the reason."""

    subject: Subject
    figures: Mapping[str, Figure]
    gaps: Mapping[str, CannotCompute] = field(default_factory=dict)
    verdicts: tuple[Verdict, ...] = ()
    working: Recorder

    def figure(self, name: str) -> Figure | None:
        """Return a figure by its name, None where there is none."""
        return self.figures.get(name)

    def size(self, part: str) -> str | None:
        """Return a figure as text, or None when it is not known."""
        figure = self.figures.get(part)
        return figure.text if figure else None
