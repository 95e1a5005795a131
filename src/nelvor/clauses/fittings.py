"""Bends, expansion and bushings of a raceway."""

from __future__ import annotations

from fractions import Fraction

from nelvor.clauses.ampacity import size_index
from nelvor.working import Figure, Recorder


def bends_hold(recorder: Recorder, bends_deg: Figure) -> bool:
    """Tell whether the bends between pull points stay within a full turn (344.26 and its sisters)."""
    most = recorder.parameter("bends_most_deg", "Most bends between pull points")
    return recorder.at_least("Bends stay within the limit", most, bends_deg, clause="bends_360")


def expansion(recorder: Recorder, length_ft: Figure, span_f: Figure) -> tuple[Figure, bool]:
    """Return how much a PVC run above ground changes in length (inches), and whether it asks for a fitting (352.44)."""
    each = recorder.parameter("pvc_expansion_in_per_100ft_f", "Change for 100 ft and 1 °F")
    hundreds = recorder.multiply(
        "Length in hundreds of feet",
        length_ft,
        recorder.given("per hundred", Fraction(1, 100), "", "per hundred"),
        unit="100 ft",
    )
    change = recorder.multiply("Change in length", each, hundreds, span_f, unit="in", clause="pvc_expansion")
    least = recorder.parameter("pvc_expansion_least_in", "Change that asks for a fitting")
    return change, recorder.at_least("It asks for an expansion fitting", change, least, clause="pvc_expansion")


def needs_bushing(recorder: Recorder, largest: str) -> bool:
    """Tell whether an insulating bushing is asked for: 4 AWG and larger (300.4(G))."""
    return size_index(largest) >= size_index(recorder.parameter("insulating_bushing_size", "Bushing from").text)
