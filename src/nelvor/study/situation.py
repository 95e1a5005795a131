"""What is asked of the study: all well, a fault to metal or between lines, a neutral or a grounding conductor open."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from nelvor.model.base import Id
from nelvor.model.vocabulary import Leg, SituationKind

AT_A_BOX = frozenset({"ground_fault", "short_circuit", "line_to_neutral"})
ALONG_A_RUN = frozenset({"neutral_open", "ground_open"})


class Situation(BaseModel):
    """A situation of a site. ``place`` is the enclosure of a fault, or the run whose conductor is open.

    ``bonds`` are those that are played with: made or taken out, whatever they are in the design. ``loads_off`` are the
    loads that are switched off; all others are on, as ``stated``, or all alike at the share of it that is calculated.
    ``between`` are two enclosures, or one and "earth", that somebody touches at once.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    kind: SituationKind = "all_well"
    place: Id | None = None
    leg: Leg = "L1"
    fault_ohms: Annotated[float, Field(ge=0.0001, le=1_000_000, allow_inf_nan=False)] = 0.01
    bonds: dict[Id, bool] = Field(default_factory=dict, max_length=500)
    loads_off: frozenset[Id] = frozenset()
    use: Literal["calculated", "stated"] = "calculated"
    between: Annotated[tuple[Id, ...], Field(max_length=2)] = ()
