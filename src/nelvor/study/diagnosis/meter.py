"""The simulated meter: reads a site whose hidden faults it knows, with the error and the burden of a real instrument."""

from __future__ import annotations

import random
from collections.abc import Iterator, Sequence

import numpy as np

from nelvor.study.diagnosis.causes import Cause, Change
from nelvor.study.diagnosis.observables import Observable
from nelvor.study.diagnosis.readings import Meter, Reading
from nelvor.study.diagnosis.responses import Responses

CLAMP, VOLTMETER = "simulated clamp", "simulated voltmeter"
VOLT_ERROR = 0.005
VOLTMETER_OHMS = 1e6
"""What lies between the leads of a voltmeter: it draws so much that what hangs on next to nothing shows less."""


class SimulatedMeter:
    """A clamp and a voltmeter at a site with hidden causes. The same seed reads the same, time after time."""

    def __init__(self, responses: Responses, hidden: Sequence[Cause], meter: Meter, seed: int) -> None:
        self._responses, self._hidden = responses, tuple(hidden)
        self._places = {item.id: at for at, item in enumerate(responses.seen)}
        self._meter, self._seed = meter, seed

    def read(self, observable: Observable) -> Reading:
        """Return a reading of something, as the display shows it."""
        chance = random.Random(f"{self._seed} {observable.id}")
        true = float(np.abs(self._responses.of(*self._hidden, *_burden(observable)))[self._places[observable.id]])
        current = observable.unit == "A"
        share = self._meter.accuracy_percent / 100 if current else VOLT_ERROR
        step = self._meter.resolution if current else 0.1
        shown = round(max(0.0, true * (1 + chance.gauss(0, share))) / step) * step
        return Reading(
            observable=observable.id,
            value=round(shown, 4),
            unit=observable.unit,
            instrument=CLAMP if current else VOLTMETER,
        )


def _burden(observable: Observable) -> Iterator[Cause]:
    """What the meter itself changes: a voltmeter joins the two points that it is put to; a clamp touches nothing."""
    if observable.nodes is not None:
        change = Change(*observable.nodes, 1 / VOLTMETER_OHMS, ("", "", "meter"))
        yield Cause("nothing", observable.id, "The meter itself", (change,))
