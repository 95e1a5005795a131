"""The 83 % rule: conductors that carry the whole of one dwelling unit (310.12)."""

from __future__ import annotations

from nelvor.working import Figure, Recorder, shown


def reaches_83_percent(recorder: Recorder, size: str, ampacity: Figure, device: Figure) -> tuple[str, Figure | None]:
    """Return why a size does not reach 83 % of the device that protects a whole dwelling unit, "" where it does, and
    the comparison that was made. Currents in A."""
    share = recorder.parameter("dwelling_share", "Share of the rating for a whole dwelling unit")
    need = recorder.multiply("Ampacity needed for the device", device, share, unit="A", clause="dwelling_83pct")
    if recorder.at_least(f"{size} reaches 83 % of the device", ampacity, need, clause="dwelling_83pct"):
        return "", recorder.last_comparison()
    return f"{size}: {shown(ampacity.number)} A is below 83 % of the {device.text} A device", None
