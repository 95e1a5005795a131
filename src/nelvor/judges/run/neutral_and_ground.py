"""Of a run: its neutral and its grounding conductor."""

from __future__ import annotations

from nelvor.clauses import bonding_jumper, grounding_conductor, neutral
from nelvor.clauses.ampacity import size_index
from nelvor.clauses.taps import tap_grounding_conductor
from nelvor.judges.run.case import RunCase
from nelvor.judges.run.circumstances import circumstances_of
from nelvor.judges.verdict import Mend, adding, proposing
from nelvor.model.things import Conductor

NO_DEVICE_AHEAD = frozenset({"secondary", "alone"})
FLOORS: dict[str, neutral.FloorBy] = {"service": "service", "secondary": "secondary", "branch": "branch"}


def solve_neutral(case: RunCase) -> None:
    """Choose the neutral, check the locked one, or tell where one is missing."""
    if not case.site.has_conductor(case.run, "neutral"):
        _check_no_neutral(case)
        return
    hots = case.need("hots").text
    circumstances = circumstances_of(case)
    level = case.known_level()
    load = case.recorder.carried("Neutral load", level.neutral, level.recorder)
    device, floor_by = case.need("device"), FLOORS.get(case.kind, "feeder")
    if case.run.neutral_size is None:
        case.figures["neutral"] = neutral.neutral(
            case.recorder,
            circumstances,
            hots,
            load,
            device,
            floor_by=floor_by,
            as_calculated=case.run.neutral_as_calculated,
        )
        return
    least = neutral.least_neutral(case.recorder, circumstances, hots, load, device, floor_by)
    size = case.run.neutral_size
    case.figures["neutral"] = case.recorder.choose("Neutral, locked", size, "AWG/kcmil", [least])
    clause = neutral.CLAUSES[floor_by]
    if size_index(size) < size_index(least.text):
        case.judge.must_fix(
            "neutral_size",
            f"The neutral {size} is smaller than {least.text}.",
            clause,
            "neutral_size",
            Mend(f"Neutral: {size} to {least.text}", proposing("runs", case.run, neutral_size=None)),
        )
    else:
        case.judge.holds("neutral_size", f"Neutral {size} is at least {least.text}.", clause, "neutral_size")


def _check_no_neutral(case: RunCase) -> None:
    """A service always brings its neutral; a feeder needs one where a load beneath uses it, and only there."""
    service = case.kind == "service"
    if not service and not case.known_level().has_line_to_neutral:
        case.judge.holds("neutral_missing", "No load beneath uses a neutral, so none is needed.", "neutral_load")
        return
    start, end = (case.neutral_bar(owner) for owner in (case.site.upstream_of(case.run), case.fed))
    new_id = case.site.free_ids().take(f"{case.run.id}-n")
    conductor_ = Conductor(id=new_id, run_id=case.run.id, role="neutral", from_part=start, to_part=end)
    why = "A service brings its neutral to every disconnect" if service else "Loads beneath use a neutral"
    case.judge.must_fix(
        "neutral_missing",
        f"{why}, and this run has none.",
        "neutral_brought_to_service" if service else "neutral_load",
        mend=Mend("Add the neutral", (adding("conductors", conductor_),)),
    )


def solve_ground(case: RunCase) -> None:
    """Choose the grounding conductor or check the locked one; a service run has none."""
    if case.kind == "service" or not case.site.has_conductor(case.run, "ground"):
        return
    hots, device = case.need("hots").text, case.need("device")
    assert case.smallest_hots is not None  # known where the hots are
    if case.kind in NO_DEVICE_AHEAD:
        metal = str(case.run.material)
        needed = bonding_jumper.supply_side_jumper(case.recorder, hots, case.run.sets, metal, case.ground_material())
    elif case.run.id in case.site.tap_of_run:
        needed = tap_grounding_conductor(case.recorder, device, case.ground_material(), hots)
    else:
        needed = grounding_conductor.grounding_conductor(
            case.recorder, device, case.ground_material(), hots, case.smallest_hots, case.run.sets
        )
    if case.run.ground_size is None:
        case.figures["ground"] = needed
        return
    size = case.run.ground_size
    case.figures["ground"] = case.recorder.choose("Grounding conductor, locked", size, "AWG/kcmil", [needed])
    if size_index(size) < size_index(needed.text):
        raised = size_index(hots) > size_index(case.smallest_hots)
        why = "raised with the hots, which are larger than needed" if raised else f"for a {device.text} A device"
        case.judge.must_fix(
            "ground_size",
            f"The grounding conductor {size} is smaller than {needed.text}, {why}.",
            "egc_upsize" if raised else "egc_size",
            "ground_size",
            Mend(f"Grounding conductor: {size} to {needed.text}", proposing("runs", case.run, ground_size=None)),
        )
    else:
        case.judge.holds(
            "ground_size", f"Grounding conductor {size} is at least {needed.text}.", "egc_size", "ground_size"
        )
