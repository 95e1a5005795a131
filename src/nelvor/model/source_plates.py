"""What the plates and data sheets of sources say, as a list that a shop keeps: one is taken over into a design."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints

from nelvor.model.base import NAME_LIMIT, Name, Part, Rating
from nelvor.model.limits import Amount, FaultCurrent, Positive, PowerFactor, Volts
from nelvor.model.vocabulary import NeutralPath, OutputKind, RelayKind, SourceMarking, System

MOST_PLATES = 500


class SourcePlate(Part):
    """One kind of source. What its plate does not say is left empty and asked for in the design."""

    name: Annotated[str, StringConstraints(min_length=1, max_length=NAME_LIMIT, strip_whitespace=True)]
    kind: Literal["generator", "inverter", "battery", "other"]
    system: System | None = None
    rated_kva: Positive | None = None
    rated_output_a: Rating | None = None
    rated_output_v: Volts | None = None
    power_factor: PowerFactor | None = None
    largest_device_a: Rating | None = None
    charging_a: Amount | None = None
    fault_contribution_a: FaultCurrent | None = None
    interactive: bool | None = None
    forms_supply: bool | None = None
    output: OutputKind | None = None
    portable: bool | None = None
    neutral_path: NeutralPath | None = None
    relay: RelayKind | None = None
    outlet_with_interrupter: bool | None = None
    marking: SourceMarking | None = None
    note: Name = ""


FACTS_OF_PLATE = tuple(name for name in SourcePlate.model_fields if name not in ("name", "kind", "note"))


def plate_facts(plate: SourcePlate) -> dict[str, Any]:
    """Return what a plate says of its source, by the names of the fields of a source."""
    told = plate.model_dump(mode="json", exclude_none=True)
    return {name: value for name, value in told.items() if name in FACTS_OF_PLATE}


Plates = Annotated[list[SourcePlate], Field(max_length=MOST_PLATES)]
