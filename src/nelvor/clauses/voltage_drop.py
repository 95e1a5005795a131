"""Voltage drop of a run: by effective impedance (Chapter 9 Table 9) or by direct-current resistance (Table 8)."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from typing import NamedTuple

from nelvor.clauses.ampacity import COLUMN
from nelvor.rulebook.rules import Rules
from nelvor.working import Figure, Recorder, asked_once, product

REACTANCE_COLUMN = {"steel": "xl_steel", "other": "xl_pvc_al"}
HUNDRED, PER_KILOFOOT = Fraction(100), Fraction(1, 1000)
STEEL = frozenset({"emt", "rmc", "imc"})


class DropCase(NamedTuple):
    """What the drop of a run is worked out from. Currents in A, length in ft.

    ``base_volts`` is what the drop of one conductor is a share of: the volts to neutral, or half the
    volts between lines for one-phase loads between two lines (which on a wye is less).
    """

    method: str
    material: str
    sets: int
    length_ft: Fraction
    load: Figure
    imbalance_a: Fraction
    hot_size: str
    neutral_size: str | None
    base_volts: Fraction
    power_factor: Fraction
    by_resistance: bool


def ohms_per_1000_ft(recorder: Recorder, case: DropCase, size: str) -> Figure:
    """Return the effective ohms to neutral of one conductor per 1000 ft.

    Raises:
        MissingFigure: a size that the table does not hold.
    """
    if case.by_resistance:
        return recorder.table(f"Resistance of {size}", "conductor_dc", (size,), f"dc_{_table_8_metal(case.material)}")
    return _effective_impedance(recorder, size, case.material, case.method in STEEL, case.power_factor)


@asked_once
def _effective_impedance(
    recorder: Recorder, size: str, material: str, in_steel: bool, power_factor: Fraction
) -> Figure:
    resistance_column = f"r_{COLUMN[material]}_{'steel' if in_steel else 'pvc'}"
    resistance = recorder.table(f"Resistance of {size}", "conductor_ac", (size,), resistance_column)
    reactance = recorder.table(
        f"Reactance of {size}", "conductor_ac", (size,), REACTANCE_COLUMN["steel" if in_steel else "other"]
    )
    cosine = recorder.given("Power factor", power_factor, "", "job settings")
    sine = recorder.other_side("Reactive share", cosine)
    return recorder.add(
        f"Effective impedance of {size}",
        recorder.multiply("R × power factor", resistance, cosine, unit="ohm/kft"),
        recorder.multiply("X × reactive share", reactance, sine, unit="ohm/kft"),
    )


def _table_8_metal(material: str) -> str:
    return "cu_uncoated_ohm_kft" if material == "copper" else "al_ohm_kft"


def run_drop_percent(recorder: Recorder, case: DropCase) -> Figure:
    """Return the drop of a run in per cent of nominal, for the most loaded leg.

    The leg's current flows in its hot conductor and the line-to-neutral imbalance in the neutral;
    with no imbalance this is the drop of a line-to-line (or balanced three-phase) load.
    """
    kilofeet = recorder.given("Length", product((case.length_ft, PER_KILOFOOT)), "kft", "run")
    hot = recorder.multiply(
        "Volts in the hot conductor", case.load, ohms_per_1000_ft(recorder, case, case.hot_size), kilofeet, unit="V"
    )
    volts = hot
    if case.imbalance_a and case.neutral_size:
        imbalance = recorder.given("Imbalance in the neutral", case.imbalance_a, "A", "loads, line to neutral")
        back = recorder.multiply(
            "Volts in the neutral", imbalance, ohms_per_1000_ft(recorder, case, case.neutral_size), kilofeet, unit="V"
        )
        volts = recorder.add("Volts lost on the leg", hot, back)
    if case.sets > 1:
        sets = recorder.given("Sets", case.sets, "", "run")
        volts = recorder.divide("Volts lost with all sets", volts, sets, "V")
    nominal = recorder.given("Nominal volts for one conductor", case.base_volts, "V", "system")
    hundred = recorder.given("per cent", HUNDRED, "%", "per cent")
    share = recorder.divide("Share of nominal", volts, nominal, "")
    return recorder.multiply("Drop of this run", share, hundred, unit="%", clause="feeder_vd_note")


def sizes_known(rules: Rules, case: DropCase, sizes: Sequence[str]) -> list[str]:
    """Return those of some sizes whose ohms the table of the case holds."""
    table = rules.table("conductor_dc" if case.by_resistance else "conductor_ac")
    return [size for size in sizes if table.find((size,)) is not None]


def percent_in_hots(rules: Rules, case: DropCase, size: str) -> Fraction:
    """Return how many per cent of nominal the hots of a run lose at a size; no steps are taken down.

    Raises:
        MissingFigure: a size that the table does not hold.
    """
    ohms = ohms_per_1000_ft(Recorder(rules), case, size).number
    return case.load.number * ohms * case.length_ft / 1000 / case.sets / case.base_volts * 100
