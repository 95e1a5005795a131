"""Of a run: its voltage drop, added to what is lost ahead, against the limit of the job."""

from __future__ import annotations

from bisect import bisect_left
from fractions import Fraction

from nelvor.clauses import voltage_drop
from nelvor.clauses.ampacity import size_index
from nelvor.clauses.calculated_load import LevelLoad
from nelvor.errors import CannotCompute
from nelvor.judges.run.case import RunCase
from nelvor.judges.verdict import Mend, proposing
from nelvor.model.vocabulary import SIZES
from nelvor.model.voltages import LINE_TO_LINE_V, LINE_TO_NEUTRAL_V
from nelvor.working import Figure, Recorder, exact


def _drop_cases(case: RunCase, hot_size: str) -> list[voltage_drop.DropCase]:
    """One case for each part of the run, since a steel raceway raises the impedance."""
    case.length_ft()
    level, settings = case.known_level(), case.site.document.settings
    return [
        voltage_drop.DropCase(
            method=str(lay.value("method")),
            material=str(case.run.material),
            sets=case.run.sets,
            length_ft=lay.length_ft or Fraction(0),
            load=case.need("load"),
            imbalance_a=level.imbalance_a,
            hot_size=hot_size,
            neutral_size=case.figures["neutral"].text if "neutral" in case.figures else None,
            base_volts=_base_volts(case, level),
            power_factor=exact(settings.power_factor),
            by_resistance=settings.drop_method == "direct_current",
        )
        for lay in case.lays
    ]


def _drop_of_run(recorder: Recorder, cases: list[voltage_drop.DropCase]) -> Figure:
    parts = [voltage_drop.run_drop_percent(recorder, part) for part in cases]
    if len(parts) == 1:
        return parts[0]
    return recorder.add("Drop of all parts of this run", *parts, clause="feeder_vd_note")


def _base_volts(case: RunCase, level: LevelLoad) -> Fraction:
    """Volts to neutral, or half the volts between lines where one-phase loads lie between two lines of a wye."""
    system = case.system()
    to_neutral = exact(LINE_TO_NEUTRAL_V[system])
    return min(to_neutral, Fraction(LINE_TO_LINE_V[system], 2)) if level.has_line_to_line else to_neutral


def solve_drop(case: RunCase) -> None:
    """Take down the drop of the run and from the service point, and compare it with the limit of the job."""
    clause = "branch_vd_note" if case.kind == "branch" else "feeder_vd_note"
    if case.need("load").number == 0:
        _tell_at_the_device(case, clause)
        return
    here = _drop_of_run(case.recorder, _drop_cases(case, case.need("hots").text))
    case.figures["drop"] = here
    if case.ahead.drop_percent is None:
        raise CannotCompute("The drop ahead of this run is not known.", "Complete the runs ahead.")
    ahead = case.recorder.given(
        "Drop ahead of this run", case.ahead.drop_percent, "%", "runs ahead, from the service point"
    )
    total = case.recorder.add("Drop from the service point", ahead, here, clause=clause)
    case.figures["total_drop"] = total
    settings = case.site.document.settings
    limit_percent = settings.total_drop_limit_percent if case.kind == "branch" else settings.feeder_drop_limit_percent
    limit = case.recorder.given("Limit set for this job", limit_percent, "%", "job settings")
    if case.recorder.at_least("Drop is within the limit", limit, total, clause=clause):
        if not case.run.is_unread("hot_size"):  # what is not read is asked for, and said with its drop
            case.judge.holds("drop", f"Drop {total.text} % of {limit.text} %.", clause)
        return
    larger = _size_within(case, limit.number)
    mend = (
        Mend(f"Lines: {case.need('hots').text} to {larger}", proposing("runs", case.run, hot_size=larger))
        if larger
        else None
    )
    case.judge.advise(
        "drop",
        f"Voltage drop reaches {total.text} %, the job's limit is {limit.text} %. It is advice, not a violation.",
        clause,
        "hot_size",
        mend,
    )


def _tell_at_the_device(case: RunCase, clause: str) -> None:
    """Without a load there is no drop to judge; it is shown for the current that the device lets through."""
    device = case.need("device")
    parts = [part._replace(load=device) for part in _drop_cases(case, case.need("hots").text)]
    at_device = _drop_of_run(case.recorder, parts)
    case.figures["drop_at_device"] = at_device
    text = (
        f"No load is entered behind this run, so its drop cannot be told. At the {device.text} A of its device it "
        f"would be {at_device.text} % here."
    )
    case.judge.cannot_tell("drop", text, clause)


def _size_within(case: RunCase, limit: Fraction) -> str | None:
    """Return the smallest size of hots that keeps the accumulated drop within the limit.

    Of the drop at the present size only what the hots lose changes: with their ohms, which fall from size to size (of
    copper in steel below a power factor of 0.12 not at one of them; the size found is within the limit there, too).
    """
    if case.ahead.drop_percent is not None and case.ahead.drop_percent >= limit:
        return None
    now, total = case.need("hots").text, case.need("total_drop").number
    parts = _drop_cases(case, now)
    larger = voltage_drop.sizes_known(case.rules, parts[0], SIZES[size_index(now) + 1 :])

    def in_hots(size: str) -> Fraction:
        return sum((voltage_drop.percent_in_hots(case.rules, part, size) for part in parts), Fraction(0))

    most_in_hots = limit - (total - in_hots(now))

    def is_within(size: str) -> bool:
        return in_hots(size) <= most_in_hots

    at = bisect_left(larger, True, key=is_within)
    return larger[at] if at < len(larger) else None
