"""All quick figures by name, and the way from inputs to an answer."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from typing import Any

from pydantic import ValidationError

from nelvor.errors import BadInput, NotFound
from nelvor.figures.answer import FigureAnswer, Worked, answer_out
from nelvor.figures.inputs import Inputs
from nelvor.model.parse import issues_of
from nelvor.rulebook.rules import rulebook
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


@cache
def all_figures() -> dict[str, QuickFigure]:
    """Return every quick figure by name, in the order of the work."""
    from nelvor.figures import grounds, load_figures, paths, sizing, supplies  # they use this module's QuickFigure

    found = [*sizing.FIGURES, *grounds.FIGURES, *paths.FIGURES, *supplies.FIGURES, *load_figures.FIGURES]
    return {figure.name: figure for figure in found}


def find_figure(name: str) -> QuickFigure:
    """Return a quick figure.

    Raises:
        NotFound: there is none of that name.
    """
    figure = all_figures().get(name)
    if figure is None:
        raise NotFound(f"There is no quick figure {name[:60]!r}. Known: {', '.join(all_figures())}.")
    return figure


def work_out(name: str, value: Any) -> FigureAnswer:
    """Return the answer of a quick figure to inputs as JSON values.

    Raises:
        NotFound: no such figure.
        BadInput: inputs of the wrong type, out of range, or that do not go together.
        UnknownEdition, CannotCompute, MissingFigure: no such rules or figures.
    """
    figure = find_figure(name)
    try:
        inputs = figure.inputs.model_validate(value)
    except ValidationError as failure:
        raise BadInput(issues_of(failure, value if isinstance(value, dict) else {})) from None
    recorder = Recorder(rulebook().resolve(inputs.edition))
    return answer_out(figure.name, figure.title, figure.work(inputs, recorder), recorder)
