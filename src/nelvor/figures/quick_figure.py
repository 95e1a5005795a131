"""What a quick figure is: one question with its inputs and its work."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from nelvor.figures.answer import Worked
from nelvor.figures.inputs import Inputs
from nelvor.working import Recorder


@dataclass(frozen=True)
class QuickFigure:
    """One question: its name in commands and links, its title, what it answers, its inputs and its work."""

    name: str
    title: str
    question: str
    group: str
    inputs: type[Inputs]
    work: Callable[[Any, Recorder], Worked]
    example: dict[str, Any]

    def schema(self) -> dict[str, Any]:
        """Return the JSON Schema of the inputs: the edition first, then what the figure asks of its own."""
        found = self.inputs.model_json_schema()
        own = [name for name in self.inputs.__annotations__ if name in found["properties"]]
        order = dict.fromkeys(["edition", *own, *found["properties"]])
        found["properties"] = {name: found["properties"][name] for name in order}
        return {"$schema": "https://json-schema.org/draft/2020-12/schema", **found}
