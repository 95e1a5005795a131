"""How deep an underground run must lie (300.5), with a local amendment where the job carries one."""

from __future__ import annotations

from nelvor.clauses.wiring_methods import METHOD_WORDS
from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder

COLUMN_OF_METHOD = {
    "earth": "direct_burial_in",
    "pvc40": "pvc_in",
    "pvc80": "pvc_in",
    "rmc": "rmc_imc_in",
    "imc": "rmc_imc_in",
}


RESIDENTIAL_BRANCH_COLUMN = "res_branch_120v_20a_gfci_in"
RESIDENTIAL_BRANCH_MOST_A = 20
RESIDENTIAL_BRANCH_VOLTS = 120


def cover_needed(recorder: Recorder, method: str, location: str, residential_branch: bool = False) -> Figure:
    """Return the least cover in inches for a wiring method at a location.

    ``residential_branch`` tells of a 120 V branch circuit of a dwelling, 20 A at most with ground-fault protection,
    which may lie less deep; never a feeder.

    Raises:
        CannotCompute: the method has no column of its own in the table.
    """
    column = COLUMN_OF_METHOD.get(method)
    if column is None:
        words = METHOD_WORDS.get(method, method)
        raise CannotCompute(
            f"Cover for {words} underground is not held.", "Choose PVC, RMC or conductors laid in earth."
        )
    needed = recorder.table("Cover by wiring method and location", "burial", (location,), column)
    if residential_branch:
        label = "Cover of a protected residential branch circuit"
        shallow = recorder.table(label, "burial", (location,), RESIDENTIAL_BRANCH_COLUMN)
        needed = recorder.least("The lesser of the two", needed, shallow, clause="burial_depth")
    for amendment in recorder.rules.amended("burial_cover_in", "at_least", "replace"):
        assert amendment.value is not None  # the rulebook takes in no amendment of a figure without its value
        local = recorder.given(
            "Local amendment", amendment.value, "in", amendment.source_note or "amendment of this job"
        )
        if amendment.action == "replace":
            needed = local
        else:
            needed = recorder.greatest("Cover with the local amendment", needed, local, clause="burial_depth")
    return needed
