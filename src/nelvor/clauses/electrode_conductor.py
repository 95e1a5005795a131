"""The grounding electrode conductor, and what is enough for a part of it (250.66)."""

from __future__ import annotations

from nelvor.clauses.ampacity import COLUMN, size_index
from nelvor.clauses.by_area_of_hots import size_by_hots
from nelvor.working import Figure, Recorder

MADE = ("rod", "plate")


def electrode_conductor(recorder: Recorder, hots: str, sets: int, material: str, conductor_material: str) -> Figure:
    """Return the size of Table 250.66 for the largest ungrounded conductors."""
    return size_by_hots(
        recorder, "electrode_conductor", hots, sets, material, conductor_material, "Electrode conductor"
    )


def to_electrode(recorder: Recorder, kind: str, full: Figure, material: str) -> Figure:
    """Return the conductor to one electrode alone: to rods and to concrete it need not be as large (250.66(A), (B))."""
    if kind in MADE:
        return to_rods(recorder, full, material)
    if kind == "concrete_encased" and material == "copper":
        return to_concrete_electrode(recorder, full)
    return full


def to_rods(recorder: Recorder, full: Figure, material: str) -> Figure:
    """Return the conductor that serves rods alone: it need not be larger than 6 AWG copper (250.66(A))."""
    limit = recorder.parameter(f"rod_conductor_{COLUMN[material]}", "Enough for rods alone")
    return _smaller(recorder, "Electrode conductor to rods", full, limit, "rod_conductor_not_larger")


def to_concrete_electrode(recorder: Recorder, full: Figure) -> Figure:
    """Return the copper conductor to a concrete-encased electrode: not larger than 4 AWG (250.66(B))."""
    limit = recorder.parameter("concrete_electrode_conductor_cu", "Enough for a concrete-encased electrode alone")
    return _smaller(
        recorder, "Electrode conductor to the concrete-encased electrode", full, limit, "concrete_electrode_conductor"
    )


def _smaller(recorder: Recorder, label: str, full: Figure, limit: Figure, clause: str) -> Figure:
    size = min(full.text, limit.text, key=size_index)
    return recorder.choose(label, size, "AWG/kcmil", [full, limit], clause=clause)
