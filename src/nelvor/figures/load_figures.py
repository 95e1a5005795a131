"""Quick figures of loads: dwellings by each method, cooking, dryers, measured demand."""

from __future__ import annotations

from collections import Counter
from typing import Any, Literal

from pydantic import Field

from nelvor.clauses import measured_demand
from nelvor.clauses.calculated_load import LevelLoad, Methods, calculate
from nelvor.clauses.cooking_and_drying import dryer_line, range_line
from nelvor.clauses.heating_cooling import CLIMATE
from nelvor.clauses.load_kind import SQUARE_ROOT_OF_3, LoadKind, Tally, tally_of
from nelvor.figures.answer import Remark, Worked
from nelvor.figures.inputs import MOST_VA, Inputs, Part, choice, given, impossible, quantity, rating
from nelvor.figures.quick_figure import QuickFigure
from nelvor.model.things import Load
from nelvor.model.vocabulary import SpaceKind
from nelvor.model.voltages import LINE_TO_LINE_V
from nelvor.working import Recorder, exact

GROUP = "Loads"
FARM_SYSTEM = "split_120_240"
System = Literal["split_120_240", "wye_208_120"]
ApplianceKind = Literal[
    "range",
    "dryer",
    "water_heater",
    "fastened_appliance",
    "motor",
    "heating",
    "heat_pump",
    "supplementary_heat",
    "thermal_storage",
    "cooling",
    "vehicle_charging",
    "other",
]


class AreaInputs(Part):
    space: SpaceKind = choice("Kind of space", "living")
    ft2: float = quantity("Area by outside dimensions", "ft²", 1500.0, ge=0, le=1_000_000)


class ApplianceInputs(Part):
    kind: ApplianceKind = choice("Kind", "range")
    amount: float = quantity("Nameplate", "", 12.0, ge=0, le=MOST_VA)
    unit: Literal["kW", "kVA", "W", "VA", "A", "hp"] = choice("Unit", "kW")
    pieces: int = quantity("Pieces", "", 1, ge=1, le=1000)
    volts: float = quantity("Volts", "V", 240.0, gt=0, le=1000)
    locked_out: bool = choice("Heat locked out from its heat pump", False)
    load_managed: bool = choice("Charging limited by listed load management", False)
    motor_driven: bool = choice("Appliance driven by a motor", False)


class DwellingInputs(Inputs):
    system: System = choice("Supply", "split_120_240")
    areas: list[AreaInputs] = Field(title="Areas", min_length=1, max_length=40)
    small_appliance_circuits: int = quantity("Small-appliance circuits", "", 2, ge=0, le=100)
    laundry_circuits: int = quantity("Laundry circuits", "", 1, ge=0, le=100)
    appliances: list[ApplianceInputs] = Field(default_factory=list, title="Appliances and equipment", max_length=200)


def _load(number: int, dwelling: str | None, **values: Any) -> Load:
    return Load(id=f"load-{number}", enclosure_id="panel", dwelling_unit_id=dwelling, **values)


def _appliance(number: int, unit: str | None, item: ApplianceInputs) -> Load:
    return _load(
        number,
        unit,
        category=item.kind,
        amount=item.amount,
        unit=item.unit,
        quantity=item.pieces,
        volts=item.volts,
        locked_out=item.locked_out,
        load_managed=item.load_managed,
        motor_driven=item.motor_driven,
    )


def _unit_loads(inputs: DwellingInputs, unit: str, appliances: list[ApplianceInputs], first: int = 0) -> list[Load]:
    loads = [
        _load(first + at, unit, category="lighting_area", amount=item.ft2, unit="ft2", space_kind=item.space)
        for at, item in enumerate(inputs.areas)
    ]
    circuits = {"small_appliance": inputs.small_appliance_circuits, "laundry": inputs.laundry_circuits}
    for category, count in circuits.items():
        if count:
            loads.append(_load(first + len(loads), unit, category=category, amount=float(count), unit="circuits"))
    return loads + [_appliance(first + len(loads) + at, unit, item) for at, item in enumerate(appliances)]


def _calculated(
    loads: list[Load], inputs: DwellingInputs, recorder: Recorder, methods: Methods
) -> tuple[LevelLoad, Worked]:
    return _of_level(tally_of(loads, inputs.system, recorder.rules), inputs.system, recorder, methods)


def _of_level(tally: Tally, system: str, recorder: Recorder, methods: Methods) -> tuple[LevelLoad, Worked]:
    level = calculate("panel", tally, system, recorder.rules, methods)
    recorder.steps.extend(level.recorder.steps)
    worst = level.worst
    others = {line.label: line.demand_va for group in level.groups for line in group.lines}
    others |= {"connected": level.connected_va, "amperes": worst.actual, "for device and conductors": worst.design}
    return level, Worked(level.demand_va, others | {"neutral": level.neutral})


def _by_method(
    inputs: DwellingInputs, loads: list[Load], method: str, recorder: Recorder, added: bool = False
) -> Worked:
    methods = Methods(
        of_unit={"unit": method},
        whole={"unit": sum(load.quantity for load in loads)},
        climate_added=frozenset({"unit"}) if added else frozenset(),
    )
    return _calculated(loads, inputs, recorder, methods)[1]


def _standard(inputs: DwellingInputs, recorder: Recorder) -> Worked:
    return _by_method(inputs, _unit_loads(inputs, "unit", inputs.appliances), "standard", recorder)


class OptionalDwellingInputs(DwellingInputs):
    supply_a: float = rating("Rating of the one service or feeder", 200.0)


def _optional(inputs: OptionalDwellingInputs, recorder: Recorder) -> Worked:
    least = recorder.rules.parameter("optional_least_supply_a").value
    if exact(inputs.supply_a) < exact(least):
        raise impossible(
            "supply_a",
            f"the optional method is for a supply of {least} A and more.",
            "Use the standard method, or enter the larger supply.",
        )
    return _by_method(inputs, _unit_loads(inputs, "unit", inputs.appliances), "optional", recorder)


class ExistingDwellingInputs(DwellingInputs):
    added: list[ApplianceInputs] = Field(default_factory=list, title="Added appliances and equipment", max_length=200)


def _existing(inputs: ExistingDwellingInputs, recorder: Recorder) -> Worked:
    climate = any(item.kind in CLIMATE for item in inputs.added)
    loads = _unit_loads(inputs, "unit", [*inputs.appliances, *inputs.added])
    worked = _by_method(inputs, loads, "existing", recorder, climate)
    text = (
        "Heating or cooling is added: the larger of the two counts whole."
        if climate
        else "No heating or cooling is added."
    )
    return Worked(worked.main, worked.others, (Remark("holds", text, "optional_existing_dwelling"),))


class MultifamilyInputs(DwellingInputs):
    units: int = quantity("Dwelling units, alike", "", 3, ge=1, le=500)
    house_loads: list[ApplianceInputs] = Field(default_factory=list, title="House loads", max_length=100)


def _multifamily(inputs: MultifamilyInputs, recorder: Recorder) -> Worked:
    least = recorder.rules.parameter("multifamily_least_units").value
    two = int(recorder.rules.parameter("two_units").value)
    if inputs.units < two:
        raise impossible("units", f"the method is for {least} units and more.", "Use the standard method.")
    loads: list[Load] = []
    for number in range(inputs.units):
        loads += _unit_loads(inputs, f"unit-{number}", inputs.appliances, len(loads))
    each = len(loads) and sum(load.quantity for load in loads) // inputs.units
    loads += [_appliance(len(loads) + at, None, item) for at, item in enumerate(inputs.house_loads)]
    methods = Methods(multifamily=True, whole={f"unit-{number}": each for number in range(inputs.units)})
    level, worked = _calculated(loads, inputs, recorder, methods)
    if inputs.units > two:
        return worked
    as_three = any(group.method == "two_units" for group in level.groups)
    text = (
        "Two units count as three by the optional method, which is less than by the standard method."
        if as_three
        else "By the standard method, which is not more than three such units by the optional one."
    )
    return Worked(worked.main, worked.others, (Remark("holds", text, "two_dwelling_units"),))


class FarmLoadInputs(Part):
    building: str = Field("Barn", title="Building", min_length=1, max_length=80)
    kind: Literal["motor", "lighting", "receptacles", "heating", "cooling", "other"] = choice("Kind", "motor")
    amount: float = quantity("Nameplate", "", 5.0, ge=0, le=MOST_VA)
    unit: Literal["kW", "kVA", "W", "VA", "A", "hp"] = choice("Unit", "hp")
    pieces: int = quantity("Pieces", "", 1, ge=1, le=1000)
    volts: float = quantity("Volts", "V", 240.0, gt=0, le=1000)
    without_diversity: bool = choice("Runs with the others", False)


class FarmInputs(Inputs):
    loads: list[FarmLoadInputs] = Field(title="Loads of farm buildings", min_length=1, max_length=500)


def _farm(inputs: FarmInputs, recorder: Recorder) -> Worked:
    tally: Tally = Counter()
    for number, item in enumerate(inputs.loads):
        load = Load(
            id=f"load-{number}",
            enclosure_id="panel",
            category=item.kind,
            amount=item.amount,
            unit=item.unit,
            quantity=item.pieces,
            volts=item.volts,
            without_diversity=item.without_diversity,
        )
        tally += tally_of([load], FARM_SYSTEM, recorder.rules, item.building)
    return _of_level(tally, FARM_SYSTEM, recorder, Methods(other="farm"))[1]


class CookingInputs(Part):
    kw: float = quantity("Rating", "kW", 12.0, gt=0, le=100)
    pieces: int = quantity("Pieces", "", 1, ge=1, le=500)


class RangeDemandInputs(Inputs):
    appliances: list[CookingInputs] = Field(title="Cooking appliances", min_length=1, max_length=60)


def _kinds(items: list[CookingInputs], category: str) -> Counter[LoadKind]:
    kinds: Counter[LoadKind] = Counter()
    for item in items:
        kinds[LoadKind(category, exact(item.kw) * 1000, False, "even", True, "")] += item.pieces
    return kinds


def _range_demand(inputs: RangeDemandInputs, recorder: Recorder) -> Worked:
    line = range_line(_kinds(inputs.appliances, "range"), recorder)
    assert line is not None  # at least one appliance is entered
    return Worked(line.demand_va, {"connected": line.connected_va})


class DryerDemandInputs(Inputs):
    dryers: list[CookingInputs] = Field(title="Dryers", min_length=1, max_length=60)


def _dryer_demand(inputs: DryerDemandInputs, recorder: Recorder) -> Worked:
    line = dryer_line(_kinds(inputs.dryers, "dryer"), recorder)
    assert line is not None  # at least one dryer is entered
    return Worked(line.demand_va, {"at 5000 VA or nameplate": line.connected_va})


class MeasuredDemandInputs(Inputs):
    system: System = choice("Supply", "split_120_240")
    peak_kw: float = quantity("Recorded peak, averaged over the interval", "kW", ge=0, le=100_000)
    power_factor: float | None = quantity("Power factor at the peak, empty if not known", "", None, gt=0, le=1)
    days: float = quantity("Days recorded", "d", 365.0, gt=0, le=4000)
    interval_minutes: float = quantity("Interval of the record", "min", 15.0, gt=0, le=1440)
    net_metered: bool | None = choice("The record is net of solar or storage", False)
    highest_phase_recorded: bool | None = choice("The highest loaded phase was recorded, building in use", None)
    seasonal_load_allowed_for: bool | None = choice("Seasonal load is allowed for", None)
    overcurrent_protected: bool | None = choice("Conductors and service are protected against overcurrent", True)
    new_load_va: float = quantity("New load", "VA", 0.0, ge=0, le=MOST_VA)
    supply_a: float | None = rating("Service or feeder", None)


def _measured_demand(inputs: MeasuredDemandInputs, recorder: Recorder) -> Worked:
    root = SQUARE_ROOT_OF_3 if inputs.system == "wye_208_120" else 1
    found = measured_demand.measured_demand(
        recorder,
        measured_demand.Recording(
            exact(inputs.peak_kw),
            None if inputs.power_factor is None else exact(inputs.power_factor),
            exact(inputs.days),
            exact(inputs.interval_minutes),
            inputs.net_metered,
            inputs.highest_phase_recorded,
            inputs.seasonal_load_allowed_for,
            inputs.overcurrent_protected,
        ),
        given(recorder, "New load", inputs.new_load_va, "VA"),
        recorder.given("Volts between lines, with the phases", LINE_TO_LINE_V[inputs.system] * root, "V", "entered"),
    )
    remarks = [Remark("advice", text, "measured_demand") for text in found.assumptions]
    if inputs.supply_a is not None:
        supply = given(recorder, "Service or feeder", inputs.supply_a, "A")
        holds = recorder.at_least("The supply carries it", supply, found.amperes, clause="measured_demand")
        text = f"{found.amperes.text} A of {supply.text} A."
        remarks.insert(0, Remark("holds" if holds else "must_fix", text, "measured_demand"))
    return Worked(found.total_va, {"existing load": found.existing_va, "amperes": found.amperes}, tuple(remarks))


HOUSE = {
    "edition": "2023",
    "areas": [{"space": "living", "ft2": 1500}],
    "appliances": [
        {"kind": "range", "amount": 12, "unit": "kW"},
        {"kind": "dryer", "amount": 5.5, "unit": "kW"},
        {"kind": "water_heater", "amount": 4.5, "unit": "kW"},
        {"kind": "cooling", "amount": 5, "unit": "kVA"},
    ],
}
FIGURES = [
    QuickFigure(
        "dwelling-standard",
        "Dwelling, standard",
        "What does one dwelling unit draw by the standard method?",
        GROUP,
        DwellingInputs,
        _standard,
        HOUSE,
    ),
    QuickFigure(
        "dwelling-optional",
        "Dwelling, optional",
        "What does one dwelling unit draw by the optional method?",
        GROUP,
        OptionalDwellingInputs,
        _optional,
        HOUSE,
    ),
    QuickFigure(
        "existing-dwelling",
        "Existing dwelling",
        "May load be added to an existing dwelling?",
        GROUP,
        ExistingDwellingInputs,
        _existing,
        {**HOUSE, "added": [{"kind": "vehicle_charging", "amount": 32, "unit": "A"}]},
    ),
    QuickFigure(
        "multifamily",
        "Multifamily, optional",
        "What do two, or three and more, dwelling units draw together?",
        GROUP,
        MultifamilyInputs,
        _multifamily,
        {**HOUSE, "units": 12},
    ),
    QuickFigure(
        "farm-loads",
        "Farm loads",
        "What do the buildings of a farm draw, each and together?",
        GROUP,
        FarmInputs,
        _farm,
        {
            "edition": "2023",
            "loads": [
                {"building": "Barn", "kind": "motor", "amount": 10, "unit": "hp", "without_diversity": True},
                {"building": "Barn", "kind": "lighting", "amount": 6, "unit": "kVA"},
                {"building": "Shed", "kind": "other", "amount": 9, "unit": "kVA"},
            ],
        },
    ),
    QuickFigure(
        "range-demand",
        "Range demand",
        "What do household cooking appliances draw?",
        GROUP,
        RangeDemandInputs,
        _range_demand,
        {"edition": "2023", "appliances": [{"kw": 14}]},
    ),
    QuickFigure(
        "dryer-demand",
        "Dryer demand",
        "What do household dryers draw?",
        GROUP,
        DryerDemandInputs,
        _dryer_demand,
        {"edition": "2023", "dryers": [{"kw": 5.5, "pieces": 12}]},
    ),
    QuickFigure(
        "measured-demand",
        "Measured demand",
        "What may be added, by the peak that the meter recorded?",
        GROUP,
        MeasuredDemandInputs,
        _measured_demand,
        {"edition": "2023", "peak_kw": 9.6, "new_load_va": 11500, "supply_a": 100},
    ),
]
