"""Main and supply-side bonding jumpers, and the least service neutral (Table 250.102(C)(1))."""

from __future__ import annotations

from nelvor.clauses.by_area_of_hots import size_by_hots
from nelvor.working import Figure, Recorder


def supply_side_jumper(recorder: Recorder, hots: str, sets: int, material: str, jumper_material: str) -> Figure:
    """Return the size of Table 250.102(C)(1): main and supply-side jumpers, and the least service neutral.

    Raises:
        CannotCompute: aluminum and copper mixed above the table.
    """
    return size_by_hots(recorder, "bonding_jumper", hots, sets, material, jumper_material, "Bonding jumper")
