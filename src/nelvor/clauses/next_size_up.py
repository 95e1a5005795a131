"""The next standard size up: how large a device may protect an ampacity (240.4(B))."""

from __future__ import annotations

from nelvor.working import Figure, Recorder


def largest_device(recorder: Recorder, ampacity: Figure, next_size_up: bool = True) -> Figure | None:
    """Return the largest device that may protect an ampacity by the next-size-up rule, or None when it gives nothing.

    Not for taps, nor for branch circuits with several receptacles for portable loads; not where the ampacity is
    itself a standard rating; up to 800 A (240.4(B)).
    """
    standard = recorder.rules.standard_ratings(breakers_only=False)
    if not next_size_up or recorder.rules.is_standard_rating(ampacity.number, breakers_only=False):
        return None
    limit = recorder.rules.parameter("next_size_up_limit_a").number
    chosen = recorder.next_up("Next standard rating above the ampacity", ampacity, standard, "next_size_up_ocpd")
    return chosen if chosen is not None and chosen.number <= limit else None
