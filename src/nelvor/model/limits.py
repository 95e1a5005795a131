"""The kinds of numbers that fields hold, each with its limits."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nelvor.model.base import LARGEST_AMOUNT

Amount = Annotated[float, Field(ge=0, le=LARGEST_AMOUNT, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, le=LARGEST_AMOUNT, allow_inf_nan=False)]
Volts = Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)]
Celsius = Annotated[float, Field(ge=-50, le=85, allow_inf_nan=False)]
Termination = Annotated[int, Field(json_schema_extra={"enum": [60, 75, 90]})]
Inches = Annotated[float, Field(gt=0, le=600, allow_inf_nan=False)]
Cover = Annotated[float, Field(ge=0, le=240, allow_inf_nan=False)]
Bundled = Annotated[int, Field(ge=0, le=100)]
Poles = Annotated[int, Field(ge=1, le=3)]
Space = Annotated[int, Field(ge=1, le=200)]
Torque = Annotated[float, Field(gt=0, le=5000, allow_inf_nan=False)]
Interrupting = Annotated[float, Field(gt=0, le=300_000, allow_inf_nan=False)]
Seconds = Annotated[float, Field(gt=0, le=3600, allow_inf_nan=False)]
FaultCurrent = Annotated[float, Field(gt=0, le=500_000, allow_inf_nan=False)]
Impedance = Annotated[float, Field(gt=0, le=50, allow_inf_nan=False)]
PowerFactor = Annotated[float, Field(ge=0.01, le=1, allow_inf_nan=False)]
