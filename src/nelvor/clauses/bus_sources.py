"""What may be pushed into a bus besides its supply: each rule of 705.12 with its arithmetic and the largest source it allows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from nelvor.working import Figure, Recorder


@dataclass(frozen=True)
class Control:
    """A power control on a bus: the setting to which it holds the sources in A, and what is told of it; None: not told.

    ``listed``: listed for it, its settings out of the user's reach. ``watches_supply``: it measures the supply's current
    and holds the sum of all within the setting. ``source_devices`` are those of the sources under it.
    """

    setting: Figure
    listed: bool | None
    watches_supply: bool | None
    source_devices: Sequence[Figure | None]


@dataclass(frozen=True)
class BusCase:
    """One bus with what feeds it. Currents in A.

    ``devices`` are the ratings of all devices on the bus but the one that protects it. ``opposite``: every source stands
    at the end of the bus away from its supply. ``center_fed``: the supply comes in between, ``one_end``: all sources
    stand at one of the ends then. None is not known. ``all_drawn``: no other breakers stand on the bus than those given.
    """

    bus: Figure
    primary: Figure
    outputs: Sequence[Figure]
    devices: Sequence[Figure | None]
    opposite: bool | None
    center_fed: bool | None
    one_end: bool | None
    dwelling: bool | None
    all_drawn: bool
    control: Control | None = None
    breakers: Sequence[Figure] = ()
    """Ratings of the breakers of the sources, where the job counts them instead of 125 % of the outputs (the stricter school)."""


@dataclass(frozen=True)
class BusRule:
    """How one rule ends: ``passes`` is None where something is not known, which ``why`` tells.

    ``place`` tells whether the sources stand where the rule wants them, whatever they give; None is not known.
    """

    key: str
    title: str
    passes: bool | None
    why: str
    total: Figure | None
    limit: Figure
    largest: Figure | None
    place: bool | None = True


def bus_rules(recorder: Recorder, case: BusCase) -> list[BusRule]:
    """Return every rule for a bus, in the order in which they ask for less (705.12(B), 2023 numbering)."""
    factor = recorder.parameter("source_output_factor", "Output of sources at")
    raised = [
        recorder.multiply("Output at 125 %", output, factor, unit="A", clause="source_125pct_bus")
        for output in case.outputs
    ]
    together = recorder.add("All output at 125 %, and the device ahead", *raised, case.primary, clause="bus_100_sum")
    if case.breakers:
        together = _by_breakers(recorder, case, together)
    more = recorder.parameter("bus_120_factor", "Of the bus")
    raised_bus = recorder.multiply("120 % of the bus", case.bus, more, unit="A", clause="bus_120")
    return [
        _sum(recorder, case, together, factor),
        _opposite(recorder, case, together, raised_bus, factor),
        _center_fed(recorder, case, together, raised_bus, factor),
        _breakers(recorder, case),
        *([_controlled(recorder, case, case.control)] if case.control is not None else []),
    ]


def _largest(recorder: Recorder, limit: Figure, case: BusCase, factor: Figure, clause: str) -> Figure | None:
    """The output of all sources together that the rule would take; None where the device ahead takes all of it.

    Where breakers are counted, it is that of the largest standard breaker that has room.
    """
    if limit.number <= case.primary.number:
        return None
    room = recorder.subtract("Left by the device ahead", limit, case.primary, clause=clause)
    if case.breakers:
        fitting = [item for item in recorder.rules.standard_ratings() if item <= room.number]
        if not fitting:
            return None
        breaker = recorder.given("Largest standard breaker that has room", fitting[-1], "A", "240.6(A)")
        room = recorder.least("Left, as breakers are made", room, breaker)
    return recorder.divide("Largest output of all sources", room, factor, "A", clause=clause)


def _by_breakers(recorder: Recorder, case: BusCase, together: Figure) -> Figure:
    """What counts where the job takes the stricter school: the breakers of the sources, if they are more."""
    counted = recorder.add("Breakers of all sources, and the device ahead", *case.breakers, case.primary)
    return recorder.greatest("The more of the two", together, counted, clause="bus_100_sum")


def _sum(recorder: Recorder, case: BusCase, together: Figure, factor: Figure) -> BusRule:
    passes = recorder.at_least("Within the bus", case.bus, together, clause="bus_100_sum")
    why = f"{together.text} A of {case.bus.text} A"
    largest = _largest(recorder, case.bus, case, factor, "bus_100_sum")
    return BusRule("bus_100_sum", "All within the bus", passes, why, together, case.bus, largest)


def _opposite(recorder: Recorder, case: BusCase, together: Figure, limit: Figure, factor: Figure) -> BusRule:
    title, largest = "120 %, at the opposite end", _largest(recorder, limit, case, factor, "bus_120")
    why = f"{together.text} A of {limit.text} A"
    if not recorder.at_least("Within 120 % of the bus", limit, together, clause="bus_120"):
        return BusRule("bus_120", title, False, why, together, limit, largest, case.opposite)
    words = {
        True: "the source stands at the opposite end",
        False: "but the source does not stand at the opposite end",
        None: "where the source stands on the bus, or where its main is, is not told",
    }
    why = f"{why}; {words[case.opposite]}"
    return BusRule("bus_120", title, case.opposite, why, together, limit, largest, case.opposite)


def _center_fed(recorder: Recorder, case: BusCase, together: Figure, limit: Figure, factor: Figure) -> BusRule:
    title = "120 %, fed in the middle"
    if case.center_fed is False:
        return BusRule("bus_center_fed", title, False, "the bus is not fed in its middle", None, limit, None, False)
    if case.dwelling is False:
        return BusRule("bus_center_fed", title, False, "for dwellings alone", None, limit, None, False)
    within = recorder.at_least("Within 120 % of the bus", limit, together, clause="bus_center_fed")
    why = f"{together.text} A of {limit.text} A"
    passes: bool | None = within and case.one_end
    if within and (case.center_fed is None or case.dwelling is None):
        passes = None
    elif within and case.one_end is False:
        why = f"{why}; but the sources do not stand at one end"
    return BusRule(
        "bus_center_fed",
        title,
        passes,
        why,
        together,
        limit,
        _largest(recorder, limit, case, factor, "bus_center_fed"),
        case.one_end if case.center_fed and case.dwelling else None,
    )


def _breakers(recorder: Recorder, case: BusCase) -> BusRule:
    title = "All breakers within the bus"
    known = [item for item in case.devices if item is not None]
    if len(known) < len(case.devices):
        why = "the rating of a breaker is not known"
        return BusRule("bus_breaker_sum", title, None, why, None, case.bus, None)
    if not known:
        why = "no breaker stands on it whose rating would bound what comes in"
        return BusRule("bus_breaker_sum", title, False, why, None, case.bus, None)
    total = recorder.add("All breakers but the one ahead", *known, clause="bus_breaker_sum")
    passes = recorder.at_least("Breakers within the bus", case.bus, total, clause="bus_breaker_sum")
    passes = recorder.at_least("Device ahead within the bus", case.bus, case.primary, clause="panel_ocpd") and passes
    why = f"{total.text} A of {case.bus.text} A"
    if passes and not case.all_drawn:
        why = f"{why} as drawn; whether other breakers stand in the panel is not told"
        return BusRule("bus_breaker_sum", title, None, why, total, case.bus, None)
    return BusRule("bus_breaker_sum", title, passes, why, total, case.bus, None)


def _controlled(recorder: Recorder, case: BusCase, control: Control) -> BusRule:
    """A listed control holds the sources, with the supply where it measures that, within the bus (705.13, from 2020 on)."""
    key, title = "power_control_system", "Power control"

    def ends(passes: bool | None, why: str, total: Figure | None = None) -> BusRule:
        return BusRule(key, title, passes, why, total, case.bus, None)

    if recorder.rules.parameter("power_control_counts").value == "0":
        return ends(False, "a setting buys nothing in this edition: the full output counts")
    if control.listed is False:
        return ends(False, "it is not listed for it, or its settings are within the user's reach")
    if control.watches_supply is None:
        return ends(None, "whether it measures the current of the supply is not told")
    total = control.setting
    if not control.watches_supply:
        total = recorder.add("Setting, and the device ahead that it does not watch", total, case.primary, clause=key)
    why = f"{total.text} A of {case.bus.text} A"
    if not recorder.at_least("What it allows is within the bus", case.bus, total, clause=key):
        return ends(False, why, total)
    passes, of_devices = _each_device(recorder, case, control)
    if passes and control.listed is None:
        return ends(None, f"{why}; whether it is listed for it and its settings are locked is not told", total)
    return ends(passes, f"{why}{of_devices}", total)


def _each_device(recorder: Recorder, case: BusCase, control: Control) -> tuple[bool | None, str]:
    """No single source under a control has a device above the bus (705.13(D), 2020 alone)."""
    clause = "power_control_single_source"
    if recorder.rules.parameter("power_control_each_device").value == "0":
        return True, ""
    known = [item for item in control.source_devices if item is not None]
    if not known or len(known) < len(control.source_devices):
        return None, "; the device of a source is not known"
    largest = recorder.greatest("Largest device of a source", *known)
    within = recorder.at_least("No device of a source above the bus", case.bus, largest, clause=clause)
    return within, "" if within else f"; but a source has a device of {largest.text} A"
