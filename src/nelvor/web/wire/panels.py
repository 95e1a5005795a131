"""Circuits of one panel."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nelvor.model.things import Circuit, Device
from nelvor.web.wire.base import Answer, DocumentBody, State


class CircuitListBody(DocumentBody):
    """A list of circuits as text, for one bus: CSV, or lines as on the door of a panel."""

    state: State = "proposed"
    text: Annotated[str, Field(max_length=200_000)]
    bus_id: Annotated[str, Field(max_length=40)]


class CircuitListOut(Answer):
    devices: list[Device]
    circuits: list[Circuit]


class BusBody(DocumentBody):
    """Which bus of a document a question is about."""

    state: State = "proposed"
    bus_id: Annotated[str, Field(max_length=40)]


class CircuitTextOut(Answer):
    csv: str


class TakeOverBody(DocumentBody):
    """Whose circuits are to go into which other bus, which of them (all where not told), and how much further cables reach."""

    bus_id: Annotated[str, Field(max_length=40)]
    to_bus_id: Annotated[str, Field(max_length=40)]
    distance_ft: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] | None = None
    chosen: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=200)] | None = None


class SwitchesBody(DocumentBody):
    """Which box of switches, by its gear, and which circuits it is to move: those that it moves now where none is told."""

    transfer_id: Annotated[str, Field(max_length=40)]
    chosen: Annotated[list[Annotated[str, Field(max_length=40)]], Field(max_length=200)] | None = None


class BalanceBody(DocumentBody):
    """Which bus is to be balanced, and within how many amperes its legs are to come."""

    state: State = "proposed"
    bus_id: Annotated[str, Field(max_length=40)]
    within_a: Annotated[float, Field(ge=0, le=6000, allow_inf_nan=False)] = 5.0
