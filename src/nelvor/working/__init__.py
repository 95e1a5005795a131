"""The record of how a figure came about."""

from nelvor.working.number import exact, shown
from nelvor.working.recorder import Figure, Recorder

__all__ = ["Figure", "Recorder", "exact", "shown"]
