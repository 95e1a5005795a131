"""How each part of a run is laid: the run's own way for most of its length, and its stretches where they differ."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction
from functools import partial
from typing import Any, Literal

from nelvor.errors import CannotCompute, MissingInput
from nelvor.judges.verdict import proposing
from nelvor.model.changes.operations import Operation
from nelvor.model.things import Run, Stretch
from nelvor.working import exact

GOES_WITH = {
    "raceway_size": "method",
    "roof_clearance_in": "placement",
    "burial_location": "placement",
    "cover_in": "placement",
}


@dataclass(frozen=True)
class Lay:
    """One part of a run: what it lies in and where, and its length in ft, None where that is not known.

    ``thing`` is the run or the stretch that says so, and ``value`` gives its properties by their names; ``key`` tells
    parts apart in the names of figures ("" for the run).
    """

    run: Run
    thing: Run | Stretch
    length_ft: Fraction | None
    value: Callable[[str], Any] = field(init=False)

    def __post_init__(self) -> None:
        value = partial(getattr, self.run) if self.thing is self.run else self._own_or_the_runs
        object.__setattr__(self, "value", value)

    @property
    def list_name(self) -> Literal["runs", "stretches"]:
        """The list of the document that this part is told in."""
        return "stretches" if isinstance(self.thing, Stretch) else "runs"

    @property
    def key(self) -> str:
        """What tells this part's figures from those of the others."""
        return f":{self.thing.id}" if isinstance(self.thing, Stretch) else ""

    @property
    def name(self) -> str:
        """What this part is called, "" for the run itself."""
        return (self.thing.name or "a stretch") if isinstance(self.thing, Stretch) else ""

    def _own_or_the_runs(self, field_name: str) -> Any:
        """A property of a stretch, or else of its run.

        A trade size goes with its method, cover and height with the place: a stretch with another has its own.
        """
        own = getattr(self.thing, field_name)
        if own is not None:
            return own
        goes_with = GOES_WITH.get(field_name)
        inherits = goes_with is None or getattr(self.thing, goes_with) is None
        return getattr(self.run, field_name) if inherits else None

    def filled(self, field_name: str, what: str) -> Any:
        """Return a property of this part.

        Raises:
            MissingInput: it is not entered.
        """
        value = self.value(field_name)
        if value is None:
            raise MissingInput(self.thing.id, field_name, what)
        return value

    def changing(self, **values: Any) -> tuple[Operation, ...]:
        """Return the operations that change properties where they are told: the insulation only on the run."""
        own = {name: value for name, value in values.items() if hasattr(self.thing, name)}
        of_run = {name: value for name, value in values.items() if name not in own}
        changes = proposing(self.list_name, self.thing, **own)
        return (*changes, *proposing("runs", self.run, **of_run)) if of_run else changes


def lays_of(run: Run, stretches: list[Stretch]) -> list[Lay]:
    """Return the parts of a run, its own way first; where stretches fill the whole of it, they alone.

    Raises:
        MissingInput: a length is not entered.
        CannotCompute: the stretches are longer than the run.
    """
    if not stretches:
        return [Lay(run, run, None if run.length_ft is None else exact(run.length_ft))]
    if run.length_ft is None:
        raise MissingInput(run.id, "length_ft", "The length of the run")
    parts = []
    for stretch in stretches:
        if stretch.length_ft is None:
            raise MissingInput(stretch.id, "length_ft", f"The length of {stretch.name or 'the stretch'}")
        parts.append(Lay(run, stretch, exact(stretch.length_ft)))
    rest = exact(run.length_ft) - sum((part.length_ft for part in parts if part.length_ft), Fraction(0))
    if rest < 0:
        raise CannotCompute(
            "The stretches of this run add up to more than its length.", "Correct the lengths of the stretches."
        )
    return [Lay(run, run, rest), *parts] if rest else parts
