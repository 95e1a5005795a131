"""What is asked of the study: all well, a fault to metal or between lines, a neutral or a grounding conductor open."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from nelvor.model.base import Id
from nelvor.model.things import ArcVolts, ElectrodeOhms, FaultOhms, KeptScenario, SoilOhmMeters
from nelvor.model.vocabulary import Leg, LoadDraw, SituationKind

AT_A_BOX = frozenset({"ground_fault", "short_circuit", "line_to_neutral"})
ALONG_A_RUN = frozenset({"neutral_open", "ground_open"})


class Situation(BaseModel):
    """A situation of a site. ``place`` is the enclosure of a fault, or the run whose conductor is open.

    A fault goes through ``fault_ohms``, or through an arc where ``arc_volts`` tells the volts that it keeps.
    ``bonds`` are those that are played with: made or taken out, whatever they are in the design; ``electrode_ohms`` are
    electrodes played with, in ohms to earth, and ``soil_ohm_m`` is the soil about those that were not measured. ``loads_off`` are the loads that are switched off; all others are on, as
    ``stated``, or all alike at the share of it that is calculated, as an impedance or drawing the same ``power`` at any volts.
    ``between`` are two enclosures, or one and "earth", that somebody touches at once.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    kind: SituationKind = "all_well"
    place: Id | None = None
    leg: Leg = "L1"
    fault_ohms: FaultOhms = 0.01
    arc_volts: ArcVolts | None = None
    bonds: dict[Id, bool] = Field(default_factory=dict, max_length=500)
    electrode_ohms: dict[Id, ElectrodeOhms] = Field(default_factory=dict, max_length=500)
    soil_ohm_m: SoilOhmMeters | None = None
    loads_off: frozenset[Id] = frozenset()
    use: Literal["calculated", "stated"] = "calculated"
    draw: LoadDraw = "impedance"
    between: Annotated[tuple[Id, ...], Field(max_length=2)] = ()


def situation_of(kept: KeptScenario) -> Situation:
    """Return the situation that a kept scenario names."""
    played = dict.fromkeys(kept.bonds_made, True) | dict.fromkeys(kept.bonds_out, False)
    return Situation(
        kind=kept.kind,
        place=kept.box_id or kept.run_id,
        leg=kept.leg,
        fault_ohms=kept.fault_ohms,
        arc_volts=kept.arc_volts,
        bonds=played,
        electrode_ohms=kept.electrode_ohms,
        soil_ohm_m=kept.soil_ohm_m,
        loads_off=frozenset(kept.loads_off),
        use=kept.use,
        draw=kept.draw,
    )
