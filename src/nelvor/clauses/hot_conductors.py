"""Ungrounded conductors: ampacity, adjustment, terminations and protection. Which size is the smallest lawful one?"""

from __future__ import annotations

from fractions import Fraction
from functools import partial
from typing import NamedTuple

from nelvor.clauses.ampacity import COLUMN, Circumstances, final_ampacity, first_that_may_reach, size_index
from nelvor.clauses.dwelling_83_percent import reaches_83_percent
from nelvor.clauses.next_size_up import largest_device
from nelvor.errors import CannotCompute, MissingFigure
from nelvor.model.vocabulary import SIZES
from nelvor.rulebook.rules import Rules
from nelvor.working import Figure, PassedOver, Recorder, shown


class Demand(NamedTuple):
    """What the conductors must carry: the load as it is, as raised for continuous load, and the device ahead.

    ``several_receptacles`` tells of a branch circuit that it supplies more than one receptacle for portable
    loads, so that the next size up is not allowed (240.4(B)(1)). ``guarded_by_overload``: the overload protection of a
    motor guards the conductors, not the device ahead (240.4(G)).
    """

    actual: Figure
    design: Figure
    device: Figure
    several_receptacles: bool = False
    continuous_clause: str = "continuous_125_feeder_conductor"
    guarded_by_overload: bool = False


class SizeChoice(NamedTuple):
    """A chosen size with its ampacity, and why the next smaller one was refused."""

    size: str
    figure: Figure
    ampacity: Figure
    passed_over: PassedOver


def refusal(
    recorder: Recorder, size: str, circumstances: Circumstances, demand: Demand
) -> tuple[str, Figure, list[Figure]]:
    """Judge one size. Return (why it is refused or "", its ampacity, the comparisons made).

    Tests in turn: terminations carry the load with continuous part at 125 %, the adjusted
    ampacity carries the load, the device protects the conductors (240.4). For a whole dwelling
    unit one test stands in their place: the ampacity reaches 83 % of the device (310.12), and the
    device itself carries the load.
    """
    if circumstances.sets > 1 and size_index(size) < size_index(recorder.rules.parameter("parallel_least_size").value):
        return f"{size} may not run in parallel sets", demand.design, []
    at_terminals, ampacity = final_ampacity(recorder, size, circumstances)
    if circumstances.dwelling_share:
        why, test = reaches_83_percent(recorder, size, ampacity, demand.device)
        return why, ampacity, [test] if test else []
    tests: list[Figure] = []
    carries = recorder.at_least(
        f"{size} terminations carry the load", at_terminals, demand.design, clause=demand.continuous_clause
    )
    tests.append(recorder.last_comparison())
    if not carries:
        return _short(size, at_terminals, demand.design, "at the terminations"), ampacity, tests
    if not recorder.at_least(f"{size} carries the load", ampacity, demand.actual, clause="ambient_correction"):
        return _short(size, ampacity, demand.actual, "adjusted"), ampacity, tests
    tests.append(recorder.last_comparison())
    if demand.guarded_by_overload:
        return "", ampacity, tests
    why, test = _protection(recorder, size, circumstances, ampacity, demand)
    return why, ampacity, [*tests, *([test] if test else [])]


def _short(size: str, have: Figure, need: Figure, what: str) -> str:
    return f"{size}: {shown(have.number)} A {what} is below {shown(need.number)} A"


def _protection(
    recorder: Recorder, size: str, circumstances: Circumstances, ampacity: Figure, demand: Demand
) -> tuple[str, Figure | None]:
    limit = small_conductor_limit(recorder, size, circumstances.material)
    if limit is not None and not recorder.at_least(
        "The small-conductor limit allows the device", limit, demand.device, clause="small_conductor_ocpd"
    ):
        return f"{size} may be protected at {limit.text} A at most", None
    if recorder.at_least(f"{size} reaches the device", ampacity, demand.device, clause="next_size_up_ocpd"):
        return "", recorder.last_comparison()
    allowed = largest_device(recorder, ampacity, not demand.several_receptacles)
    if allowed is not None and recorder.at_least(
        "Next standard size up covers the device", allowed, demand.device, clause="next_size_up_ocpd"
    ):
        return "", recorder.last_comparison()
    limit_text = f", which a {shown(allowed.number)} A device protects at most" if allowed else ""
    if demand.several_receptacles:
        limit_text = "; with several receptacles the next size up is not allowed"
    return f"{size}: {shown(ampacity.number)} A is below the {demand.device.text} A device{limit_text}", None


def small_conductor_limit(recorder: Recorder, size: str, material: str) -> Figure | None:
    """Return the largest device for a small conductor in A (240.4(D)), or None for a size that has no such limit."""
    key = (COLUMN[material], size)
    if recorder.rules.table("small_conductor").find(key) is None:
        return None
    return recorder.table(f"Largest device for {size}", "small_conductor", key, "max_ocpd_a")


def smallest_hots(recorder: Recorder, circumstances: Circumstances, demand: Demand) -> SizeChoice:
    """Return the smallest lawful size of the ungrounded conductors. Sizes that surely fail are not tried.

    Raises:
        CannotCompute: no size of the table reaches.
    """
    first = first_that_may_reach(recorder, circumstances, *_least(recorder, circumstances, demand))
    refused: PassedOver = partial(_why_not, recorder.rules, SIZES[first - 1], circumstances, demand) if first else ""
    for size in SIZES[first:]:
        mark = recorder.mark()
        try:
            why, ampacity, tests = refusal(recorder, size, circumstances, demand)
        except MissingFigure:
            recorder.forget(mark)
            continue
        if not why:
            figure = recorder.choose(
                "Hot conductors", size, "AWG/kcmil", [*tests, ampacity], clause="ampacity_table", refused=refused
            )
            return SizeChoice(size, figure, ampacity, refused)
        recorder.forget(mark)
        refused = why
    raise CannotCompute(
        f"No single {circumstances.material} conductor carries {shown(demand.design.number)} A "
        f"behind a {demand.device.text} A device here.",
        "Use parallel sets of 1/0 and larger.",
    )


def _least(recorder: Recorder, circumstances: Circumstances, demand: Demand) -> tuple[Fraction, Fraction]:
    """The amperes that the conductors must reach, and those that they must lie above, whatever else corrects them."""
    if circumstances.dwelling_share:
        return demand.device.number * recorder.rules.parameter("dwelling_share").number, Fraction(0)
    ratings = recorder.rules.standard_ratings()
    place = ratings.below(demand.device.number)
    if not place or demand.guarded_by_overload:
        return demand.design.number, Fraction(0)
    return demand.design.number, ratings[place - 1]  # a conductor of that very ampacity has its device already


def _why_not(rules: Rules, size: str, circumstances: Circumstances, demand: Demand) -> str:
    try:
        return refusal(Recorder(rules), size, circumstances, demand)[0]
    except MissingFigure:
        return ""
