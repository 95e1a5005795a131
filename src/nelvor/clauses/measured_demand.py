"""Existing load from what a meter recorded (220.87), and what may be added to it."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from nelvor.errors import CannotCompute
from nelvor.working import Figure, Recorder


@dataclass(frozen=True)
class Recording:
    """What is known of a record. Power in kW, time in days and minutes; None where it is not known."""

    peak_kw: Fraction
    power_factor: Fraction | None
    days: Fraction
    interval_minutes: Fraction
    net_metered: bool | None
    highest_phase_recorded: bool | None
    seasonal_load_allowed_for: bool | None
    overcurrent_protected: bool | None


@dataclass(frozen=True)
class MeasuredDemand:
    """The existing load in VA, with the new load, and as amperes; the assumptions made on the way."""

    existing_va: Figure
    total_va: Figure
    amperes: Figure
    assumptions: tuple[str, ...]


def measured_demand(recorder: Recorder, recording: Recording, new_va: Figure, volts_by_root: Figure) -> MeasuredDemand:
    """Return 125 % of the recorded peak plus the new load (220.87).

    ``volts_by_root`` is the line-to-line voltage, times the root of three on three-phase systems.

    Raises:
        CannotCompute: the record does not serve: net-metered, intervals too long, too short a time.
    """
    assumptions = _usable(recorder, recording)
    peak = recorder.given("Recorded peak, averaged over the interval", recording.peak_kw * 1000, "W", "meter record")
    if recording.power_factor is None:
        assumptions.append("Energy data hold no power factor: taken as 1, so the volt-amperes may be more.")
    cosine = recorder.given("Power factor", recording.power_factor or Fraction(1), "", "meter record, or assumed")
    peak_va = recorder.divide("Peak in volt-amperes", peak, cosine, "VA")
    factor = recorder.parameter("measured_factor", "Existing load taken at")
    existing = recorder.multiply("Existing load", peak_va, factor, unit="VA", clause="measured_demand")
    total = recorder.add("With the new load", existing, new_va, clause="measured_demand")
    amperes = recorder.divide("Amperes, spread evenly over the legs", total, volts_by_root, "A")
    assumptions.append("Energy data do not show how the legs are loaded: an even spread is assumed.")
    return MeasuredDemand(existing, total, amperes, tuple(assumptions))


def _usable(recorder: Recorder, recording: Recording) -> list[str]:
    if not recording.overcurrent_protected:
        known = "not known whether" if recording.overcurrent_protected is None else "not so that"
        raise CannotCompute(
            f"It is {known} the conductors and the service are protected against overcurrent there.",
            "The rule serves only where the device is in place: enter it, or set one.",
        )
    if recording.net_metered is None:
        raise CannotCompute(
            "It is not known whether the meter nets generation against use.",
            "Enter whether the record is net of solar or storage.",
        )
    if recording.net_metered:
        raise CannotCompute(
            "A record net of generation hides the peak of the load.", "Record the load itself for 30 days."
        )
    longest = recorder.parameter("measured_interval_minutes", "Longest averaging")
    interval = recorder.given("Interval of the record", recording.interval_minutes, "min", "meter record")
    if not recorder.at_least("Averaged finely enough", longest, interval, clause="measured_demand"):
        raise CannotCompute(
            f"The record averages over {interval.text} minutes; the rule asks for {longest.text} minutes.",
            "Ask for finer data, or record for 30 days.",
        )
    days = recorder.given("Days recorded", recording.days, "d", "meter record")
    year = recorder.parameter("measured_year_days", "One year")
    if recorder.at_least("A year is held", days, year, clause="measured_demand"):
        return []
    recording_days = recorder.parameter("measured_recording_days", "Least recording")
    if not recorder.at_least("30 days are held", days, recording_days, clause="measured_demand"):
        raise CannotCompute(
            f"The record holds {days.text} days; a year is asked for, or 30 days recorded with the building in use.",
            "Record for at least 30 days.",
        )
    return _thirty_days(recording)


def _thirty_days(recording: Recording) -> list[str]:
    for known, what in (
        (recording.highest_phase_recorded, "the highest loaded phase was recorded with the building in use"),
        (recording.seasonal_load_allowed_for, "seasonal heating or cooling load is allowed for"),
    ):
        if not known:
            raise CannotCompute(
                f"With less than a year of data it must be known that {what}.", "Enter it, or bring a year of data."
            )
    return ["Less than a year of data: the 30-day recording of the exception stands in."]
