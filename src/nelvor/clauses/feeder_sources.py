"""Sources that join a feeder between its ends: what the part beyond them carries (705.12(A)(2), 2023 numbering)."""

from __future__ import annotations

from dataclasses import dataclass

from nelvor.working import Figure, Recorder


@dataclass(frozen=True)
class FeederCase:
    """A feeder with its device ahead, its ampacity and what sources push in between its ends. Currents in A.

    ``end_device`` stands at the far end; ``tapped_once`` tells that nothing but the sources leaves it on the way there.
    """

    ampacity: Figure
    primary: Figure
    output: Figure
    end_device: Figure | None
    tapped_once: bool


@dataclass(frozen=True)
class FeederRule:
    """How it ends, by which clause: ``passes`` is None where it hangs on how the office reads it.

    ``largest`` is the output of all sources there that the conductors would take beside the device ahead; None: none.
    ``together`` is what they would have to carry.
    """

    clause: str
    passes: bool | None
    why: str
    largest: Figure | None
    together: Figure


def on_feed_through_lugs(recorder: Recorder, case: FeederCase) -> FeederRule:
    """Return how conductors on feed-through lugs are judged that sources push back through: as a feeder with sources.

    ``end_device`` of the case is one that counts in the edition, as the device at their supply end.
    """
    clause = "bus_feed_through"
    factor = recorder.parameter("source_output_factor", "Output of sources at")
    raised = recorder.multiply("Output at 125 %", case.output, factor, unit="A", clause=clause)
    together = recorder.add("Device ahead and output", case.primary, raised, clause=clause)
    largest = None
    if case.ampacity.number > case.primary.number:
        room = recorder.subtract("Left by the device ahead", case.ampacity, case.primary, clause=clause)
        largest = recorder.divide("Largest output of all sources", room, factor, "A", clause=clause)
    sums = f"the device ahead and 125 % of the output are {together.text} A, they carry {case.ampacity.text} A"
    if recorder.at_least("Conductors carry both", case.ampacity, together, clause=clause):
        return FeederRule(clause, True, f"Conductors on feed-through lugs: {sums}.", largest, together)
    if case.end_device is not None and recorder.at_least(
        "Device at their end protects them", case.ampacity, case.end_device, clause=clause
    ):
        text = f"Conductors on feed-through lugs: {sums}; a device of {case.end_device.text} A stands at their end."
        return FeederRule(clause, True, text, largest, together)
    text = f"Conductors on feed-through lugs: {sums}. Larger conductors, or a device at their supply end."
    return FeederRule(clause, False, text, largest, together)


def beyond_the_sources(recorder: Recorder, case: FeederCase) -> FeederRule:
    """Return how the part beyond the sources is judged: by its ampacity, else by a device that limits it."""
    clause = "interconnect_feeder"
    factor = recorder.parameter("source_output_factor", "Output of sources at")
    raised = recorder.multiply("Output at 125 %", case.output, factor, unit="A", clause=clause)
    largest = None
    if case.ampacity.number > case.primary.number:
        room = recorder.subtract("Left by the device ahead", case.ampacity, case.primary, clause=clause)
        largest = recorder.divide("Largest output of all sources", room, factor, "A", clause=clause)
    together = recorder.add("Device ahead and output", case.primary, raised, clause=clause)
    sums = (
        f"the device ahead and 125 % of the output are {together.text} A, its conductors carry {case.ampacity.text} A"
    )
    if recorder.at_least("The part beyond carries both", case.ampacity, together, clause=clause):
        return FeederRule(clause, True, f"Beyond the sources {sums}.", largest, together)
    clause = "interconnect_feeder_device"
    if case.end_device is None or not recorder.at_least(
        "Device at the end is enough for it", case.ampacity, case.end_device, clause=clause
    ):
        text = (
            f"Beyond the sources {sums}. Larger conductors, or a device where the sources join, for what lies beyond."
        )
        return FeederRule("interconnect_feeder", False, text, largest, together)
    device = f"the device at the end, {case.end_device.text} A, keeps them from more"
    if case.tapped_once:
        text = (
            f"Beyond the sources {sums}; {device}. Whether it may stand there instead of at the joint, ask the office."
        )
        return FeederRule(clause, None, text, largest, together)
    text = f"Beyond the sources {sums}; {device}, but other taps leave it on the way."
    return FeederRule(clause, False, text, largest, together)
