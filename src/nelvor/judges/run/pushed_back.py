"""What the sources beneath a run push back through it, beside what it carries to loads (705.12, 705.28, 705.30).

Its conductors and its device carry 125 % of that. Where sources join the run between its ends, the part beyond them can
carry the device ahead and the sources together, unless a device there limits it.
"""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction

from nelvor.clauses.ampacity import final_ampacity, size_index
from nelvor.clauses.device_rating import smallest_device
from nelvor.clauses.feeder_sources import FeederCase, beyond_the_sources, on_feed_through_lugs
from nelvor.errors import MissingFigure
from nelvor.judges.bus_large_enough import raising
from nelvor.judges.run.case import RunCase
from nelvor.judges.run.circumstances import circumstances_of
from nelvor.judges.source_currents import device_on_feed_through, output_through
from nelvor.judges.verdict import Mend, proposing
from nelvor.model.things import Device, Run, Source, Tap
from nelvor.model.vocabulary import SIZES
from nelvor.topology.names import name_of
from nelvor.topology.pushed_in import source_device
from nelvor.working import Figure, Recorder, exact

LABEL = "Output at 125 %, pushed back through it"


def take_in(case: RunCase) -> None:
    """Add to the load of a run what the sources beneath it push back; a run of sources alone carries nothing else."""
    sources = case.site.sources_beneath.get(case.fed)
    total = _together(case, sources.values()) if sources else None
    if total is None:
        return
    factor = case.recorder.parameter("source_output_factor", "Output of sources at")
    raised = case.recorder.multiply(LABEL, total, factor, unit="A", clause="interconnect_feeder_source")
    case.figures["pushed_back"] = raised
    load, design = case.need("load"), case.need("design")
    case.design_of_loads = design
    if load.number == 0:
        case.figures["load"] = total
    greatest = case.recorder.greatest
    case.figures["design"] = greatest("Design current, either way", design, raised, clause="interconnect_feeder_source")
    carried = case.to_carry or load
    case.to_carry = greatest("Carried at once, either way", carried, total, clause="source_conductor_adjusted")


def _together(case: RunCase, sources: Iterable[Source]) -> Figure | None:
    """The output of all sources that run beside the supply; what is not known of one is asked for."""
    outputs = []
    for source in sources:
        name = name_of(case.site, source.id)
        if source.interactive is False:
            continue
        output = output_through(case.site, source, case.system(), case.hot_count)
        if source.interactive is None or output is None:
            field = "interactive" if source.interactive is None else "rated_output_a"
            what = "whether it runs beside the utility" if source.interactive is None else "its rated output here"
            text = f"What {name} pushes back through this run is not known: {what}."
            case.judge.cannot_tell("pushed_back", text, "interconnect_feeder_source", field)
            continue
        outputs.append(case.recorder.given(f"Output of {name}", output, "A", "plate of the source"))
    if not outputs:
        return None
    return outputs[0] if len(outputs) == 1 else case.recorder.add("Output of all sources beneath", *outputs)


def judge_device(case: RunCase, device: Device, rating: Figure) -> None:
    """The device through which sources push back is rated 125 % of their output at least."""
    raised, clause = case.figures.get("pushed_back"), "interconnect_feeder_breaker"
    if raised is None:
        return
    if case.recorder.at_least("Device carries what is pushed back", rating, raised, clause=clause):
        case.judge.holds("pushed_back", f"{rating.text} A carries the {raised.text} A that sources push back.", clause)
        return
    needed = smallest_device(case.recorder, raised)
    name = device.name or f"Device of {name_of(case.site, device.enclosure_id)}"
    change = f"{name}: {rating.text} A to {needed.text} A"
    mend = raising(case.site, case.rules, device, needed.number, change, fed=case.fed)
    text = f"Sources beneath push back {raised.text} A at 125 % through a device of {rating.text} A."
    case.judge.must_fix("pushed_back", text, clause, mend=mend)


def judge_feed_through(case: RunCase) -> None:
    """Conductors on feed-through lugs through which sources push back are those of a feeder with sources."""
    if not case.site.is_on_feed_through(case.run):
        return
    sources = [item for item in case.site.sources_beneath.get(case.fed, {}).values() if item.interactive]
    total = _together(case, sources) if sources else None
    if total is None:
        return
    device = device_on_feed_through(case.site, case.rules, case.run)
    end = None
    if device is not None and device.rating_a is not None:
        end = case.recorder.given(f"Device at their end: {device.name or device.id}", device.rating_a, "A", "design")
    feeder = FeederCase(case.need("ampacity"), case.need("device"), total, end, tapped_once=True)
    rule = on_feed_through_lugs(case.recorder, feeder)
    if rule.largest is not None:
        case.figures["largest_joined"] = rule.largest
    if rule.passes:
        case.judge.holds("feed_through", rule.why, rule.clause)
    elif case.rules.parameter("feed_through_rule").value != "1":
        text = f"{rule.why} This edition has no rule for them: ask the office."
        case.judge.cannot_tell("feed_through", text, "interconnect_feeder")
    else:
        mend = _larger_lines(case, rule.together.number)
        case.judge.must_fix("feed_through", rule.why, rule.clause, "hot_size", mend)


def judge_tapped(case: RunCase) -> None:
    """Where sources join a run between its ends, what lies beyond them carries both, or ends in a device for it."""
    joining: list[Source] = []
    for tap in case.site.taps_on_run.get(case.run.id, []):
        beyond = case.site.downstream_of(case.site.runs[tap.tap_run_id])
        joining += [item for item in case.site.sources_beneath.get(beyond, {}).values() if item.interactive]
    total = _together(case, joining) if joining else None
    if total is None:
        return
    feeder = FeederCase(
        ampacity=case.need("ampacity"),
        primary=case.need("device"),
        output=total,
        end_device=_device_at_end(case),
        tapped_once=len(case.site.taps_on_run[case.run.id]) == 1,
    )
    rule = beyond_the_sources(case.recorder, feeder)
    if rule.largest is not None:
        case.figures["largest_joined"] = rule.largest
    if rule.passes:
        case.judge.holds("feeder_sources", rule.why, rule.clause)
    elif rule.passes is None:
        case.judge.cannot_tell("feeder_sources", rule.why, rule.clause)
    else:
        mend = _larger_lines(case, rule.together.number)
        case.judge.must_fix("feeder_sources", rule.why, rule.clause, "hot_size", mend)


def _larger_lines(case: RunCase, need_a: Fraction) -> Mend | None:
    """The smallest lines above the present ones that carry so much under the same circumstances."""
    at, chosen = circumstances_of(case), case.need("hots").text
    for size in SIZES[size_index(chosen) + 1 :]:
        try:
            _, ampacity = final_ampacity(Recorder(case.rules), size, at)
        except MissingFigure:
            continue
        if ampacity.number >= need_a:
            return Mend(f"Lines: {chosen} to {size}", proposing("runs", case.run, hot_size=size))
    return None


def _device_at_end(case: RunCase) -> Figure | None:
    device = case.site.devices.get(case.run.to_part)
    if device is None or device.rating_a is None or device.kind == "switch":
        return None
    return case.recorder.given(f"Device at its end: {device.name or device.id}", device.rating_a, "A", "design")


def device_ahead_with_sources(case: RunCase, tap: Tap, device: Figure) -> Figure | None:
    """Return the device ahead of a tap together with the sources on its feeder, as its tap rules count it; None: none.

    By their outputs at 125 %, from 2023 on by their devices.
    """
    feeder = case.site.runs.get(tap.run_id)
    joined = [item for item in _on_feeder(case, feeder) if item.interactive] if feeder is not None else []
    if not joined:
        return None
    clause = "interconnect_tap"
    if case.rules.parameter("interconnect_tap_by_devices").value == "1":
        devices = [source_device(case.site, item) for item in joined]
        ratings = [exact(item.rating_a) for item in devices if item is not None and item.rating_a is not None]
        if len(ratings) == len(joined):
            total = case.recorder.given("Devices of the sources together", sum(ratings, Fraction(0)), "A", "design")
            return case.recorder.add("Device ahead and devices of sources", device, total, clause=clause)
    output = _together(case, joined)
    if output is None:
        return None
    factor = case.recorder.parameter("source_output_factor", "Output of sources at")
    raised = case.recorder.multiply("Output at 125 %", output, factor, unit="A", clause=clause)
    return case.recorder.add("Device ahead and sources", device, raised, clause=clause)


def _on_feeder(case: RunCase, feeder: Run) -> list[Source]:
    ends = [feeder, *(case.site.runs[item.tap_run_id] for item in case.site.taps_on_run.get(feeder.id, []))]
    found: dict[str, Source] = {}
    for run in ends:
        found |= case.site.sources_beneath.get(case.site.downstream_of(run), {})
    return list(found.values())
