"""Of a run: what the ampacity of its conductors depends on, and whether its type may run there at all."""

from __future__ import annotations

from fractions import Fraction

from nelvor.clauses import ampacity, wiring_methods
from nelvor.clauses.ampacity import NOTHING, Circumstances, Stretch, Surroundings, size_index
from nelvor.clauses.wiring_methods import METHOD_WORDS
from nelvor.judges.level_loads import carries_entire_unit
from nelvor.judges.run.case import RunCase
from nelvor.judges.run.lays import Lay
from nelvor.judges.verdict import Mend
from nelvor.model.things import Enclosure
from nelvor.model.voltages import LEGS, THREE_PHASE
from nelvor.working import exact, product, reaches

INCHES_PER_FOOT = 12
OF_NO_WHOLE_UNIT = frozenset({"branch", "output", "alone", "standby"})


def circumstances_of(case: RunCase) -> Circumstances:
    """Return the circumstances of a run's conductors; a type that may not run there is told on the way.

    Raises:
        MissingInput, CannotCompute: something they rest on is not entered, or not held.
    """
    if case.circumstances is None:
        case.circumstances = _circumstances(case)
    return case.circumstances


def _circumstances(case: RunCase) -> Circumstances:
    run, lays = case.run, case.lays
    insulation = case.filled("insulation", "The insulation or cable type")
    material = case.filled("material", "The conductor material")
    for lay in lays:
        _check_wiring(case, lay, insulation)
    (own_lay, own), *others = [(lay, _surroundings(case, lay, insulation)) for lay in lays]
    return Circumstances(
        material=material,
        insulation=insulation,
        insulation_c=own.insulation_c,
        ambient_c=own.ambient_c,
        current_carrying=own.current_carrying,
        nipple=own.nipple,
        termination_c=_termination_c(case),
        sets=run.sets,
        dwelling_share=_dwelling_share(case),
        cap_c=wiring_methods.cable_cap_c(insulation),
        small_cap=insulation == "SER" and run.in_thermal_insulation is True,
        stretches=tuple(Stretch(lay.name, lay.length_ft or NOTHING, place) for lay, place in others),
        rest_ft=(others and own_lay.length_ft) or NOTHING,
    )


def _surroundings(case: RunCase, lay: Lay, insulation: str) -> Surroundings:
    wet = lay.value("placement") in wiring_methods.WET_PLACEMENTS
    longest_in, length_ft = case.rules.parameter("nipple_longest_in").number, case.run.length_ft
    return Surroundings(
        insulation_c=wiring_methods.insulation_temperature(insulation, wet, case.rules),
        ambient_c=_ambient(case, lay, insulation),
        current_carrying=_own_current_carrying(case) + lay.value("other_current_carrying"),
        nipple=length_ft is not None and reaches(longest_in, product((exact(length_ft), INCHES_PER_FOOT))),
    )


def _ambient(case: RunCase, lay: Lay, insulation: str) -> Fraction:
    value = ampacity.exact_ambient(lay.value("ambient_c"), case.site.document.settings.ambient_c)
    if lay.value("placement") != "rooftop":
        return value
    height = lay.value("roof_clearance_in")
    clearance = None if height is None else exact(height)
    ambient = case.recorder.given("Ambient temperature", value, "°C", "run or job settings")
    return wiring_methods.ambient_on_roof(case.recorder, lay.thing.id, ambient, insulation, clearance).number


def _check_wiring(case: RunCase, lay: Lay, insulation: str) -> None:
    method = lay.filled("method", "The wiring method")
    placement = lay.filled("placement", "Where the run lies")
    judge = case.judge_of(lay)
    for fault in wiring_methods.faults(insulation, method, placement, case.run.jacket_marked_sunlight):
        label = " in ".join(METHOD_WORDS.get(word, word) for word in fault.instead.values())
        judge.must_fix(
            "run_wiring", fault.text, fault.clause, fault.field, Mend(f"Use {label}", lay.changing(**fault.instead))
        )
    if insulation == "SER" and placement == "indoors" and case.run.in_thermal_insulation is None:
        _small_ser(case)
    wiring_methods.require_computed(insulation, method, placement)


def _small_ser(case: RunCase) -> None:
    small = case.rules.parameter("ser_small_60c_size").value
    if case.run.hot_size is not None and size_index(case.run.hot_size) <= size_index(small):
        case.judge.cannot_tell(
            "run_wiring",
            "SE cable of 10 AWG and smaller in thermal insulation goes by 60 °C. Enter whether it lies in insulation.",
            "ser_insulation_60c",
            "in_thermal_insulation",
        )


def _termination_c(case: RunCase) -> int:
    limit = case.rules.parameter("small_termination_limit_a").number
    if not reaches(limit, case.need("device").number):
        return 75
    ends = (case.site.upstream_of(case.run), case.fed)
    marked = [case.site.enclosures[end].termination_c for end in ends if end in case.site.enclosures]
    if marked and all(mark is not None and mark >= 75 for mark in marked):
        return 75
    return 60


def terminations_unknown(case: RunCase) -> list[Enclosure]:
    """Return the enclosures at the ends whose temperature marking is not known."""
    ends = (case.site.upstream_of(case.run), case.fed)
    found = [case.site.enclosures[end] for end in ends if end in case.site.enclosures]
    return [enclosure for enclosure in found if enclosure.termination_c is None]


def _own_current_carrying(case: RunCase) -> int:
    """The run's own current-carrying conductors: the neutral counts with one hot, two of a wye, or with harmonics."""
    hots = case.hot_count
    has_neutral = case.site.has_conductor(case.run, "neutral")
    two_legs_of_a_wye = case.system() in THREE_PHASE and hots == len(LEGS) - 1
    counts = has_neutral and (case.run.harmonic_neutral or two_legs_of_a_wye or hots == 1)
    return hots + (1 if counts else 0)


def _dwelling_share(case: RunCase) -> bool:
    """The 83 % rule: a feeder or service that carries the entire load of one dwelling unit, 100 to 400 A."""
    if case.kind in OF_NO_WHOLE_UNIT or case.several_disconnects:
        return False
    rating = case.need("device").number
    least = case.rules.parameter("dwelling_share_least_a").number
    most = case.rules.parameter("dwelling_share_most_a").number
    if case.hot_count != len(LEGS) - 1 or not reaches(rating, least) or not reaches(most, rating):
        return False
    return carries_entire_unit(case.site, case.levels, case.fed)
