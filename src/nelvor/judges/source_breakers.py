"""The breakers through which sources come in on a bus, against 125 % of what they put out (705.30(B))."""

from __future__ import annotations

from fractions import Fraction

from nelvor.judges.bus_large_enough import Supply, raising
from nelvor.judges.panelboard.standing import name_in
from nelvor.judges.source_currents import PushedIn, outputs_told, places_on
from nelvor.judges.verdict import Judge
from nelvor.model.things import Bus
from nelvor.rulebook.rules import Rules
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder, exact


def judge_source_breakers(
    site: Site, rules: Rules, judge: Judge, recorder: Recorder, bus: Bus, supply: Supply | None
) -> None:
    """Judge the breaker of each source on a bus, whatever is known of the bus and of ``supply``, what protects it."""
    for place in places_on(site, bus):
        _judge_breaker(site, rules, judge, recorder, place, outputs_told(site, bus, place, recorder), supply)


def _judge_breaker(
    site: Site,
    rules: Rules,
    judge: Judge,
    recorder: Recorder,
    place: PushedIn,
    outputs: list[Figure],
    supply: Supply | None,
) -> None:
    """The breaker of a source is rated 125 % of its output at least, and not above what the source's maker allows."""
    device = place.device
    taken = sum((exact(item.charging_a or 0) for item in place.sources), Fraction(0))
    if device is None or device.rating_a is None or not (outputs or taken) or not site.runs_to_part.get(device.id):
        return
    about, name = judge.about("devices", device.id), name_in(site, device)
    need = _least(recorder, outputs, taken)
    of_what = " or of ".join([*(["the output"] if outputs else []), *(["what it takes to charge"] if taken else [])])
    rating = recorder.given(f"Breaker of {name}", device.rating_a, "A", "panel")
    most = min((exact(item.largest_device_a) for item in place.sources if item.largest_device_a), default=None)
    if not recorder.at_least("Device carries the output", rating, need, clause="source_125pct_sizing"):
        larger = rules.standard_ratings().reaching(need.number)
        mend = None
        if larger is not None and (most is None or larger <= most):
            change = f"{name}: {rating.text} A to {larger} A"
            mend = raising(site, rules, device, larger, change, supply=supply)
        text = f"{name} is {rating.text} A; 125 % of {of_what} is {need.text} A."
        about.must_fix("source_device", text, "source_125pct_sizing", "rating_a", mend)
    elif most is not None and rating.number > most:
        text = f"{name} is {rating.text} A; the maker of its source allows {most} A at most."
        about.must_fix("source_device", text, "listed_use", "rating_a")
    else:
        text = f"{name}: {rating.text} A for 125 % of {of_what}, {need.text} A."
        about.holds("source_device", text, "source_125pct_sizing")


def _least(recorder: Recorder, outputs: list[Figure], taken: Fraction) -> Figure:
    """The least device in A: for 125 % of what comes through it, and of what storage takes; one of them is given."""
    needs = []
    if outputs:
        factor = recorder.parameter("source_output_factor", "Device of a source at")
        raised = [recorder.multiply("Output at 125 %", output, factor, unit="A") for output in outputs]
        needs.append(recorder.add("Least device", *raised, clause="source_125pct_sizing"))
    if taken:
        charging = recorder.given("Taken to charge", taken, "A", "plate or setting")
        continuous = recorder.parameter("continuous_factor", "Continuous load at")
        needs.append(recorder.multiply("Charging at 125 %", charging, continuous, unit="A"))
    return needs[0] if len(needs) == 1 else recorder.greatest("Least device, either way", *needs)
