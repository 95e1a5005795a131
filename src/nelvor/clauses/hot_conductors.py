"""Ungrounded conductors: ampacity, adjustment, terminations and protection. Which size is the smallest lawful one?"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from nelvor.clauses.mixed_locations import Portion, governing_ampacity
from nelvor.errors import CannotCompute, MissingFigure
from nelvor.model.vocabulary import SIZES
from nelvor.working import Figure, Recorder, exact, shown

COLUMN = {"copper": "cu", "aluminum": "al"}
COOLEST_COLUMN_C = 60


@dataclass(frozen=True)
class Surroundings:
    """What stretches of a run may differ in: the temperature that its insulation starts from, heat and bundling."""

    insulation_c: int
    ambient_c: Fraction
    current_carrying: int
    nipple: bool


@dataclass(frozen=True)
class Stretch:
    """A part of a run that lies in other surroundings than the rest, with its length in ft."""

    name: str
    length_ft: Fraction
    surroundings: Surroundings


@dataclass(frozen=True)
class Circumstances:
    """What the ampacity of a run's conductors depends on. Currents in A, temperatures in °C.

    ``cap_c`` is the column that a cable type may not exceed whatever its terminations (NM and UF: 60 °C);
    ``small_cap`` caps 10 AWG and smaller at 60 °C (SE cable in thermal insulation). ``stretches`` lie in
    other surroundings; ``rest_ft`` is the length that they leave to the run's own.
    """

    material: str
    insulation: str
    insulation_c: int
    termination_c: int
    sets: int
    ambient_c: Fraction
    current_carrying: int
    nipple: bool
    dwelling_share: bool
    cap_c: int = 90
    small_cap: bool = False
    stretches: tuple[Stretch, ...] = ()
    rest_ft: Fraction = Fraction(0)

    @property
    def own(self) -> Surroundings:
        """The surroundings of the run where no stretch says otherwise."""
        return Surroundings(self.insulation_c, self.ambient_c, self.current_carrying, self.nipple)

    @property
    def coolest_insulation_c(self) -> int:
        """The lowest temperature that the insulation is rated for along the run."""
        return min([self.insulation_c, *(stretch.surroundings.insulation_c for stretch in self.stretches)])


@dataclass(frozen=True)
class Demand:
    """What the conductors must carry: the load as it is, as raised for continuous load, and the device ahead.

    ``several_receptacles`` tells of a branch circuit that it supplies more than one receptacle for portable
    loads, so that the next size up is not allowed (240.4(B)(1)).
    """

    actual: Figure
    design: Figure
    device: Figure
    several_receptacles: bool = False
    continuous_clause: str = "continuous_125_feeder_conductor"


@dataclass(frozen=True)
class SizeChoice:
    """A chosen size with its ampacity, and the next smaller size with the reason it was refused."""

    size: str
    figure: Figure
    ampacity: Figure
    refused: str


def size_index(size: str) -> int:
    """Return the place of a size in the order from small to large."""
    return SIZES.index(size)


def circular_mils(recorder: Recorder, size: str) -> Figure:
    """Return the area of a conductor in circular mils (Chapter 9 Table 8)."""
    return recorder.table(f"Area of {size}", "conductor_dc", (size,), "area_cmil", clause="")


def termination_column(recorder: Recorder, size: str, circumstances: Circumstances) -> Figure:
    """Return the ampacity of all sets at the temperature of the terminations."""
    cap = _cap(recorder, size, circumstances)
    degrees = min(circumstances.termination_c, circumstances.coolest_insulation_c, cap)
    column = f"{COLUMN[circumstances.material]}{degrees}"
    each = recorder.table(
        f"{size} at {degrees} °C terminations", "ampacity", (size,), column, clause="termination_temperature"
    )
    return _all_sets(recorder, each, circumstances)


def _cap(recorder: Recorder, size: str, circumstances: Circumstances) -> int:
    small = recorder.rules.parameter("ser_small_60c_size").value
    if circumstances.small_cap and size_index(size) <= size_index(small):
        return COOLEST_COLUMN_C
    return circumstances.cap_c


def _all_sets(recorder: Recorder, each: Figure, circumstances: Circumstances) -> Figure:
    if circumstances.sets == 1:
        return each
    sets = recorder.given("Parallel sets", circumstances.sets, "", "run")
    return recorder.multiply("Ampacity of all sets", each, sets, unit="A", clause="parallel_1_0")


def adjusted_ampacity(recorder: Recorder, size: str, circumstances: Circumstances) -> Figure:
    """Return the ampacity after ambient correction and bundling adjustment, starting from the insulation's column.

    Where stretches lie in other surroundings, the lowest governs but for a short length (310.14(A)(2)).
    """
    own = _adjusted(recorder, size, circumstances, circumstances.own, "")
    if not circumstances.stretches:
        return _all_sets(recorder, own, circumstances)
    warmest = max([circumstances.insulation_c, *(item.surroundings.insulation_c for item in circumstances.stretches)])
    parts = []
    if circumstances.rest_ft > 0:
        parts.append(Portion(own, circumstances.rest_ft, circumstances.insulation_c < warmest))
    for stretch in circumstances.stretches:
        there = f", {stretch.name}" if stretch.name else ", another stretch"
        ampacity = _adjusted(recorder, size, circumstances, stretch.surroundings, there)
        parts.append(Portion(ampacity, stretch.length_ft, stretch.surroundings.insulation_c < warmest))
    return _all_sets(recorder, governing_ampacity(recorder, size, parts), circumstances)


def _adjusted(
    recorder: Recorder, size: str, circumstances: Circumstances, surroundings: Surroundings, there: str
) -> Figure:
    column = f"{COLUMN[circumstances.material]}{surroundings.insulation_c}"
    label = f"{size} {circumstances.insulation}, {surroundings.insulation_c} °C"
    each = recorder.table(label, "ampacity", (size,), column)
    ambient = recorder.given(f"Ambient temperature{there}", surroundings.ambient_c, "°C", "run or job settings")
    factors = [recorder.band("Ambient factor", "ambient_factor", ambient, f"f{surroundings.insulation_c}")]
    unadjusted = Fraction(recorder.rules.parameter("current_carrying_without_adjustment").value)
    if surroundings.current_carrying > unadjusted and not surroundings.nipple:
        count = recorder.given("Current-carrying conductors together", surroundings.current_carrying, "", "run")
        percent = recorder.band("Bundling percentage", "bundling_percent", count, "percent")
        hundred = recorder.given("per cent", Fraction(1, 100), "", "per cent")
        factors.append(recorder.multiply("Bundling factor", percent, hundred, unit=""))
    return recorder.multiply(f"{size} adjusted{there}", each, *factors, unit="A", clause="ambient_correction")


def final_ampacity(recorder: Recorder, size: str, circumstances: Circumstances) -> tuple[Figure, Figure]:
    """Return (termination column, ampacity): the adjusted one, capped by the terminations."""
    at_terminals = termination_column(recorder, size, circumstances)
    adjusted = adjusted_ampacity(recorder, size, circumstances)
    return at_terminals, recorder.least(f"Ampacity of {size}", adjusted, at_terminals, clause="termination_temperature")


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
        why, test = _dwelling_share(recorder, size, ampacity, demand)
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
    why, test = _protection(recorder, size, circumstances, ampacity, demand)
    return why, ampacity, [*tests, *([test] if test else [])]


def _short(size: str, have: Figure, need: Figure, what: str) -> str:
    return f"{size}: {shown(have.number)} A {what} is below {shown(need.number)} A"


def _dwelling_share(recorder: Recorder, size: str, ampacity: Figure, demand: Demand) -> tuple[str, Figure | None]:
    share = recorder.parameter("dwelling_share", "Share of the rating for a whole dwelling unit")
    need = recorder.multiply("Ampacity needed for the device", demand.device, share, unit="A", clause="dwelling_83pct")
    if recorder.at_least(f"{size} reaches 83 % of the device", ampacity, need, clause="dwelling_83pct"):
        return "", recorder.last_comparison()
    return f"{size}: {shown(ampacity.number)} A is below 83 % of the {demand.device.text} A device", None


def _protection(
    recorder: Recorder, size: str, circumstances: Circumstances, ampacity: Figure, demand: Demand
) -> tuple[str, Figure | None]:
    small = recorder.rules.table("small_conductor").find((COLUMN[circumstances.material], size))
    if small is not None:
        limit = recorder.table(
            f"Largest device for {size}", "small_conductor", (COLUMN[circumstances.material], size), "max_ocpd_a"
        )
        if not recorder.at_least(
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


def largest_device(recorder: Recorder, ampacity: Figure, next_size_up: bool = True) -> Figure | None:
    """Return the largest device that may protect an ampacity by the next-size-up rule, or None when it gives nothing.

    Not for taps, nor for branch circuits with several receptacles for portable loads; not where the ampacity is
    itself a standard rating; up to 800 A (240.4(B)).
    """
    standard = recorder.rules.standard_ratings(breakers_only=False)
    if not next_size_up or ampacity.number in standard:
        return None
    limit = Fraction(recorder.rules.parameter("next_size_up_limit_a").value)
    chosen = recorder.next_up("Next standard rating above the ampacity", ampacity, standard, "next_size_up_ocpd")
    return chosen if chosen is not None and chosen.number <= limit else None


def smallest_hots(
    recorder: Recorder, circumstances: Circumstances, demand: Demand, sizes: Sequence[str] = SIZES
) -> SizeChoice:
    """Return the smallest lawful size of the ungrounded conductors.

    Raises:
        CannotCompute: no size of the table reaches.
    """
    refused = ""
    for size in _worth_trying(recorder, circumstances, demand, sizes):
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


def _worth_trying(
    recorder: Recorder, circumstances: Circumstances, demand: Demand, sizes: Sequence[str]
) -> Sequence[str]:
    """Return the sizes from the last one that surely fails on, so that its refusal is told and smaller ones are not tried."""
    if circumstances.dwelling_share:
        need = demand.device.number * Fraction(recorder.rules.parameter("dwelling_share").value)
    else:
        ratings = recorder.rules.standard_ratings()
        place = bisect_left(ratings, demand.device.number)
        need = max(demand.design.number, ratings[place - 1] if place else Fraction(0))
    degrees = min(circumstances.termination_c, circumstances.insulation_c)
    column = f"{COLUMN[circumstances.material]}{degrees}"
    table = recorder.rules.table("ampacity")
    for place, size in enumerate(sizes):
        row = table.find((size,))
        if row is not None and row[column] and Fraction(row[column]) * circumstances.sets >= need:
            return sizes[max(place - 1, 0) :]
    return sizes[-1:]


def exact_ambient(value: float | None, job_value: float) -> Fraction:
    """Return the run's own ambient temperature, or the job's."""
    return exact(job_value if value is None else value)
