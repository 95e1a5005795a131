"""The least rating of a disconnect of a service or building (230.79, 225.39), with a local amendment's."""

from __future__ import annotations

from nelvor.working import Figure, Recorder


def least_disconnect(recorder: Recorder, key: str, clause: str) -> Figure:
    """Return the floor of the edition in A, raised by a local amendment where the job carries one.

    ``key`` is that of the rulebook's parameter, for instance ``service_one_family_disconnect_a``.
    """
    least = recorder.parameter(key, "Least rating of the disconnect")
    for amendment in recorder.rules.amended("disconnect_least_a", "at_least"):
        assert amendment.value is not None  # the rulebook takes in no amendment of a figure without its value
        note = amendment.source_note or "amendment of this job"
        local = recorder.given("Local amendment", amendment.value, "A", note)
        least = recorder.greatest("Least rating with the local amendment", least, local, clause=clause)
    return least
