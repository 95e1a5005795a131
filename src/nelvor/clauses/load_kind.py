"""What one load amounts to: from its nameplate, in whatever unit, to volt-amperes and its place on the legs."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from fractions import Fraction
from functools import cache
from math import ceil
from typing import NamedTuple

from nelvor.errors import CannotCompute, MissingInput
from nelvor.model.things import Load
from nelvor.model.voltages import LINE_TO_LINE_V, LINE_TO_NEUTRAL_V, THREE_PHASE, legs_of
from nelvor.rulebook.rules import Rules
from nelvor.working import exact

SQUARE_ROOT_OF_3, ONE_PHASE = Fraction("1.7320508"), Fraction(1)
MOTOR_COLUMNS = {115: "a115", 120: "a115", 200: "a200", 208: "a208", 230: "a230", 240: "a230", 460: "a460", 480: "a460"}
NEUTRAL_BY_CUSTOM = frozenset({"range", "dryer"})
COUNTED_UNITS = {"lighting_area": "ft2", "small_appliance": "circuits", "laundry": "circuits"}
OF_ONE_CATEGORY = {"outlets": ("receptacles",), "ft": ("show_window", "track_lighting")}
MOTOR_DRIVEN = frozenset({"motor", "cooling", "heat_pump"})
ALWAYS_CONTINUOUS = frozenset({"vehicle_charging", "sign"})
WATTS_PER_HORSEPOWER = 746
NEAR = Fraction(1, 10)

EVEN_ON = "even on "
TWO_LEGS = 2
THROUGH_DELTA = "through delta "
# Windings 1, 2 and 3 lie between primary lines 1-2, 2-3 and 3-1: the line that two of them share.
SHARED_LINE = {"L1-L2": "L2", "L2-L3": "L3", "L1-L3": "L1"}


class LoadKind(NamedTuple):
    """Loads that are alike to the rules. ``each`` is VA of one piece, or ft2, or circuits.

    ``space_kind`` is the kind of a dwelling's space, or the occupancy of any other lighted area.
    ``locked_out`` marks supplementary heat that cannot run together with its heat pump; ``managed`` a
    charger whose amount is the limit of a listed load-management system. Kinds with the same ``apart``
    cannot run at once. ``building`` and ``without_diversity`` matter to the farm rules alone.
    ``motor_driven`` marks appliances that are motors besides.
    """

    category: str
    each: Fraction
    continuous: bool
    connection: str
    uses_neutral: bool
    space_kind: str
    locked_out: bool = False
    managed: bool = False
    apart: str = ""
    building: str = ""
    without_diversity: bool = False
    motor_driven: bool = False

    def __hash__(self) -> int:
        """By what tells most kinds apart: the hash of a fraction takes longer than all else."""
        return hash((self.category, self.connection, self.each.numerator))

    @property
    def is_motor(self) -> bool:
        """Whether it takes part where the largest motor is looked for."""
        return self.motor_driven or self.category in MOTOR_DRIVEN


Tally = Counter[tuple[str, LoadKind]]
OTHER = ""


def kind_of(
    load: Load, system: str, rules: Rules, brought: frozenset[str] | None = None, by_space: str | None = None
) -> LoadKind:
    """Return what a load amounts to at the voltages of its panel.

    ``brought`` are the legs that reach the panel, None for all of the system's; ``by_space`` is how the space of
    its circuit lays it on them, where that is known.

    Raises:
        MissingInput: its amount or voltage is not filled in.
        CannotCompute: the unit does not fit the category, or the connection the legs that are brought.
        MissingFigure: a motor size that the motor table does not hold.
    """
    connection = _connection(load, system, by_space)
    to_neutral = "N" in connection or connection == "even"
    uses_neutral = to_neutral if load.neutral_used is None else load.neutral_used
    if load.neutral_used is None and load.category in NEUTRAL_BY_CUSTOM:
        uses_neutral = True
    continuous = load.continuous or load.category in ALWAYS_CONTINUOUS
    is_appliance = load.category == "motor" and load.fastened_in_place and load.dwelling_unit_id is not None
    return LoadKind(
        "fastened_appliance" if is_appliance else load.category,
        _each(load, system, rules),
        continuous,
        connection if brought is None else _on_legs(connection, brought, load, system),
        uses_neutral,
        _space(load),
        load.locked_out,
        load.load_managed and load.category == "vehicle_charging",
        f"{load.enclosure_id} {load.runs_apart}" if load.runs_apart else "",
        motor_driven=load.motor_driven or is_appliance,
    )


def _space(load: Load) -> str:
    if load.category != "lighting_area":
        return ""
    if load.dwelling_unit_id:
        return load.space_kind or "living"
    return load.occupancy or ""


def _connection(load: Load, system: str, by_space: str | None) -> str:
    if load.connection:
        return load.connection
    if load.three_phase:
        return "three_phase"
    if by_space:
        return by_space
    line_to_line = LINE_TO_LINE_V.get(system)
    if load.volts is not None and line_to_line is not None and load.volts > LINE_TO_NEUTRAL_V.get(system, 0) * 1.1:
        return "even_line_to_line" if system in THREE_PHASE else "L1-L2"
    return "even"


def _on_legs(connection: str, brought: frozenset[str], load: Load, system: str) -> str:
    """Return the connection where not every leg of the system is brought: spread over those that are."""
    legs = legs_of(system)
    if len(brought) == len(legs):
        return connection
    if connection == "even":
        return f"{next(iter(brought))}-N" if len(brought) == 1 else f"{EVEN_ON}{','.join(sorted(brought))}"
    if connection == "even_line_to_line" and len(brought) == TWO_LEGS:
        return "-".join(sorted(brought))
    named = set(connection.removesuffix("-N").split("-"))
    if connection in ("even_line_to_line", "three_phase") or not named <= brought:
        raise CannotCompute(
            f"{load.name or load.id} needs legs that do not reach its panel, which has {' and '.join(sorted(brought))}.",
            "Connect it otherwise, or bring the leg.",
        )
    return connection


def _volts(load: Load) -> Fraction:
    if load.volts is None:
        raise MissingInput(load.id, "volts", f"The voltage of {load.name or load.id}")
    return exact(load.volts)


def _each(load: Load, system: str, rules: Rules) -> Fraction:
    if load.amount is None:
        raise MissingInput(load.id, "amount", f"The amount of {load.name or load.id}")
    needed = COUNTED_UNITS.get(load.category)
    if (needed or load.unit) != load.unit or (load.unit in COUNTED_UNITS.values() and needed is None):
        wanted = needed or "VA, W, A or hp"
        raise CannotCompute(f"{load.name or load.id} is given in {load.unit}.", f"Give it in {wanted}.")
    amount = exact(load.amount)
    phases = SQUARE_ROOT_OF_3 if load.three_phase or load.connection == "three_phase" else ONE_PHASE
    allowed = OF_ONE_CATEGORY.get(load.unit, (load.category,))
    if load.category not in allowed:
        raise CannotCompute(
            f"{load.name or load.id} is given in {load.unit}.",
            f"Only {' and '.join(name.replace('_', ' ') for name in allowed)} are counted so; give it in VA, W, A or hp.",
        )
    va = _amount_va(load, amount, system, phases, rules)
    if load.category == "sign":  # a sign outlet counts for so many VA at least (220.14(F))
        return max(va, rules.parameter("sign_least_va").number)
    return va


def _nominal_volts(load: Load, system: str) -> Fraction:
    """The system's own volts at which a load is connected, so that its amperes stay those of its plate or table."""
    volts = _volts(load)
    to_neutral, line_to_line = LINE_TO_NEUTRAL_V.get(system), LINE_TO_LINE_V.get(system)
    near = [nominal for nominal in (to_neutral, line_to_line) if nominal and abs(volts - nominal) <= nominal * NEAR]
    return Fraction(near[0]) if near else volts


def _by_length(load: Load, feet: Fraction, rules: Rules) -> Fraction:
    """Show windows by the foot; track lighting for every 2 ft or a part of them (220.46)."""
    if load.category == "show_window":
        return feet * rules.parameter("show_window_va_per_ft").number
    step = rules.parameter("track_lighting_step_ft").number
    return ceil(feet / step) * rules.parameter("track_lighting_va").number


def _amount_va(load: Load, amount: Fraction, system: str, phases: Fraction, rules: Rules) -> Fraction:
    match load.unit:
        case "ft":
            return _by_length(load, amount, rules)
        case "outlets":
            return amount * rules.parameter("receptacle_va").number
        case "kW" | "kVA":
            return amount * 1000
        case "A":
            return amount * _nominal_volts(load, system) * phases
        case "hp":
            three_phase = load.three_phase or load.connection == "three_phase"
            return motor_amperes(amount, int(_volts(load)), three_phase, rules) * _nominal_volts(load, system) * phases
        case _:
            return amount


def motor_amperes(horsepower: Fraction, volts: int, three_phase: bool, rules: Rules) -> Fraction:
    """Return the full-load current of a motor by Tables 430.248 and 430.250, in A.

    Raises:
        CannotCompute: the tables have no column for this voltage.
        MissingFigure: they have no row for this size.
    """
    column = MOTOR_COLUMNS.get(volts)
    if column is None:
        raise CannotCompute(f"The motor tables have no column for {volts} V.", "Give the motor in amperes.")
    return rules.cell("motor_three_phase" if three_phase else "motor_single_phase", (_mixed(horsepower),), column)


def _mixed(value: Fraction) -> str:
    """Write 3/2 as the tables do: 1-1/2."""
    whole, rest = divmod(value, 1)
    if rest == 0:
        return str(whole)
    return f"{whole}-{rest}" if whole else str(rest)


@cache
def amperes_per_va(connection: str, system: str) -> Mapping[str, Fraction]:
    """Return the amperes that one VA draws on each leg; there are few connections, and each is asked for often.

    On a wye, line-to-line and line-to-neutral currents are added as numbers, which is never
    less than their sum with phase angles.
    """
    line_to_line, legs = Fraction(LINE_TO_LINE_V[system]), legs_of(system)
    three_phase = len(legs) == 3
    if connection in ("three_phase", "even", "even_line_to_line") and three_phase:
        return {leg: 1 / (SQUARE_ROOT_OF_3 * line_to_line) for leg in legs}
    if connection in ("even", "even_line_to_line"):
        return {leg: 1 / line_to_line for leg in legs}
    if connection.startswith(EVEN_ON):
        on = connection.removeprefix(EVEN_ON).split(",")
        return {leg: 1 / (len(on) * Fraction(LINE_TO_NEUTRAL_V[system])) for leg in on}
    if connection.startswith(THROUGH_DELTA):
        return _through_delta(connection.removeprefix(THROUGH_DELTA), line_to_line)
    if connection.endswith("-N"):
        return {connection[:2]: 1 / Fraction(LINE_TO_NEUTRAL_V[system])}
    if connection == "three_phase":
        raise CannotCompute("A three-phase load stands on a one-phase panel.", "Choose another connection or panel.")
    return {leg: 1 / line_to_line for leg in connection.split("-")}


def _through_delta(connection: str, line_to_line: Fraction) -> dict[str, Fraction]:
    """Amperes per VA in a delta primary for a load between two lines of the wye secondary.

    The load's current passes two windings, each VA over the square root of 3 times the primary volts; the
    primary line that the two windings share carries it twice.
    """
    each = 1 / (SQUARE_ROOT_OF_3 * line_to_line)
    shared = SHARED_LINE[connection]
    return {leg: 2 * each if leg == shared else each for leg in ("L1", "L2", "L3")}


def lies_to_neutral(connection: str) -> bool:
    """Tell whether a connection is between legs and neutral alone."""
    return connection.endswith("-N") or connection == "even" or connection.startswith(EVEN_ON)


def tally_of(
    loads: Iterable[Load],
    system: str,
    rules: Rules,
    farm_building: str = "",
    brought: frozenset[str] | None = None,
    by_space: Mapping[str, str] | None = None,
) -> Tally:
    """Return the loads of one panel counted by dwelling unit and kind; ``brought`` as for ``kind_of``.

    ``by_space`` holds, by id, the connections of loads whose circuit has its place on the bus.

    ``farm_building`` is the building in which loads of no dwelling unit stand, where the farm rules ask for it.

    Raises:
        MissingInput, CannotCompute: as ``kind_of``.
    """
    tally: Tally = Counter()
    for load in loads:
        kind = kind_of(load, system, rules, brought, (by_space or {}).get(load.id))
        if farm_building and not load.dwelling_unit_id:
            if load.without_diversity is None:
                what = f"Whether {load.name or load.id} runs together with the others"
                raise MissingInput(load.id, "without_diversity", what)
            kind = kind._replace(building=farm_building, without_diversity=load.without_diversity)
        tally[load.dwelling_unit_id or OTHER, kind] += load.quantity
    return tally
