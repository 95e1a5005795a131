"""Taps and transformer secondaries of the design: their cases from the site, and the verdicts by 240.21(B) and (C)."""

from __future__ import annotations

from fractions import Fraction

from nelvor.clauses.ampacity import Circumstances
from nelvor.clauses.tap_conditions import End, RuleAnswer, smallest_of
from nelvor.clauses.taps import TapCase
from nelvor.clauses.transformer_secondary import SecondaryCase
from nelvor.errors import CannotCompute
from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Run, Tap, Transformer
from nelvor.model.voltages import LINE_TO_LINE_V, THREE_PHASE
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact


def secondary_of_tap(site: Site, run: Run) -> Run | None:
    """Return the secondary run of the transformer that a tap feeds, or None where it feeds none."""
    transformer = next((item for item in site.document.transformers if item.primary_part == run.to_part), None)
    if transformer is None:
        return None
    leaving = site.runs_from.get(transformer.enclosure_id, [])
    return next((item for item in leaving if item.from_part == transformer.secondary_part), None)


def tap_case(
    site: Site,
    tap: Tap,
    run: Run,
    recorder: Recorder,
    device: Figure,
    load: Figure,
    circumstances: Circumstances,
    secondary_ampacity: Figure | None = None,
    with_sources: Figure | None = None,
) -> TapCase:
    """Return what a tap of the site is judged by. ``secondary_ampacity`` is that of locked secondary conductors,
    ``with_sources`` the device ahead together with the sources on the feeder.

    Raises:
        CannotCompute: its length is not known.
    """
    if run.length_ft is None:
        raise CannotCompute("The length of the tap is not known.", "Enter its length.")
    ends_in, end_rating = _end(site, run)
    transformer = next((item for item in site.document.transformers if item.primary_part == run.to_part), None)
    beyond = secondary_of_tap(site, run)
    secondary_end, secondary_rating = _end(site, beyond) if beyond else (None, None)
    system = site.system_at(site.downstream_of(run))

    def entered(label: str, value: float | Fraction | None, unit: str) -> Figure | None:
        return None if value is None else recorder.given(label, value, unit, "design")

    secondary_v = LINE_TO_LINE_V.get(transformer.secondary_system or "") if transformer else None
    return TapCase(
        device_ahead=device,
        with_sources=with_sources,
        load=load,
        length_ft=recorder.given("Length of the tap", run.length_ft, "ft", "run"),
        ends_in=ends_in,
        end_rating=entered("Rating at the end", end_rating, "A"),
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
        secondary_ends_in=secondary_end,
        secondary_device=entered("Device at the end of the secondary", secondary_rating, "A"),
        secondary_ampacity=secondary_ampacity,
        secondary_to_size=beyond is not None and beyond.hot_size is None,
    )


def _end(site: Site, run: Run) -> tuple[End | None, Fraction | None]:
    """What the tap lands on: one device, or lugs with the bus or the devices behind them."""
    device = site.devices.get(run.to_part)
    enclosure = site.enclosures[site.downstream_of(run)]
    if device is not None:
        kind: End = "panel_with_main" if enclosure.kind == "panel" else "one_device"
        return kind, None if device.rating_a is None else exact(device.rating_a)
    label = site.rating_a(enclosure.id)
    rating = None if label is None else exact(label)
    several = len(site.devices_in.get(enclosure.id, [])) > 1
    return ("several_devices" if several else "bus_or_equipment"), rating


def secondary_case(
    site: Site,
    transformer: Transformer,
    run: Run,
    recorder: Recorder,
    device: Figure,
    load: Figure,
    circumstances: Circumstances,
) -> SecondaryCase:
    """Return what the secondary conductors of a transformer are judged by; ``device`` is the one at their end.

    Raises:
        CannotCompute: a length, voltage or device that every rule needs is not known.
    """
    primary = LINE_TO_LINE_V.get(site.system_at(transformer.enclosure_id) or "") or transformer.primary_v
    secondary = LINE_TO_LINE_V.get(transformer.secondary_system or "")
    feeding = site.feeding_run(transformer.enclosure_id)
    ahead = site.protection_ahead.get(feeding.id) if feeding else None
    if run.length_ft is None or primary is None or secondary is None or ahead is None or ahead.rating_a is None:
        raise CannotCompute(
            "The length, the voltages or the primary device of the transformer are not known.",
            "Enter the length of the secondary run, both systems, and the rating of the primary device.",
            ((run.id, "length_ft"), *(((ahead.id, "rating_a"),) if ahead is not None else ())),
        )
    ends_in, _ = _end(site, run)
    tapped = feeding is not None and feeding.id in site.tap_of_run
    tap_length = feeding.length_ft if feeding is not None and tapped else None
    return SecondaryCase(
        primary_v=recorder.given("Primary volts", primary, "V", "design"),
        secondary_v=recorder.given("Secondary volts", secondary, "V", "design"),
        primary_device=recorder.given("Primary device", ahead.rating_a, "A", "design"),
        load=load,
        length_ft=recorder.given("Length of the secondary", run.length_ft, "ft", "run"),
        ends_in=ends_in,
        end_rating=device,
        size=run.hot_size,
        circumstances=circumstances,
        from_tap=tapped,
        tap_length_ft=None if tap_length is None else recorder.given("Length of the tap", tap_length, "ft", "run"),
        two_wire_or_delta_delta=False if transformer.secondary_system in THREE_PHASE else None,
        outdoors_only=run.placement in ("outdoors", "underground"),
        end_is_disconnect=run.to_part in site.devices,
        protected_from_damage=run.method not in (None, "free_air"),
        leaves_enclosure=True,
        qualified_industry=False,
    )


def size_by_rules(judge: Judge, recorder: Recorder, answers: list[RuleAnswer], run: Run, code: str) -> Figure:
    """Judge conductors by rules of which one must fit; return their size, locked or the smallest lawful one.

    Raises:
        CannotCompute: no size is locked and no rule allows one.
    """
    best = smallest_of(answers)
    if any(answer.fits for answer in answers):
        fitting = next(answer for answer in answers if answer.fits)
        judge.holds(code, f"{fitting.title}: {fitting.why}.", fitting.clause)
    elif best is not None and run.hot_size is not None:
        judge.must_fix(
            code,
            f"{best.title}: {best.why}.",
            best.clause,
            "hot_size",
            Mend(f"Lines: {run.hot_size} to {best.smallest}", proposing("runs", run, hot_size=best.smallest)),
        )
    else:
        _no_rule(judge, answers, code)
    if run.hot_size is not None:
        return recorder.choose("Hot conductors, locked", run.hot_size, "AWG/kcmil", [])
    if best is None or best.needed is None:
        raise CannotCompute("No rule gives a size for these conductors.", "See what each rule asks for.")
    return recorder.choose("Hot conductors", str(best.smallest), "AWG/kcmil", [best.needed], clause=best.clause)


def rules_asked_for(answers: list[RuleAnswer], tap: Tap) -> list[RuleAnswer]:
    """Return the answers that count: of the rule that the tap names, or of all."""
    return [answer for answer in answers if tap.rule in (None, answer.rule)]


def _no_rule(judge: Judge, asked: list[RuleAnswer], code: str) -> None:
    reasons = " ".join(f"{answer.title}: {answer.why}." for answer in asked)
    if any(answer.fits is None for answer in asked):
        judge.cannot_tell(code, f"Whether a rule fits cannot be told. {reasons}", asked[0].clause)
    else:
        judge.must_fix(code, f"No rule fits. {reasons}", asked[0].clause)
