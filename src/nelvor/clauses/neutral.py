"""The neutral of a run: its load, and the least size that a fault asks of it."""

from __future__ import annotations

from functools import partial
from typing import Literal

from nelvor.clauses.ampacity import Circumstances, final_ampacity, first_that_may_reach, size_index
from nelvor.clauses.bonding_jumper import supply_side_jumper
from nelvor.clauses.grounding_conductor import by_device
from nelvor.clauses.hot_conductors import SizeChoice
from nelvor.errors import MissingFigure
from nelvor.model.vocabulary import SIZES
from nelvor.rulebook.rules import Rules
from nelvor.working import Figure, PassedOver, Recorder

FloorBy = Literal["service", "secondary", "feeder", "branch"]
CLAUSES: dict[FloorBy, str] = {
    "service": "neutral_brought_to_service",
    "secondary": "neutral_of_derived_system",
    "feeder": "egc_neutral_min_grounded",
    "branch": "neutral_load",
}


def neutral(
    recorder: Recorder,
    circumstances: Circumstances,
    hots: str,
    load: Figure,
    device: Figure,
    *,
    floor_by: FloorBy,
    as_calculated: bool,
) -> Figure:
    """Return the neutral's size: as the hots, or the smallest that its load and the floor allow.

    The floor is Table 250.122 for a feeder's device (215.2) and Table 250.102(C)(1) for a service (250.24);
    a branch circuit has none. In parallel sets no conductor is smaller than 1/0 (310.10(G)).
    """
    if not as_calculated:
        return recorder.choose("Neutral, as large as the hots", hots, "AWG/kcmil", [], clause="neutral_load")
    floors = _floors(recorder, circumstances, hots, device, floor_by)
    carrying = _carrying(recorder, circumstances, load)
    size = min(max([carrying.size, *(floor.text for floor in floors)], key=size_index), hots, key=size_index)
    return recorder.choose(
        "Neutral", size, "AWG/kcmil", [carrying.figure, *floors], clause=CLAUSES[floor_by], refused=carrying.passed_over
    )


def least_neutral(
    recorder: Recorder, circumstances: Circumstances, hots: str, load: Figure, device: Figure, floor_by: FloorBy
) -> Figure:
    """Return the smallest lawful neutral, against which a locked one is checked."""
    return neutral(recorder, circumstances, hots, load, device, floor_by=floor_by, as_calculated=True)


def _floors(
    recorder: Recorder, circumstances: Circumstances, hots: str, device: Figure, floor_by: FloorBy
) -> list[Figure]:
    metal = circumstances.material
    floors: list[Figure] = []
    match floor_by:
        case "service" | "secondary":  # each raceway's neutral goes by its own hots (250.24)
            floors.append(supply_side_jumper(recorder, hots, 1, metal, metal))
        case "feeder":
            floors.append(by_device(recorder, device, metal, "Least neutral for the device"))
    if circumstances.sets > 1:
        floors.append(recorder.parameter("parallel_least_size", "Smallest conductor in parallel sets"))
    return floors


def _carrying(recorder: Recorder, circumstances: Circumstances, load: Figure) -> SizeChoice:
    first = first_that_may_reach(recorder, circumstances, load.number)
    refused: PassedOver = partial(_why_not, recorder.rules, SIZES[first - 1], circumstances, load) if first else ""
    for size in SIZES[first:]:
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
        refused = _below(size, ampacity, load)
    raise MissingFigure(
        "the ampacity table", f"{load.text} A of neutral load", recorder.rules.edition, "up to 2000 kcmil"
    )


def _why_not(rules: Rules, size: str, circumstances: Circumstances, load: Figure) -> str:
    try:
        return _below(size, final_ampacity(Recorder(rules), size, circumstances)[1], load)
    except MissingFigure:
        return ""


def _below(size: str, ampacity: Figure, load: Figure) -> str:
    return f"{size}: {ampacity.text} A is below the neutral load of {load.text} A"
