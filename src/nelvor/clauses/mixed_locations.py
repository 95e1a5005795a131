"""Which ampacity governs a run that passes through places of several (310.14(A)(2))?"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from nelvor.working import Figure, Recorder


@dataclass(frozen=True)
class Portion:
    """A part of a run with its ampacity in A and its length in ft.

    ``cooler_insulation`` marks a part where the insulation itself is rated for less: it always counts.
    """

    ampacity: Figure
    length_ft: Fraction
    cooler_insulation: bool = False


def governing_ampacity(recorder: Recorder, size: str, portions: Sequence[Portion]) -> Figure:
    """Return the highest ampacity for which all that is lower is short: 10 ft at most, and a tenth of the circuit."""
    whole = sum((portion.length_ft for portion in portions), Fraction(0))
    for ampacity in sorted({portion.ampacity.number for portion in portions}, reverse=True):
        counted = [item for item in portions if item.ampacity.number >= ampacity or item.cooler_insulation]
        lower_ft = whole - sum((portion.length_ft for portion in counted), Fraction(0))
        if lower_ft == 0 or _short_enough(recorder, lower_ft, whole):
            figures = [portion.ampacity for portion in counted]
            return recorder.least(f"{size} along the whole run", *figures, clause="mixed_locations")
    raise AssertionError("the lowest ampacity of a run always counts")


def _short_enough(recorder: Recorder, lower_ft: Fraction, whole_ft: Fraction) -> bool:
    of_total = recorder.rules.parameter("mixed_location_of_total").value == "1"
    label = "Length of the run" if of_total else "Length at the higher ampacity"
    base = recorder.given(label, whole_ft if of_total else whole_ft - lower_ft, "ft", "run and its stretches")
    share = recorder.parameter("mixed_location_share", "A tenth")
    tenth = recorder.multiply("A tenth of it", base, share, unit="ft", clause="mixed_locations")
    limit = recorder.parameter("mixed_location_gap_ft", "At most")
    most = recorder.least("The lower ampacity may be passed over along", limit, tenth, clause="mixed_locations")
    lower = recorder.given("Length at the lower ampacity", lower_ft, "ft", "stretches")
    return recorder.at_least("That part is short enough", most, lower, clause="mixed_locations")
