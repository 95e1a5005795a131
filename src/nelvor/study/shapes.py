"""The shapes of what a study answers: currents of runs and bonds, volts of boxes, devices, loads, and its proof."""

from __future__ import annotations

from typing import Literal

from nelvor.report.sent import Wire
from nelvor.study.situation import Situation
from nelvor.study.trip import Opens


class RunCurrentsOut(Wire):
    """The currents of one run in A by role: legs, neutral, ground, raceway. ``along`` tells whether that of its metal
    and neutral flows as the run is drawn (1) or back (-1)."""

    id: str
    name: str
    amperes: dict[str, float]
    along: dict[str, int]


class ThingCurrentOut(Wire):
    """The current of a bond, an electrode or a fault in A."""

    list: str
    id: str
    name: str
    place: str
    amperes: float


class BoxVoltsOut(Wire):
    """Volts of an enclosure's metal and neutral against earth; None where they float."""

    id: str
    name: str
    metal: float | None
    neutral: float | None


Felt = Literal["unknown", "nothing", "felt", "cannot_let_go", "lethal"]


class TouchOut(Wire):
    """Two things touched at once ("earth" for the ground beneath), the volts between them in V, what flows through a body
    of stated resistance in mA, and how that is felt; None and unknown where a part floats."""

    a: str
    b: str
    name: str
    volts: float | None
    milliamperes: float | None
    felt: Felt


class DeviceOut(Wire):
    """What flows through a device, and whether it opens by a generic band."""

    id: str
    name: str
    place: str
    rating_a: float | None
    amperes: float
    opens: Opens
    within_s: float | None


class ShutsOffOut(Wire):
    """A source that limits what it gives into a fault, and the seconds after which it shuts itself off."""

    id: str
    name: str
    within_s: float


class LoadVoltsOut(Wire):
    """The volts across a load, and those that it is made for."""

    id: str
    name: str
    place: str
    volts: float
    rated_v: float


class AvailableHere(Wire):
    """The available fault current at one box in A; None where it does not arise."""

    id: str
    name: str
    line_to_line: float | None
    line_to_neutral: float | None
    three_phase: float | None
    motors_at_most: float = 0.0


class FarEndOut(Wire):
    """A box where a line that touches metal lets ``amperes`` flow, less than makes the breaker ahead open at once.

    ``at_once_up_to_ft`` is the length of its run up to which it would, None where no length does; ``sizes_that_do`` are
    those with which it would at this length, "" where none does.
    """

    id: str
    name: str
    run: str
    device: str
    amperes: float
    at_once_from_a: float
    opens: Opens
    within_s: float | None
    length_ft: float | None
    at_once_up_to_ft: float | None
    sizes_that_do: str


class AvailableOut(Wire):
    """The available fault current at every box, and what is assumed of it. What motors give at most comes on top.

    ``told``: every source has told what it gives into a fault; where one is assumed, nothing of it may go on a label.
    """

    boxes: list[AvailableHere]
    far_ends: list[FarEndOut]
    told: bool
    assumed: list[str]


class ProofOut(Wire):
    """What the solution leaves over: amperes by Kirchhoff's law, and the share of power not accounted for."""

    nodes: int
    branches: int
    residual_a: float
    imbalance: float


class StudyOut(Wire):
    """The outcome of one situation in one position. ``danger`` is how bad it is.

    ``fault_a`` is what flows in the fault, in A. ``arc_holds`` tells whether its arc does, None where there is none.
    """

    position: str
    situation: Situation
    sentences: list[str]
    danger: Literal["none", "wrong", "lethal"]
    runs: list[RunCurrentsOut]
    bonds: list[ThingCurrentOut]
    electrodes: list[ThingCurrentOut]
    fault_a: float | None
    arc_holds: bool | None
    shuts_off: list[ShutsOffOut]
    boxes: list[BoxVoltsOut]
    touches: list[TouchOut]
    devices: list[DeviceOut]
    loads: list[LoadVoltsOut]
    floating: list[str]
    assumed: list[str]
    proof: ProofOut
