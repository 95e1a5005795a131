"""Which conductor or cable may run where, and the temperature that its ampacity starts from."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from nelvor.errors import CannotCompute, MissingInput
from nelvor.rulebook.rules import Rules
from nelvor.working import Figure, Recorder

SINGLE_CONDUCTORS = frozenset({"THHN", "THWN", "THWN-2", "XHHW", "XHHW-2", "RHW-2", "TW", "THW"})
CABLES = frozenset({"NM-B", "UF-B", "SER", "MC"})
BURIED_BARE = frozenset({"USE-2", "UF-B"})
RACEWAYS = frozenset({"pvc40", "pvc80", "emt", "rmc", "imc", "fmc", "lfmc", "lfnc_b", "ent"})
WET_PLACEMENTS = frozenset({"underground", "outdoors", "rooftop"})
CAPPED_AT_60_C = frozenset({"NM-B", "UF-B"})
EXEMPT_FROM_ROOF_HEAT = "XHHW-2"
METHOD_WORDS = {
    "pvc40": "PVC schedule 40",
    "pvc80": "PVC schedule 80",
    "emt": "EMT",
    "rmc": "RMC",
    "imc": "IMC",
    "fmc": "flexible metal conduit",
    "lfmc": "liquid-tight flexible metal conduit",
    "lfnc_b": "liquid-tight flexible nonmetallic conduit",
    "ent": "ENT",
    "earth": "laid in earth",
    "cable": "cable",
    "free_air": "free air",
}


@dataclass(frozen=True)
class Fault:
    """A way of wiring that is not allowed: why, under which clause, which field to change, and what to use instead."""

    text: str
    clause: str
    field: str
    instead: dict[str, str]


BURIED_THWN = {"insulation": "THWN-2", "method": "pvc40"}
SER_UNDERGROUND = Fault(
    "Service-entrance cable may not run underground, not even in a raceway.",
    "ser_not_underground",
    "insulation",
    BURIED_THWN,
)
USE_INDOORS = Fault(
    "USE-2 may not run on inside a building unless it is also marked with an indoor type.",
    "use_not_indoors",
    "insulation",
    {"insulation": "THWN-2", "method": "emt"},
)
NM_WET = Fault("NM cable may not run where it is wet, nor in a raceway there.", "nm_not_wet", "insulation", BURIED_THWN)
THHN_WET = Fault(
    "THHN without a wet rating may not run where it is wet.",
    "wet_location_insulation",
    "insulation",
    {"insulation": "THWN-2"},
)
FMC_WET = Fault("Flexible metal conduit may not run where it is wet.", "fmc_not_wet", "method", {"method": "lfmc"})
UF_IN_THE_SUN = Fault(
    "UF cable in the sun must be marked sunlight resistant.",
    "cable_sunlight",
    "insulation",
    {"insulation": "THWN-2", "method": "pvc80"},
)


def faults(insulation: str, method: str, placement: str, sunlight_marked: bool | None) -> list[Fault]:
    """Return what is not allowed about a conductor or cable type in a wiring method at a place."""
    wet = placement in WET_PLACEMENTS
    in_the_sun = placement in ("outdoors", "rooftop")
    return [
        fault
        for applies, fault in (
            (insulation == "SER" and placement == "underground", SER_UNDERGROUND),
            (insulation == "USE-2" and placement == "indoors", USE_INDOORS),
            (insulation == "NM-B" and wet, NM_WET),
            (insulation == "THHN" and wet, THHN_WET),
            (method == "fmc" and wet, FMC_WET),
            (insulation == "UF-B" and in_the_sun and sunlight_marked is False, UF_IN_THE_SUN),
        )
        if applies
    ]


def require_computed(insulation: str, method: str, placement: str) -> None:
    """Refuse combinations that the tables held here do not cover.

    Raises:
        CannotCompute: conductors in free air, or a type in a method that is not its own.
    """
    if method == "free_air":
        raise CannotCompute(
            "Spans in free air are not computed: their ampacity table and clearances are not held.",
            "Use a raceway or cable, or have the span designed by hand.",
        )
    fits = (
        (insulation in SINGLE_CONDUCTORS and method in RACEWAYS)
        or (insulation in CABLES and method == "cable")
        or (insulation in BURIED_BARE and method == "earth" and placement == "underground")
    )
    if not fits:
        raise CannotCompute(
            f"{insulation} with this wiring method and place is not computed.",
            "Single conductors (THWN-2, XHHW-2 …) run in a raceway, USE-2 and UF-B may lie in earth, "
            "NM-B, UF-B, SER and MC are cables.",
        )
    if insulation == "MC" and placement != "indoors":
        raise CannotCompute("MC cable outdoors goes by its listing and marking.", "Choose another type outdoors.")


def insulation_temperature(insulation: str, wet: bool, rules: Rules) -> int:
    """Return the temperature rating that a conductor's ampacity starts from, in °C.

    Raises:
        CannotCompute: the type has no rating in a wet location.
    """
    column = "wet_c" if wet else "dry_c"
    if rules.row("insulation", insulation)[column] == "":
        raise CannotCompute(f"{insulation} has no rating for wet locations.", "Choose a type that has, such as THWN-2.")
    return int(rules.cited_cell("insulation", (insulation,), column).value)


def cable_cap_c(insulation: str) -> int:
    """Return the column that a cable type's ampacity may not exceed: 60 °C for NM and UF (334.80, 340.80), else 90 °C."""
    return 60 if insulation in CAPPED_AT_60_C else 90


def ambient_on_roof(
    recorder: Recorder, run_id: str, ambient: Figure, insulation: str, clearance_in: Fraction | None
) -> Figure:
    """Return the ambient temperature of a run on a roof: raised by 33 °C where it lies close to it (310.15(B)(2)).

    XHHW-2 is exempt.

    Raises:
        MissingInput: the height above the roof is not known.
    """
    if insulation == EXEMPT_FROM_ROOF_HEAT:
        return ambient
    if clearance_in is None:
        raise MissingInput(run_id, "roof_clearance_in", "The height above the roof")
    limit = recorder.parameter("rooftop_clearance_in", "Height from which no heat is added")
    height = recorder.given("Height above the roof", clearance_in, "in", "run")
    if recorder.at_least("High enough above the roof", height, limit, clause="rooftop_adder"):
        return ambient
    adder = recorder.parameter("rooftop_adder_c", "Heat of the roof")
    return recorder.add("Ambient temperature on the roof", ambient, adder, clause="rooftop_adder")


def flexible_ground_limit_a(method: str, trade_size: str, rules: Rules) -> Fraction | None:
    """Return the largest device for which a flexible metal raceway may ground, None for raceways without that limit."""
    if method == "fmc" or (method == "lfmc" and trade_size in ("3/8", "1/2")):
        return rules.parameter("flexible_ground_a").number
    if method == "lfmc" and trade_size in ("3/4", "1", "1-1/4"):
        return rules.parameter("liquidtight_ground_large_a").number
    return Fraction(0) if method == "lfmc" else None
