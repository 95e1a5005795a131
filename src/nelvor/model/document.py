"""The whole document: settings and flat lists of things, with its version number."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Literal

from pydantic import Field

from nelvor.model.base import MOST_THINGS, Name, Note, Part, Thing
from nelvor.model.limits import PowerFactor
from nelvor.model.things import (
    Amendment,
    Bar,
    Bond,
    Box,
    Building,
    Bus,
    Circuit,
    CircuitSwitch,
    Conductor,
    Device,
    DwellingUnit,
    Electrode,
    Enclosure,
    Interlock,
    KeptScenario,
    Load,
    Lugs,
    Measurement,
    MetalPath,
    PlannedLoad,
    Price,
    Pull,
    Reach,
    Run,
    Source,
    Stretch,
    Tap,
    Throw,
    Transfer,
    Transformer,
)
from nelvor.model.vocabulary import JobStatus, OtherLoadMethod, RuleSet

FORMAT: Literal["nelvor-job"] = "nelvor-job"
VERSION: Literal[4] = 4

Percent = Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)]


class Settings(Part):
    """What holds for the whole job."""

    rule_set: RuleSet = "us"
    edition: str = Field(max_length=20)
    authority: Name = ""
    address: Name = ""
    owner: Name = ""
    contractor: Name = ""
    license: Name = ""
    permit_number: Name = ""
    status: JobStatus = "design"
    feeder_drop_limit_percent: Percent = 3.0
    total_drop_limit_percent: Percent = 5.0
    drop_method: Literal["impedance", "direct_current"] = "impedance"
    power_factor: PowerFactor = 0.85
    ambient_c: Annotated[float, Field(ge=-50, le=85, allow_inf_nan=False)] = 30.0
    other_load_method: OtherLoadMethod = "connected"
    multifamily_optional: bool = False
    count_source_breakers: bool = False
    """Against a bus a source counts by its breaker, as some offices ask, where that is more than 125 % of its output."""


class Document(Part):
    """A job: one JSON document, flat lists of things joined by ids."""

    format: Literal["nelvor-job"] = FORMAT
    version: Literal[4] = VERSION
    name: Name
    note: Note = ""
    settings: Settings
    sources: list[Source] = Field(default_factory=list, max_length=MOST_THINGS)
    buildings: list[Building] = Field(default_factory=list, max_length=MOST_THINGS)
    dwelling_units: list[DwellingUnit] = Field(default_factory=list, max_length=MOST_THINGS)
    enclosures: list[Enclosure] = Field(default_factory=list, max_length=MOST_THINGS)
    buses: list[Bus] = Field(default_factory=list, max_length=MOST_THINGS)
    devices: list[Device] = Field(default_factory=list, max_length=MOST_THINGS)
    lugs: list[Lugs] = Field(default_factory=list, max_length=MOST_THINGS)
    bars: list[Bar] = Field(default_factory=list, max_length=MOST_THINGS)
    reaches: list[Reach] = Field(default_factory=list, max_length=MOST_THINGS)
    bonds: list[Bond] = Field(default_factory=list, max_length=MOST_THINGS)
    runs: list[Run] = Field(default_factory=list, max_length=MOST_THINGS)
    stretches: list[Stretch] = Field(default_factory=list, max_length=MOST_THINGS)
    boxes: list[Box] = Field(default_factory=list, max_length=MOST_THINGS)
    pulls: list[Pull] = Field(default_factory=list, max_length=MOST_THINGS)
    circuits: list[Circuit] = Field(default_factory=list, max_length=MOST_THINGS)
    conductors: list[Conductor] = Field(default_factory=list, max_length=MOST_THINGS)
    metal_paths: list[MetalPath] = Field(default_factory=list, max_length=MOST_THINGS)
    electrodes: list[Electrode] = Field(default_factory=list, max_length=MOST_THINGS)
    loads: list[Load] = Field(default_factory=list, max_length=MOST_THINGS)
    planned_loads: list[PlannedLoad] = Field(default_factory=list, max_length=MOST_THINGS)
    transfers: list[Transfer] = Field(default_factory=list, max_length=MOST_THINGS)
    throws: list[Throw] = Field(default_factory=list, max_length=MOST_THINGS)
    circuit_switches: list[CircuitSwitch] = Field(default_factory=list, max_length=MOST_THINGS)
    interlocks: list[Interlock] = Field(default_factory=list, max_length=MOST_THINGS)
    transformers: list[Transformer] = Field(default_factory=list, max_length=MOST_THINGS)
    taps: list[Tap] = Field(default_factory=list, max_length=MOST_THINGS)
    measurements: list[Measurement] = Field(default_factory=list, max_length=MOST_THINGS)
    scenarios: list[KeptScenario] = Field(default_factory=list, max_length=MOST_THINGS)
    prices: list[Price] = Field(default_factory=list, max_length=MOST_THINGS)
    amendments: list[Amendment] = Field(default_factory=list, max_length=MOST_THINGS)

    def things(self) -> Iterator[tuple[str, Thing]]:
        """Yield every thing with the name of its list, in document order."""
        for list_name in LISTS:
            for thing in getattr(self, list_name):
                yield list_name, thing

    def things_new_since(self, before: Document | None) -> Iterator[tuple[str, Thing]]:
        """Yield the things that are not the very ones of an earlier document; all where there was none."""
        for list_name in LISTS:
            old, new = getattr(before, list_name, []), getattr(self, list_name)
            if new is not old:
                known = {id(thing) for thing in old}
                yield from ((list_name, thing) for thing in new if id(thing) not in known)

    def changed_since(self, before: Document) -> Iterator[tuple[str, Thing, Thing]]:
        """Yield (list, thing, earlier thing) of what an edit put in place of the things of a document with the same ids."""
        for list_name in LISTS:
            old, new = getattr(before, list_name), getattr(self, list_name)
            if new is not old:
                yield from ((list_name, b, a) for a, b in zip(old, new, strict=True) if a is not b)

    def has_the_ids_of(self, other: Document) -> bool:
        """Tell whether every list names the same things in the same order."""
        lists = ((getattr(self, name), getattr(other, name)) for name in LISTS)
        return all(
            mine is theirs
            or (len(mine) == len(theirs) and all(a.id == b.id for a, b in zip(mine, theirs, strict=True)))
            for mine, theirs in lists
        )


LISTS: dict[str, type[Thing]] = {
    "sources": Source,
    "buildings": Building,
    "dwelling_units": DwellingUnit,
    "enclosures": Enclosure,
    "buses": Bus,
    "devices": Device,
    "lugs": Lugs,
    "bars": Bar,
    "reaches": Reach,
    "bonds": Bond,
    "runs": Run,
    "stretches": Stretch,
    "boxes": Box,
    "pulls": Pull,
    "circuits": Circuit,
    "conductors": Conductor,
    "metal_paths": MetalPath,
    "electrodes": Electrode,
    "loads": Load,
    "planned_loads": PlannedLoad,
    "transfers": Transfer,
    "throws": Throw,
    "circuit_switches": CircuitSwitch,
    "interlocks": Interlock,
    "transformers": Transformer,
    "taps": Tap,
    "measurements": Measurement,
    "scenarios": KeptScenario,
    "prices": Price,
    "amendments": Amendment,
}
