"""Quick figures: one-off questions without a job, each with its inputs documented by a schema."""

from nelvor.figures.answer import FigureAnswer
from nelvor.figures.quick_figure import QuickFigure
from nelvor.figures.registry import all_figures, find_figure, work_out

__all__ = ["FigureAnswer", "QuickFigure", "all_figures", "find_figure", "work_out"]
