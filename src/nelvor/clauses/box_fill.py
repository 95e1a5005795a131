"""Boxes for conductors of 6 AWG and smaller: the volume that what is inside takes up (314.16(B))."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from nelvor.clauses.ampacity import size_index
from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder


@dataclass(frozen=True)
class BoxContents:
    """What is in a box, by conductor size: ``conductors`` that pass through or end (spliced ones at each end),
    ``grounds``, and for each yoke with devices the largest conductor on it. ``fittings`` are studs and hickeys."""

    conductors: Sequence[str]
    grounds: Sequence[str] = ()
    device_conductors: Sequence[str] = ()
    internal_clamps: bool = False
    fittings: int = 0


def box_volume(recorder: Recorder, contents: BoxContents) -> Figure:
    """Return the least volume of a box in in³ (314.16(B)).

    Raises:
        CannotCompute: nothing is in the box.
        MissingFigure: a conductor above 6 AWG, whose box goes by its walls.
    """
    everything = [*contents.conductors, *contents.grounds, *contents.device_conductors]
    if not everything:
        raise CannotCompute("Nothing is in the box.", "Enter its conductors.")
    parts = [
        _times(recorder, f"Conductors of {size}", size, Fraction(count))
        for size, count in sorted(Counter(contents.conductors).items(), key=lambda pair: size_index(pair[0]))
    ]
    largest = max(everything, key=size_index)
    if contents.internal_clamps:
        parts.append(_allowance(recorder, "Clamps inside", largest))
    if contents.fittings:
        parts.append(_times(recorder, "Fittings", largest, Fraction(contents.fittings)))
    each_device = recorder.rules.parameter("box_device_allowances").number
    parts += [_times(recorder, f"Devices on {size}", size, each_device) for size in contents.device_conductors]
    if contents.grounds:
        parts.append(_grounds(recorder, contents.grounds))
    return recorder.add("Least volume of the box", *parts, unit="in³", clause="box_fill")


def _allowance(recorder: Recorder, label: str, size: str) -> Figure:
    return recorder.table(f"{label}: one of {size}", "box_volume", (size,), "volume_in3")


def _times(recorder: Recorder, label: str, size: str, count: Fraction) -> Figure:
    each = recorder.table(f"Volume for one of {size}", "box_volume", (size,), "volume_in3")
    number = recorder.given(f"{label}, counted", count, "", "contents of the box")
    return recorder.multiply(label, each, number, unit="in³", clause="box_fill")


def _grounds(recorder: Recorder, grounds: Sequence[str]) -> Figure:
    """All grounding conductors take one volume of the largest; from 2020 those beyond four a quarter each."""
    largest = max(grounds, key=size_index)
    one = _allowance(recorder, "Grounding conductors", largest)
    further = recorder.rules.parameter("box_grounds_further_share").number
    if not further:
        return one
    beyond = len(grounds) - int(recorder.rules.parameter("box_grounds_in_one").value)
    if beyond <= 0:
        return one
    number = recorder.given("Grounding conductors beyond four", beyond, "", "contents of the box")
    share = recorder.parameter("box_grounds_further_share", "A quarter for each")
    more = recorder.multiply("Volume for those", one, number, share, unit="in³", clause="box_fill_grounds")
    return recorder.add("Volume for grounding conductors", one, more, clause="box_fill_grounds")
