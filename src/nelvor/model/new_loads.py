"""What a new load of each kind begins with, and the words of the trade that stand for the kind.

The one definition: the interface's catalogue is generated from it, and load lists are read by it.
"""

from __future__ import annotations

import re
from dataclasses import asdict, dataclass
from typing import Any

from nelvor.model.vocabulary import AmountUnit, LoadCategory


@dataclass(frozen=True)
class NewLoad:
    """A kind of load as it is added; every part of it can be changed. ``spellings`` are further words for it."""

    label: str
    name: str
    unit: AmountUnit
    amount: float | None
    volts: float | None
    continuous: bool = False
    spellings: tuple[str, ...] = ()


NEW_LOADS: dict[LoadCategory, NewLoad] = {
    "lighting_area": NewLoad(
        "Lighting by area",
        "Living space",
        "ft2",
        None,
        None,
        spellings=("general lighting", "lighting load", "living area", "floor area", "square feet", "area"),
    ),
    "small_appliance": NewLoad(
        "Small-appliance circuits",
        "Small-appliance circuits",
        "circuits",
        2,
        None,
        spellings=("small appliance", "kitchen counter circuits", "countertop circuits", "SABC"),
    ),
    "laundry": NewLoad(
        "Laundry circuit", "Laundry circuit", "circuits", 1, None, spellings=("laundry", "washer", "washing machine")
    ),
    "range": NewLoad(
        "Range",
        "Range",
        "kW",
        12,
        240,
        spellings=("electric range", "stove", "oven", "wall oven", "cooktop", "cook top", "range/oven"),
    ),
    "dryer": NewLoad("Dryer", "Dryer", "kW", 5, 240, spellings=("clothes dryer", "electric dryer")),
    "water_heater": NewLoad(
        "Water heater", "Water heater", "kW", 4.5, 240, spellings=("hot water heater", "WH", "electric water heater")
    ),
    "fastened_appliance": NewLoad(
        "Fastened appliance",
        "Fastened appliance",
        "VA",
        None,
        120,
        spellings=(
            *("dishwasher", "disposer", "disposal", "garbage disposal", "microwave", "built-in microwave"),
            *("range hood", "trash compactor", "sump pump", "well pump", "garage door opener", "central vacuum"),
        ),
    ),
    "motor": NewLoad("Motor", "Motor", "hp", None, 240, spellings=("compressor", "table saw", "dust collector", "fan")),
    "heating": NewLoad(
        "Heating",
        "Heating",
        "kW",
        None,
        240,
        spellings=("electric heat", "space heating", "baseboard", "baseboard heat", "furnace", "electric furnace"),
    ),
    "heat_pump": NewLoad("Heat pump", "Heat pump", "A", None, 240, spellings=("mini split", "air-source heat pump")),
    "supplementary_heat": NewLoad(
        "Supplementary heat",
        "Supplementary heat",
        "kW",
        None,
        240,
        spellings=("backup heat", "strip heat", "auxiliary heat", "aux heat", "heat strips"),
    ),
    "thermal_storage": NewLoad(
        "Thermal storage", "Thermal storage", "kW", None, 240, spellings=("storage heater", "ETS")
    ),
    "kitchen": NewLoad(
        "Kitchen equipment", "Kitchen equipment", "kW", None, 208, spellings=("commercial kitchen", "fryer", "griddle")
    ),
    "cooling": NewLoad(
        "Cooling",
        "Cooling",
        "A",
        None,
        240,
        spellings=("air conditioner", "air conditioning", "A/C", "AC", "AC unit", "central air", "condenser"),
    ),
    "vehicle_charging": NewLoad(
        "Vehicle charging",
        "Vehicle charger",
        "A",
        32,
        240,
        continuous=True,
        spellings=("EV charger", "EVSE", "EV", "car charger", "vehicle charger", "EV charging"),
    ),
    "lighting": NewLoad("Lighting", "Lighting", "VA", None, 120, continuous=True, spellings=("lights", "luminaires")),
    "receptacles": NewLoad(
        "Receptacles", "Receptacles", "VA", None, 120, spellings=("outlets", "plugs", "general receptacles")
    ),
    "sign": NewLoad("Sign", "Sign", "VA", 1200, 120, continuous=True, spellings=("sign circuit", "signs")),
    "show_window": NewLoad(
        "Show window", "Show window", "ft", None, 120, continuous=True, spellings=("window lighting",)
    ),
    "track_lighting": NewLoad(
        "Track lighting", "Track lighting", "ft", None, 120, continuous=True, spellings=("lighting track", "track")
    ),
    "other": NewLoad(
        "Other", "Other load", "VA", None, 120, spellings=("other load", "hot tub", "spa", "kiln", "welder")
    ),
}

UNIT_SPELLINGS: dict[AmountUnit, tuple[str, ...]] = {
    "VA": ("volt-amperes", "volt amps"),
    "W": ("watt", "watts"),
    "kW": ("kilowatt", "kilowatts"),
    "kVA": (),
    "A": ("amp", "amps", "ampere", "amperes"),
    "hp": ("horsepower",),
    "ft": ("foot", "feet", "lin ft", "lf", "'"),
    "ft2": ("ft²", "sq ft", "sq. ft.", "sqft", "sf", "square feet"),
    "circuits": ("circuit", "ckt", "ckts"),
    "outlets": ("outlet", "yoke", "yokes", "receptacles"),
}


def plain(text: str) -> str:
    """Return words as they are compared: case, hyphens, underscores, stops and spaces do not count."""
    return re.sub(r"[\s_.\-]+", " ", text).strip().lower()


_CATEGORIES = {
    plain(word): category
    for category, new in NEW_LOADS.items()
    for word in (category, new.label, new.name, *new.spellings)
}
_UNITS = {plain(word): unit for unit, words in UNIT_SPELLINGS.items() for word in (unit, *words)}


def category_of(words: str) -> LoadCategory | None:
    """Return the kind of load that words of the trade stand for, in the singular or plural; None where for none."""
    found = plain(words)
    return _CATEGORIES.get(found) or _CATEGORIES.get(found.removesuffix("s"))


def unit_of(words: str) -> AmountUnit | None:
    """Return the unit that is written so; None where none is."""
    return _UNITS.get(plain(words))


def as_data() -> dict[str, Any]:
    """Return the definitions as plain data for the interface."""
    return {category: asdict(new) for category, new in NEW_LOADS.items()}
