"""The overcurrent device of a feeder or branch circuit: at least the load with its continuous part at 125 %, in a standard rating."""

from __future__ import annotations

from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder


def smallest_device(recorder: Recorder, design: Figure) -> Figure:
    """Return the smallest standard rating that carries the design load (210.20, 215.3, 240.6(A)).

    Raises:
        CannotCompute: the load is above the largest standard rating.
    """
    chosen = recorder.next_up("Device", design, recorder.rules.standard_ratings(), "standard_ocpd")
    if chosen is None:
        raise CannotCompute(f"No standard device carries {design.text} A.", "Split the load over several feeders.")
    return chosen
