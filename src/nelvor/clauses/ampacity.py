"""Ampacity: ambient correction and bundling from the column of the insulation, capped by the terminations (310.15, 110.14(C))."""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple

from nelvor.clauses.mixed_locations import Portion, governing_ampacity
from nelvor.model.vocabulary import SIZES
from nelvor.working import Figure, Recorder, asked_once, exact

COLUMN = {"copper": "cu", "aluminum": "al"}
NOTHING = Fraction(0)

COOLEST_COLUMN_C = 60
CAPPED_BY = {"NM-B": "nm_60c", "UF-B": "uf_60c"}


class Surroundings(NamedTuple):
    """What stretches of a run may differ in: the temperature that its insulation starts from, heat and bundling."""

    insulation_c: int
    ambient_c: Fraction
    current_carrying: int
    nipple: bool


class Stretch(NamedTuple):
    """A part of a run that lies in other surroundings than the rest, with its length in ft."""

    name: str
    length_ft: Fraction
    surroundings: Surroundings


class Circumstances(NamedTuple):
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
    capped = CAPPED_BY.get(circumstances.insulation) if degrees == cap else None
    label = f"{size} at {degrees} °C {'in this cable' if capped else 'terminations'}"
    each = recorder.table(label, "ampacity", (size,), column, clause=capped or "termination_temperature")
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
    unadjusted = recorder.rules.parameter("current_carrying_without_adjustment").number
    if surroundings.current_carrying > unadjusted and not surroundings.nipple:
        count = recorder.given("Current-carrying conductors together", surroundings.current_carrying, "", "run")
        percent = recorder.band("Bundling percentage", "bundling_percent", count, "percent")
        hundred = recorder.given("per cent", Fraction(1, 100), "", "per cent")
        factors.append(recorder.multiply("Bundling factor", percent, hundred, unit=""))
    return recorder.multiply(f"{size} adjusted{there}", each, *factors, unit="A", clause="ambient_correction")


@asked_once
def final_ampacity(recorder: Recorder, size: str, circumstances: Circumstances) -> tuple[Figure, Figure]:
    """Return (termination column, ampacity): the adjusted one, capped by the terminations."""
    at_terminals = termination_column(recorder, size, circumstances)
    adjusted = adjusted_ampacity(recorder, size, circumstances)
    return at_terminals, recorder.least(f"Ampacity of {size}", adjusted, at_terminals, clause="termination_temperature")


def first_that_may_reach(
    recorder: Recorder, circumstances: Circumstances, need: Fraction, above: Fraction = NOTHING
) -> int:
    """Return the place of the first size that may reach amperes and lie above others, all sets together.

    Smaller ones surely fail: nothing raises an ampacity above its column of the table. Where none may, their number is returned.
    """
    degrees = min(circumstances.termination_c, circumstances.insulation_c)
    ampacities = recorder.rules.table("ampacity").ladder(f"{COLUMN[circumstances.material]}{degrees}")
    if circumstances.sets > 1:
        need, above = need / circumstances.sets, above / circumstances.sets
    return max(ampacities.below(need), ampacities.up_to(above))


def exact_ambient(value: float | None, job_value: float) -> Fraction:
    """Return the run's own ambient temperature, or the job's."""
    return exact(job_value if value is None else value)
