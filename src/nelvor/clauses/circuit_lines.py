"""The load of one branch circuit: what is connected to it, without the demand factors of feeders and services."""

from __future__ import annotations

from nelvor.clauses.cooking_and_drying import dryer_line, range_line
from nelvor.clauses.demand import DemandLine, Kinds, of_category, sum_of, weights
from nelvor.clauses.dwelling_standard import general_lighting_parts
from nelvor.clauses.load_kind import LoadKind
from nelvor.clauses.other_loads import connected_lines
from nelvor.errors import CannotCompute
from nelvor.working import Recorder

OF_DWELLINGS = frozenset({"small_appliance", "laundry", "range", "dryer"})
DWELLING_SPACES = frozenset({"living", "garage", "open_porch", "unfinished_not_adaptable", "unfinished_adaptable"})
MOST_COOKING_UNITS = 3


def circuit_lines(kinds: Kinds, recorder: Recorder) -> list[DemandLine]:
    """Return the loads of one branch circuit. Cooking units that share it count as one range (Table 220.55 Note 4).

    Raises:
        CannotCompute, MissingFigure: as the lines of levels; more cooking units than Note 4 takes together.
    """
    rest: Kinds = {kind: count for kind, count in kinds.items() if not _of_dwelling(kind)}
    parts = general_lighting_parts({kind: n for kind, n in kinds.items() if _of_dwelling(kind)}, recorder)
    lines = [DemandLine("Lighting and receptacles", part, part, ((kind, part.number),)) for kind, part in parts]
    lines += [line for line in (dryer_line(kinds, recorder), _cooking(kinds, recorder)) if line is not None]
    return lines + connected_lines(rest, recorder)


def _of_dwelling(kind: LoadKind) -> bool:
    if kind.category == "lighting_area":
        return kind.space_kind in DWELLING_SPACES
    return kind.category in OF_DWELLINGS


def _cooking(kinds: Kinds, recorder: Recorder) -> DemandLine | None:
    """A range by the table; a wall oven or counter-mounted unit, or several too small to make a range, as the plate says."""
    chosen = of_category(kinds, "range")
    if not chosen:
        return None
    pieces = sum(count for _, count in chosen)
    if pieces > MOST_COOKING_UNITS:
        raise CannotCompute(
            f"{pieces} cooking units are on one circuit.",
            "One counter-mounted unit with up to two wall ovens may share one; give the others circuits of their own.",
        )
    together = sum_of(recorder, "Cooking units on this circuit", chosen)
    limit_kw = recorder.rules.parameter("range_middle_limit_kw").number
    if together.number < limit_kw * 1000:
        return DemandLine("Cooking units at their plate", together, together, weights(chosen))
    one_range = chosen[0][0]._replace(each=together.number)
    return range_line({one_range: 1}, recorder)
