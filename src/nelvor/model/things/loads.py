"""What uses power, as calculated and as a meter recorded it."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints

from nelvor.model.base import Id, Name, Note, Thing
from nelvor.model.limits import Amount, PowerFactor, Volts
from nelvor.model.vocabulary import AmountUnit, Connection, LoadCategory, Occupancy, SpaceKind


class Load(Thing):
    """A load on a panel, on the circuit of a device where that is known: its leg is then that of the space, unless
    ``connection`` says otherwise. ``amount`` is of one piece; ``quantity`` counts equal pieces.

    Loads of one panel with the same word in ``runs_apart`` cannot run at once; ``load_managed`` marks vehicle charging
    whose amount is the setting of a listed load-management system; ``without_diversity`` tells of a farm load whether
    it is expected to run together with the others; ``frame_bonded`` whether an appliance's frame is joined to its neutral; ``motor_driven`` marks an
    appliance that is a motor besides: a disposer, a dishwasher, a pump, and ``fastened_in_place`` a motor that is one of a
    dwelling's appliances: a well pump, a door opener; ``overload_protected`` tells of a motor whether
    it has overload protection.
    """

    enclosure_id: Id
    device_id: Id | None = None
    name: Name = ""
    category: LoadCategory = "other"
    amount: Amount | None = None
    unit: AmountUnit = "VA"
    quantity: Annotated[int, Field(ge=1, le=1000)] = 1
    volts: Volts | None = None
    three_phase: bool = False
    connection: Connection | None = None
    continuous: bool = False
    neutral_used: bool | None = None
    dwelling_unit_id: Id | None = None
    space_kind: SpaceKind | None = None
    occupancy: Occupancy | None = None
    locked_out: bool = False
    load_managed: bool = False
    runs_apart: Annotated[str, StringConstraints(max_length=40)] = ""
    without_diversity: bool | None = None
    motor_driven: bool = False
    fastened_in_place: bool = False
    frame_bonded: bool | None = None
    overload_protected: bool | None = None


class PlannedLoad(Thing):
    """A load that may come later to a panel: nothing is sized for it, but it is told whether there is room."""

    enclosure_id: Id
    name: Name = ""
    category: LoadCategory = "other"
    amount: Amount | None = None
    unit: AmountUnit = "VA"
    volts: Volts | None = None
    three_phase: bool = False
    continuous: bool = False
    dwelling_unit_id: Id | None = None


class Measurement(Thing):
    """The peak that a meter recorded ahead of an enclosure, summed up from its record."""

    enclosure_id: Id
    peak_kw: Amount | None = None
    power_factor: PowerFactor | None = None
    began_on: Name = ""
    days: Amount | None = None
    interval_minutes: Annotated[float, Field(gt=0, le=1440, allow_inf_nan=False)] | None = None
    missing_percent: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] | None = None
    net_metered: bool | None = None
    highest_phase_recorded: bool | None = None
    seasonal_load_allowed_for: bool | None = None
    note: Note = ""
