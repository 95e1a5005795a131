"""The neutral of a run: its load, and the least size that a fault asks of it."""

from __future__ import annotations

from nelvor.errors import MissingFigure
from nelvor.model.vocabulary import SIZES
from nelvor.rules.conductor import Circumstances, SizeChoice, final_ampacity, size_index
from nelvor.rules.grounding import by_device, supply_side_jumper
from nelvor.working import Figure, Recorder


def neutral(
    recorder: Recorder,
    circumstances: Circumstances,
    hots: str,
    load: Figure,
    device: Figure,
    *,
    service: bool,
    as_calculated: bool,
) -> Figure:
    """Return the neutral's size: as the hots, or the smallest that its load and the floor allow.

    The floor is Table 250.122 for a feeder's device (215.2) and Table 250.102(C)(1) for a service (250.24).
    """
    if not as_calculated:
        return recorder.choose("Neutral, as large as the hots", hots, "AWG/kcmil", [], clause="neutral_load")
    floor = _floor(recorder, circumstances, hots, device, service)
    carrying = _carrying(recorder, circumstances, load)
    size = min(max(carrying.size, floor.text, key=size_index), hots, key=size_index)
    clause = "neutral_brought_to_service" if service else "egc_neutral_min_grounded"
    return recorder.choose(
        "Neutral", size, "AWG/kcmil", [carrying.figure, floor], clause=clause, refused=carrying.refused
    )


def least_neutral(
    recorder: Recorder, circumstances: Circumstances, hots: str, load: Figure, device: Figure, service: bool
) -> Figure:
    """Return the smallest lawful neutral, against which a locked one is checked."""
    return neutral(recorder, circumstances, hots, load, device, service=service, as_calculated=True)


def _floor(recorder: Recorder, circumstances: Circumstances, hots: str, device: Figure, service: bool) -> Figure:
    if service:
        return supply_side_jumper(recorder, hots, circumstances.sets, circumstances.material, circumstances.material)
    return by_device(recorder, device, circumstances.material, "Least neutral for the device")


def _carrying(recorder: Recorder, circumstances: Circumstances, load: Figure) -> SizeChoice:
    refused = ""
    for size in SIZES:
        mark = recorder.mark()
        try:
            _, ampacity = final_ampacity(recorder, size, circumstances)
        except MissingFigure:
            recorder.forget(mark)
            continue
        if recorder.at_least(f"{size} carries the neutral load", ampacity, load, clause="neutral_load"):
            figure = recorder.choose("Neutral for its load", size, "AWG/kcmil", [recorder.last_comparison()])
            return SizeChoice(size, figure, ampacity, refused)
        recorder.forget(mark)
        refused = f"{size}: {ampacity.text} A is below the neutral load of {load.text} A"
    raise MissingFigure(
        "the ampacity table", f"{load.text} A of neutral load", recorder.rules.edition, "up to 2000 kcmil"
    )
