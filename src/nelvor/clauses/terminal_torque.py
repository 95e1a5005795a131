"""How tight a terminal is made (110.14(D)): what its label says, or where nothing is marked, Informative Annex I.

The annex is advice, not a rule: a figure marked on the equipment always governs.
"""

from __future__ import annotations

from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder

BY_SIZE = {
    "slotted_narrow": "I1_slotted_10up_slot_w_le_0.047in_and_l_le_1/4in",
    "slotted": "I1_slotted_10up_slot_w_gt_0.047in_or_l_gt_1/4in",
    "hex_split_bolt": "I1_hex_external_split_bolt",
    "hex": "I1_hex_external_other",
}
BY_DRIVER = "I3_recessed_allen_or_square_across_flats_in"
SOCKETS = {
    "socket_1_8": "1/8",
    "socket_5_32": "5/32",
    "socket_3_16": "3/16",
    "socket_7_32": "7/32",
    "socket_1_4": "1/4",
    "socket_5_16": "5/16",
    "socket_3_8": "3/8",
    "socket_1_2": "1/2",
    "socket_9_16": "9/16",
}

SMALL_NARROW = "I2_slotted_under_10_slot_w_lt_0.047in_by_slot_length_in"
SMALL_WIDE = "I2_slotted_under_10_slot_w_ge_0.047in_by_slot_length_in"
SMALL_SLOTTED = {
    "small_narrow_under_5_32": (SMALL_NARROW, "under 5/32"),
    "small_narrow_5_32": (SMALL_NARROW, "5/32"),
    "small_narrow_3_16": (SMALL_NARROW, "3/16"),
    "small_narrow_7_32": (SMALL_NARROW, "7/32"),
    "small_narrow_1_4": (SMALL_NARROW, "1/4"),
    "small_wide_under_5_32": (SMALL_WIDE, "under 5/32"),
    "small_wide_5_32": (SMALL_WIDE, "5/32"),
    "small_wide_3_16": (SMALL_WIDE, "3/16"),
    "small_wide_7_32": (SMALL_WIDE, "7/32"),
    "small_wide_1_4": (SMALL_WIDE, "1/4"),
    "small_wide_9_32": (SMALL_WIDE, "9/32"),
    "small_wide_over_9_32": (SMALL_WIDE, "over 9/32"),
}
"""Slotted screws smaller than No. 10, by the width and the length of the slot."""


def terminal_torque(recorder: Recorder, marked_lb_in: float | None, screw: str | None, size: str | None) -> Figure:
    """Return the torque of a terminal in lb-in: what is marked on it, else that of its screw in Informative Annex I.

    Raises:
        CannotCompute: neither mark nor screw is told, or the size of the conductor is not.
        MissingFigure: the annex has no figure for this screw and size.
    """
    if marked_lb_in is not None:
        return recorder.given("Torque marked on it", marked_lb_in, "lb-in", "label of the equipment")
    if screw in SOCKETS:
        return recorder.table("Torque of a socket screw", "torque", (BY_DRIVER, SOCKETS[screw]), "lb_in")
    if screw in SMALL_SLOTTED:
        return recorder.table("Torque of a small slotted screw", "torque", SMALL_SLOTTED[screw], "lb_in")
    if screw is None:
        raise CannotCompute("Neither a marked torque nor the kind of the screw is entered.", "Read its label.")
    if size is None:
        raise CannotCompute("The size of the conductor on this screw is not known.", "Enter it.")
    return recorder.table(f"Torque for {size}", "torque", (BY_SIZE[screw], size), "lb_in")
