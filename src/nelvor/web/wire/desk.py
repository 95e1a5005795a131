"""The desk of a utility."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import Field

from nelvor.model.vocabulary import System
from nelvor.web.endpoint import Body
from nelvor.web.wire.base import Answer


class EnquiryBody(Body):
    """What a utility is asked: its number of the premises, the system, the rating of the service in A."""

    premises: Annotated[str, Field(max_length=40)]
    system: System
    service_a: Annotated[float, Field(gt=0, le=20_000, allow_inf_nan=False)]


class LetterOut(Answer):
    """What the desk tells; ``simulated`` where it is made up."""

    fault_current_a: int
    transformer_kva: float
    impedance_percent: float
    worked_out_on: date
    good_until: date
    reference: str
    simulated: bool
