"""A tap of the design: its case from the site, and the verdicts that follow from the rules of 240.21(B)."""

from __future__ import annotations

from fractions import Fraction

from nelvor.errors import CannotCompute
from nelvor.model.things import Run, Tap
from nelvor.rules.conductor import Circumstances
from nelvor.rules.site import LINE_TO_LINE_V, Site
from nelvor.rules.tap_conditions import End, RuleAnswer, smallest_of
from nelvor.rules.taps import TapCase, judge_tap
from nelvor.rules.verdict import Judge, Mend, proposing
from nelvor.working import Figure, Recorder, exact


def tap_case(
    site: Site, tap: Tap, run: Run, recorder: Recorder, device: Figure, load: Figure, circumstances: Circumstances
) -> TapCase:
    """Return what a tap of the site is judged by.

    Raises:
        CannotCompute: its length is not known.
    """
    if run.length_ft is None:
        raise CannotCompute("The length of the tap is not known.", "Enter its length.")
    ends_in, end_rating = _end(site, run)
    transformer = next((item for item in site.document.transformers if item.primary_part == run.to_part), None)
    beyond = next(iter(site.runs_from.get(site.downstream_of(run), [])), None) if transformer else None
    system = site.system_at(site.downstream_of(run))

    def entered(label: str, value: float | None, unit: str) -> Figure | None:
        return None if value is None else recorder.given(label, value, unit, "design")

    secondary_v = LINE_TO_LINE_V.get(transformer.secondary_system or "") if transformer else None
    return TapCase(
        device_ahead=device,
        load=load,
        length_ft=recorder.given("Length of the tap", run.length_ft, "ft", "run"),
        ends_in=ends_in,
        end_rating=None if end_rating is None else recorder.given("Rating at the end", end_rating, "A", "design"),
        size=run.hot_size,
        circumstances=circumstances,
        from_tap=tap.run_id in site.tap_of_run,
        leaves_enclosure=tap.leaves_enclosure,
        protected_from_damage=tap.protected_from_damage,
        outdoors_only=tap.outdoors_only,
        end_is_disconnect=run.to_part in site.devices,
        bay_wall_ft=entered("Height of the walls", tap.bay_wall_ft, "ft"),
        level_length_ft=entered("Level part", tap.level_length_ft, "ft"),
        qualified_industry=tap.qualified_industry,
        primary_v=entered("Primary volts", LINE_TO_LINE_V.get(system or ""), "V") if transformer else None,
        secondary_v=entered("Secondary volts", secondary_v, "V"),
        secondary_length_ft=entered("Secondary length", beyond.length_ft, "ft") if beyond else None,
    )


def _end(site: Site, run: Run) -> tuple[End | None, Fraction | None]:
    """What the tap lands on: one device, or lugs with the bus or the devices behind them."""
    device = site.devices.get(run.to_part)
    enclosure = site.enclosures[site.downstream_of(run)]
    if device is not None:
        kind: End = "panel_with_main" if enclosure.kind == "panel" else "one_device"
        return kind, None if device.rating_a is None else exact(device.rating_a)
    rating = None if enclosure.rating_a is None else exact(enclosure.rating_a)
    several = len(site.devices_in.get(enclosure.id, [])) > 1
    return ("several_devices" if several else "bus_or_equipment"), rating


def judge_tap_run(
    judge: Judge, recorder: Recorder, case: TapCase, tap: Tap, run: Run
) -> tuple[list[RuleAnswer], Figure]:
    """Judge a tap by the rule it names, or by every rule; return the answers and the size of its conductors.

    Raises:
        CannotCompute: no size is locked and no rule allows one.
    """
    answers = judge_tap(recorder, case)
    asked = [answer for answer in answers if tap.rule in (None, answer.rule)]
    best = smallest_of(asked)
    if case.from_tap:
        judge.must_fix("tap", "This tap is made from conductors that are themselves a tap; none may be.", "tap_of_tap")
    elif any(answer.fits for answer in asked):
        fitting = next(answer for answer in asked if answer.fits)
        judge.holds("tap", f"{fitting.title}: {fitting.why}.", fitting.clause)
    elif best is not None and run.hot_size is not None:
        judge.must_fix(
            "tap",
            f"{best.title}: {best.why}.",
            best.clause,
            "hot_size",
            Mend(f"Use {best.smallest}", proposing("runs", run, hot_size=best.smallest)),
        )
    else:
        _no_rule(judge, asked)
    if run.hot_size is not None:
        return answers, recorder.choose("Tap conductors, locked", run.hot_size, "AWG/kcmil", [])
    if best is None or best.needed is None:
        raise CannotCompute("No tap rule gives a size for these conductors.", "See what each rule asks for.")
    size = str(best.smallest)
    return answers, recorder.choose("Tap conductors", size, "AWG/kcmil", [best.needed], clause=best.clause)


def _no_rule(judge: Judge, asked: list[RuleAnswer]) -> None:
    reasons = " ".join(f"{answer.title}: {answer.why}." for answer in asked)
    if any(answer.fits is None for answer in asked):
        judge.cannot_tell("tap", f"Whether a tap rule fits cannot be told. {reasons}", asked[0].clause)
    else:
        judge.must_fix("tap", f"No tap rule fits. {reasons}", asked[0].clause)
