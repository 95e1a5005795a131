"""One run solved in the order device, hots, neutral, grounding conductor, raceway, cover, drop.

A locked field is checked, a free one is solved. Each part that cannot be computed is a gap with
its reason; the parts that do not rest on it are still answered.
"""

from nelvor.judges.run.all_runs import solve_runs
from nelvor.judges.run.answer import (
    NOT_SIZED,
    RunAnswer,
    in_other_material,
    made_otherwise,
    solve_run,
    with_larger_hots,
)
from nelvor.judges.run.case import Ahead, RunCase

__all__ = [
    "NOT_SIZED",
    "Ahead",
    "RunAnswer",
    "RunCase",
    "in_other_material",
    "made_otherwise",
    "solve_run",
    "solve_runs",
    "with_larger_hots",
]
