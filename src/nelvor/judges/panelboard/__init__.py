"""Circuits in their spaces: how each lies on the bus and its legs, and whether breaker, wires and load go together."""

from nelvor.judges.panelboard.placed import PlacedCircuit
from nelvor.judges.panelboard.schedule import ScheduleAnswer, schedule_answers

__all__ = ["PlacedCircuit", "ScheduleAnswer", "schedule_answers"]
