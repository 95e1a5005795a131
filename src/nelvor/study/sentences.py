"""What the outcome of a study means, in two sentences that a customer understands, and how bad it is."""

from __future__ import annotations

from typing import Literal, NamedTuple

from nelvor.report.check import Report
from nelvor.study.shapes import DeviceOut, RunCurrentsOut, StudyOut
from nelvor.topology.names import name_of, run_name, thing_name
from nelvor.topology.site import Site

STRAY_A = 0.1
"""From here on current on metal is told as such; earth always carries a little."""

TOUCH_V = 30.0
"""Volts on metal from which a person is in danger where it is wet or outdoors."""

LEAST_VOLTS = 0.1
OVER, UNDER = 1.1, 0.85


class Told(NamedTuple):
    """The sentences, and how bad it is."""

    sentences: list[str]
    danger: Literal["none", "wrong", "lethal"]


def sentences(report: Report, outcome: StudyOut) -> Told:
    """Return the two sentences of an outcome."""
    site = report.site
    match outcome.situation.kind:
        case "ground_fault" | "short_circuit" | "line_to_neutral":
            return _fault(site, outcome)
        case "neutral_open":
            return _neutral_open(site, outcome)
        case "ground_open":
            return _ground_open(site, outcome)
        case _:
            return _as_it_stands(report, outcome)


def _as_it_stands(report: Report, outcome: StudyOut) -> Told:
    stray = _on_metal(report, outcome)
    if not stray:
        return Told(
            [
                "All current goes out on the lines and comes back on the neutral.",
                "Metal carries none and stands at earth.",
            ],
            "none",
        )
    most = max(stray, key=_metal_amperes)
    first = (
        f"{_metal_amperes(most):.3g} A of neutral current come back over the metal of {most.name}, where none belongs."
    )
    touched = max((box.metal or 0.0 for box in outcome.boxes), default=0.0)
    second = f"Metal stands at {_volts(touched)} V to earth at most, and no breaker feels any of it."
    return Told([first, second], "wrong")


def _fault(site: Site, outcome: StudyOut) -> Told:
    place = name_of(site, outcome.situation.place or "")
    opening = [item for item in outcome.devices if item.opens in ("opens", "at_once")]
    what = {"ground_fault": "the metal", "line_to_neutral": "the neutral"}.get(outcome.situation.kind, "another line")
    if outcome.arc_holds is False:
        text = f"An arc of {outcome.situation.arc_volts:g} V from {outcome.situation.leg} to {what} of {place} goes out by itself."
        return Told([text, "It strikes again while the fault is there: no breaker has to feel it."], "wrong")
    through = "" if outcome.arc_holds is None else "through an arc "
    flows = f"{outcome.fault_a or 0:.4g} A flow {through}from {outcome.situation.leg} to {what} of {place}"
    touched = max(outcome.boxes, key=lambda box: box.metal or 0.0, default=None)
    volts = touched.metal if touched is not None and touched.metal is not None else 0.0
    first = min(opening, key=lambda item: item.within_s if item.within_s is not None else 9e9, default=None)
    last = max(outcome.shuts_off, key=lambda item: item.within_s, default=None)
    if last is not None and (first is None or first.within_s is None or last.within_s < first.within_s):
        text = f"{flows}; {last.name} shuts itself off after {last.within_s:g} s, before a breaker has to open."
        return Told([text, "The fault is there still when it starts again, and nothing has been cleared."], "wrong")
    if first is not None:
        text = f"{flows}; {_device(site, first)} opens {_when(first)}."
        return Told([text, f"Until then metal stands at {_volts(volts)} V to earth."], "none")
    text = f"{flows}, and no breaker opens."
    where = f"{touched.name}" if touched is not None else place
    return Told([text, f"The metal of {where} stays at {_volts(volts)} V to earth for as long as it lasts."], "lethal")


def _neutral_open(site: Site, outcome: StudyOut) -> Told:
    run = run_name(site, site.runs[str(outcome.situation.place)])
    worst = max(outcome.loads, key=lambda item: item.volts / item.rated_v, default=None)
    least = min(outcome.loads, key=lambda item: item.volts / item.rated_v, default=None)
    stray = max((_metal_amperes(item) for item in outcome.runs), default=0.0)
    if worst is None or least is None or (worst.volts <= OVER * worst.rated_v and least.volts >= UNDER * least.rated_v):
        if stray < STRAY_A:
            return Told(
                [f"The neutral of {run} carries nothing now, so that nothing shows.", "It has to be mended."], "wrong"
            )
        text = f"The loads behind {run} notice nothing: {stray:.3g} A of their neutral current come back over metal."
        return Told([text, "Whoever opens that metal stands between the loads and the neutral."], "lethal")
    text = (
        f"With the neutral of {run} open, {worst.name} gets {_volts(worst.volts)} V instead of {worst.rated_v:g} V and "
        f"{least.name} {_volts(least.volts)} V."
    )
    touched = max((box.metal or 0.0 for box in outcome.boxes), default=0.0)
    return Told([text, f"No breaker opens; metal stands at {_volts(touched)} V to earth."], "lethal")


def _ground_open(site: Site, outcome: StudyOut) -> Told:
    run = run_name(site, site.runs[str(outcome.situation.place)])
    first = f"Nothing shows while all is well: the grounding conductor of {run} carries nothing anyway."
    second = "Try a ground fault behind it with the conductor taken out of the design: nothing would open."
    return Told([first, second], "wrong")


def _on_metal(report: Report, outcome: StudyOut) -> list[RunCurrentsOut]:
    """Runs whose metal carries current; ahead of the service disconnect metal hangs on the neutral and always does."""
    behind = (item for item in outcome.runs if report.runs[item.id].kind not in ("service", "utility"))
    return [item for item in behind if _metal_amperes(item) >= STRAY_A]


def _metal_amperes(run: RunCurrentsOut) -> float:
    return run.amperes.get("ground", 0.0) + run.amperes.get("raceway", 0.0)


def _volts(value: float) -> str:
    """Volts with as many digits as tell something."""
    if value < LEAST_VOLTS:
        return "less than 0.1"
    return f"{value:.1f}" if value < 10 else f"{value:.0f}"


def _device(site: Site, device: DeviceOut) -> str:
    rating = f"the {device.rating_a:g} A breaker" if device.rating_a is not None else "the breaker"
    return f"{rating} {thing_name(site, device.id)} in {name_of(site, device.place)}"


def _when(device: DeviceOut) -> str:
    if device.opens == "at_once":
        return "at once"
    return f"within {device.within_s:g} s at the latest" if device.within_s is not None else "in time"
