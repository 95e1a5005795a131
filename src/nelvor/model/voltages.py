"""The voltage systems: volts, phases and legs of each."""

from __future__ import annotations

LINE_TO_NEUTRAL_V = {
    "split_120_240": 120,
    "wye_208_120": 120,
    "wye_480_277": 277,
    "delta_240_high_leg": 120,
    "single_120": 120,
}
LINE_TO_LINE_V = {
    "split_120_240": 240,
    "wye_208_120": 208,
    "wye_480_277": 480,
    "delta_240": 240,
    "delta_240_high_leg": 240,
    "single_240": 240,
}
LEGS = ("L1", "L2", "L3")
THREE_PHASE = frozenset({"wye_208_120", "wye_480_277", "delta_240", "delta_240_high_leg"})
COMPUTED_SYSTEMS = frozenset({"split_120_240", "wye_208_120", "wye_480_277"})


def legs_of(system: str | None) -> tuple[str, ...]:
    """Return the names of the legs of a voltage system."""
    return LEGS if system in THREE_PHASE else LEGS[:2]
