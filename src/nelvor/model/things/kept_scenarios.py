"""Scenarios of the study of currents that a person has named and keeps with the job: nothing is designed by them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from nelvor.model.base import Id, Name, Thing
from nelvor.model.vocabulary import Leg, LoadDraw, SituationKind

MOST_PLAYED = 500
FaultOhms = Annotated[float, Field(ge=0.0001, le=1_000_000, allow_inf_nan=False)]
ArcVolts = Annotated[float, Field(ge=10, le=1000, allow_inf_nan=False)]
SoilOhmMeters = Annotated[float, Field(ge=1, le=100_000, allow_inf_nan=False)]
ElectrodeOhms = Annotated[float, Field(ge=0.01, le=1_000_000, allow_inf_nan=False)]


class KeptScenario(Thing):
    """One named scenario: a position of the gear, what is wrong and where, the loads that are off, what is played with.

    ``box_id`` is where a fault is, ``run_id`` the run whose conductor is open. Ids of bonds, electrodes and loads that
    are gone mean nothing.
    """

    name: Name
    position: Name = ""
    kind: SituationKind = "all_well"
    box_id: Id | None = None
    run_id: Id | None = None
    leg: Leg = "L1"
    fault_ohms: FaultOhms = 0.01
    arc_volts: ArcVolts | None = None
    use: Literal["calculated", "stated"] = "calculated"
    draw: LoadDraw = "impedance"
    bonds_made: Annotated[list[Id], Field(max_length=MOST_PLAYED)] = Field(default_factory=list)
    bonds_out: Annotated[list[Id], Field(max_length=MOST_PLAYED)] = Field(default_factory=list)
    electrode_ohms: Annotated[dict[Id, ElectrodeOhms], Field(max_length=MOST_PLAYED)] = Field(default_factory=dict)
    soil_ohm_m: SoilOhmMeters | None = None
    loads_off: Annotated[list[Id], Field(max_length=MOST_PLAYED)] = Field(default_factory=list)
