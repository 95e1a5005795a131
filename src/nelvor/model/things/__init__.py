"""The things a design is made of, a module for each subject.

Lengths are in feet, cover in inches, ratings in amperes, temperatures in degrees Celsius.
A property that is ``None`` is not known yet: it is saved, and judged *cannot tell*.
"""

from nelvor.model.things.enclosures import Bar, Building, Bus, Device, DwellingUnit, Enclosure, Lugs, Reach
from nelvor.model.things.grounding import Bond, Electrode, MetalPath
from nelvor.model.things.kept_scenarios import ArcVolts, ElectrodeOhms, FaultOhms, KeptScenario, SoilOhmMeters
from nelvor.model.things.loads import Load, Measurement, PlannedLoad
from nelvor.model.things.shop import Amendment, Price
from nelvor.model.things.supply import CircuitSwitch, Interlock, Source, Throw, Transfer, Transformer
from nelvor.model.things.wiring import Box, Circuit, Conductor, Pull, Run, Stretch, Tap

__all__ = [
    "Amendment",
    "ArcVolts",
    "Bar",
    "Bond",
    "Box",
    "Building",
    "Bus",
    "Circuit",
    "CircuitSwitch",
    "Conductor",
    "Device",
    "DwellingUnit",
    "Electrode",
    "ElectrodeOhms",
    "Enclosure",
    "FaultOhms",
    "Interlock",
    "KeptScenario",
    "Load",
    "Lugs",
    "Measurement",
    "MetalPath",
    "PlannedLoad",
    "Price",
    "Pull",
    "Reach",
    "Run",
    "SoilOhmMeters",
    "Source",
    "Stretch",
    "Tap",
    "Throw",
    "Transfer",
    "Transformer",
]
