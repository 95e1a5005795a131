"""The record of how a figure came about."""

from nelvor.working.asked_once import asked_once
from nelvor.working.number import difference, exact, greatest, least, product, quotient, reaches, shown, total
from nelvor.working.recorder import Figure, PassedOver, Recorder, told

__all__ = [
    "Figure",
    "PassedOver",
    "Recorder",
    "asked_once",
    "difference",
    "exact",
    "greatest",
    "least",
    "product",
    "quotient",
    "reaches",
    "shown",
    "told",
    "total",
]
