"""Impedances of the branches: conductors by Chapter 9 Table 9, contacts, electrodes and sources by stated assumptions."""

from __future__ import annotations

from math import log, pi

from nelvor.clauses.ampacity import COLUMN
from nelvor.clauses.voltage_drop import STEEL
from nelvor.errors import CannotCompute, MissingInput
from nelvor.judges.run import RunAnswer
from nelvor.model.things import Electrode, Run, Source, Transformer
from nelvor.model.voltages import LINE_TO_LINE_V, LINE_TO_NEUTRAL_V, THREE_PHASE
from nelvor.rulebook.rules import Rules
from nelvor.study.branches import Circuit, Ohms

CONTACT: Ohms = 1e-4 + 0j
"""A closed pole, a bar, a stretch of bus, in ohms: what a good contact has."""

BOND: Ohms = 5e-4 + 0j
COMMON_LEAKAGE, HALF_LEAKAGE = 2 / 3, 1 / 6
"""What leaks in a centre-tapped transformer, as shares of its impedance between lines: in common, and in each half.

A fault from line to neutral at its terminals is then half as large again as one between lines.
"""
METAL_PATH_OHMS = 0.01
STEEL_RACEWAY_PER_KFT = 0.4
ELECTRODE_OHMS = {
    "rod": 25.0,
    "plate": 25.0,
    "ring": 10.0,
    "concrete_encased": 5.0,
    "water_pipe": 3.0,
    "building_steel": 5.0,
}
USUAL_ROD_FT, ROD_RADIUS_M, METERS_IN_A_FOOT = 8.0, 0.0079, 0.3048
UTILITY_GROUND_OHMS = 5.0
UTILITY_FAULT_A = 10_000.0
SET_REACTANCE = 0.15
"""Subtransient reactance of a set, per unit of its rating."""

SIZED_AS = {"neutral": "neutral", "ground": "ground"}


def conductor_ohms(rules: Rules, answer: RunAnswer, role: str, other_size: str | None = None) -> Ohms:
    """Return the impedance of one conductor of a run, all sets together; of another size where one is given.

    Raises:
        MissingInput: the length of the run is not known.
        CannotCompute: its size or metal is not known.
        MissingFigure: the table holds no such size.
    """
    run = answer.run
    if run.length_ft is None:
        raise MissingInput(run.id, "length_ft", "The length of the run")
    size = other_size or answer.size(SIZED_AS.get(role, "hots"))
    metal = (run.ground_material or run.material) if role == "ground" else run.material
    if size is None or metal is None:
        raise CannotCompute(f"The size of the {role} of a run is not known.", "Complete the run.")
    wall = "steel" if run.method in STEEL else "pvc"
    resistance = rules.cell("conductor_ac", (size,), f"r_{COLUMN[metal]}_{wall}")
    reactance = rules.cell("conductor_ac", (size,), "xl_steel" if run.method in STEEL else "xl_pvc_al")
    return complex(float(resistance), float(reactance)) * run.length_ft / 1000 / run.sets


def raceway_ohms(circuit: Circuit, run: Run) -> Ohms:
    """Return the resistance of a metal raceway."""
    if run.length_ft is None:
        raise MissingInput(run.id, "length_ft", "The length of the run")
    circuit.assume(
        f"metal raceways at {STEEL_RACEWAY_PER_KFT} Ω per 1000 ft; a third to three times that, by kind, joints and current"
    )
    return complex(max(STEEL_RACEWAY_PER_KFT * run.length_ft / 1000, abs(CONTACT)))


def electrode_ohms(circuit: Circuit, electrode: Electrode, soil_ohm_m: float | None = None) -> Ohms:
    """Return the resistance of an electrode to earth: as measured, else by its kind, and by the soil where that is told.

    Of a rod in known soil R = ρ / 2πL · (ln(4L/a) - 1), with L its length and a its radius (Dwight); what is taken of the
    other kinds goes with the soil as a rod does.
    """
    if electrode.resistance_ohm is not None:
        return complex(max(electrode.resistance_ohm, abs(CONTACT)))
    kind = electrode.kind.replace("_", " ")
    found = ELECTRODE_OHMS.get(electrode.kind, 25.0)
    if soil_ohm_m is None:
        circuit.assume(f"{kind} electrodes not measured: {found:g} Ω each")
        return complex(found)
    usual = rod_ohms(soil_ohm_m, USUAL_ROD_FT)
    found *= usual / ELECTRODE_OHMS["rod"]
    if electrode.kind == "rod":
        found = rod_ohms(soil_ohm_m, electrode.length_ft or USUAL_ROD_FT)
    circuit.assume(f"{kind} electrodes not measured: {found:.3g} Ω in soil of {soil_ohm_m:g} Ω·m")
    return complex(found)


def rod_ohms(soil_ohm_m: float, length_ft: float) -> float:
    """Return the resistance of a driven rod in ohms."""
    length = length_ft * METERS_IN_A_FOOT
    return soil_ohm_m / (2 * pi * length) * (log(4 * length / ROD_RADIUS_M) - 1)


def source_ohms(circuit: Circuit, source: Source, system: str, *, into_a_fault: bool) -> Ohms:
    """Return the impedance behind each line of a source, from its fault current or its rating.

    Raises:
        MissingInput: its rating is not entered; or what it gives into a fault, where it limits that by itself.
    """
    to_neutral = LINE_TO_NEUTRAL_V[system]
    # What is told is the fault of all lines: of three to one point, or of two to each other.
    behind_each = complex(0.2, 0.98) * (to_neutral if system in THREE_PHASE else LINE_TO_LINE_V[system] / 2)
    fault_a = source.fault_current_a if source.kind == "utility" else source.fault_contribution_a
    if fault_a is not None:
        return behind_each / fault_a
    if source.kind == "utility" and source.transformer_kva is not None and source.impedance_percent is not None:
        circuit.assume("nothing of what lies ahead of the utility's transformer: all that its plate lets through")
        base = LINE_TO_LINE_V[system] ** 2 / (source.transformer_kva * 1000)
        each = base if system in THREE_PHASE else base / 2
        return complex(0.3, 0.954) * source.impedance_percent / 100 * each
    if source.kind == "utility":
        circuit.assume(f"{UTILITY_FAULT_A:g} A in a fault of all lines of {source.name or 'the utility'}")
        return behind_each / UTILITY_FAULT_A
    if source.rated_kva is None:
        raise MissingInput(source.id, "rated_kva", f"The rating of {source.name or source.id}")
    if into_a_fault and source.kind != "generator":
        raise MissingInput(source.id, "fault_contribution_a", f"What {source.name or source.id} gives into a fault")
    circuit.assume(f"{SET_REACTANCE:.0%} reactance of {source.name or source.id}")
    per_line = source.rated_kva * 1000 / (3 if system.startswith("wye") else 2)
    return complex(0.1, 1) * SET_REACTANCE * to_neutral**2 / per_line


def transformer_ohms(transformer: Transformer, system: str) -> Ohms:
    """Return the impedance of a secondary from the plate: of each leg of a wye, between the lines of a centre-tapped one.

    Raises:
        MissingInput: its rating or impedance is not entered.
    """
    kva, percent = transformer.kva, transformer.impedance_percent
    if kva is None:
        raise MissingInput(transformer.id, "kva", "The rating of a transformer")
    if percent is None:
        raise MissingInput(transformer.id, "impedance_percent", "The impedance of a transformer")
    base = LINE_TO_LINE_V[system] ** 2 / (
        kva * 1000
    )  # of a wye too: its phase volts squared over a third of the rating
    return complex(0.3, 0.954) * percent / 100 * base
