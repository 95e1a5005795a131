"""What storage takes to charge over a run: beside what passes through its source, or in place of what the source gives."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction

from nelvor.judges.run.case import RunCase
from nelvor.model.things import Source
from nelvor.topology.names import name_of
from nelvor.working import Figure, exact


def add_to_what_passes(case: RunCase) -> None:
    """Add what charges the storage of a source that power passes through to the load of the run that feeds it."""
    passing = case.site.passing.get(case.fed)
    taken = _taken(case, [passing.source]) if passing is not None and case.run.to_part in passing.inputs else None
    if taken is None:
        return
    raised, carried = _raised(case, taken), case.to_carry or case.need("load")
    case.figures["load"] = case.recorder.add("Load and charging", case.need("load"), taken)
    case.figures["design"] = case.recorder.add("Load and charging at 125 %", case.need("design"), raised)
    case.to_carry = case.recorder.add("Carried at once, with charging", carried, taken)


def at_least_as_charged(case: RunCase, sources: Iterable[Source]) -> None:
    """Let the run of sources carry what their storage takes, where that is more than what they give."""
    taken = _taken(case, sources)
    if taken is None:
        return
    raised, greatest = _raised(case, taken), case.recorder.greatest
    case.to_carry = greatest("Carried, either way", case.to_carry or case.need("load"), taken)
    case.figures["load"] = greatest("Output or charging", case.need("load"), taken)
    case.figures["design"] = greatest("Output or charging at 125 %", case.need("design"), raised)


def _taken(case: RunCase, sources: Iterable[Source]) -> Figure | None:
    charged = [item for item in sources if item.charging_a]
    if not charged:
        return None
    total = sum((exact(item.charging_a or 0) for item in charged), Fraction(0))
    names = " and ".join(name_of(case.site, item.id) for item in charged)
    return case.recorder.given(f"Taken to charge by {names}", total, "A", "plate or setting")


def _raised(case: RunCase, taken: Figure) -> Figure:
    factor = case.recorder.parameter("continuous_factor", "Continuous load at")
    return case.recorder.multiply(
        "Charging at 125 %", taken, factor, unit="A", clause="continuous_125_feeder_conductor"
    )
