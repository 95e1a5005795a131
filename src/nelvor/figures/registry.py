"""All quick figures by name, and the way from inputs to an answer."""

from __future__ import annotations

from functools import cache
from typing import Any

from pydantic import ValidationError

from nelvor.errors import BadInput, NotFound
from nelvor.figures.answer import FigureAnswer, answer_out
from nelvor.figures.grounds import FIGURES as GROUNDS
from nelvor.figures.load_figures import FIGURES as LOADS
from nelvor.figures.panels import FIGURES as PANELS
from nelvor.figures.paths import FIGURES as PATHS
from nelvor.figures.quick_figure import QuickFigure
from nelvor.figures.sizing import FIGURES as SIZING
from nelvor.figures.sources import FIGURES as SOURCES
from nelvor.figures.supplies import FIGURES as SUPPLIES
from nelvor.figures.torque_figure import FIGURES as TORQUE
from nelvor.model.parse import issues_of
from nelvor.rulebook.rules import rulebook
from nelvor.working import Recorder


@cache
def all_figures() -> dict[str, QuickFigure]:
    """Return every quick figure by name, in the order of the work."""
    found = [*SIZING, *TORQUE, *GROUNDS, *PATHS, *SUPPLIES, *PANELS, *SOURCES, *LOADS]
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
