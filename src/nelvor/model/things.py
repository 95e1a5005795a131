"""The things a design is made of, in the order one meets them walking from the source.

Lengths are in feet, cover in inches, ratings in amperes, temperatures in degrees Celsius.
A property that is ``None`` is not known yet: it is saved, and judged *cannot tell*.
"""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints

from nelvor.model.base import (
    LARGEST_AMOUNT,
    LONGEST_RUN_FT,
    MOST_SETS,
    Id,
    Length,
    Name,
    Note,
    Rating,
    Thing,
)
from nelvor.model.vocabulary import (
    AmendmentAction,
    AmountUnit,
    BondKind,
    BoxKind,
    BuildingUse,
    BurialLocation,
    ConductorRole,
    Connection,
    DeviceKind,
    DeviceRole,
    ElectrodeKind,
    EmergencyMarking,
    EnclosureKind,
    FieldRecordKind,
    Insulation,
    LoadCategory,
    LoadMethod,
    Material,
    Method,
    Occupancy,
    Placement,
    ServiceMarking,
    Size,
    SourceKind,
    SpaceKind,
    System,
    TapRule,
    TradeSize,
    Wall,
)

Amount = Annotated[float, Field(ge=0, le=LARGEST_AMOUNT, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, le=LARGEST_AMOUNT, allow_inf_nan=False)]
Volts = Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)]
Celsius = Annotated[float, Field(ge=-50, le=85, allow_inf_nan=False)]
Termination = Annotated[int, Field(json_schema_extra={"enum": [60, 75, 90]})]
Inches = Annotated[float, Field(gt=0, le=600, allow_inf_nan=False)]
Cover = Annotated[float, Field(ge=0, le=240, allow_inf_nan=False)]
Bundled = Annotated[int, Field(ge=0, le=100)]
Poles = Annotated[int, Field(ge=1, le=3)]


class Source(Thing):
    """Where power comes from: the utility, a generator, an inverter."""

    name: Name = ""
    kind: SourceKind = "utility"
    system: System | None = None
    fault_current_a: Annotated[float, Field(gt=0, le=500_000, allow_inf_nan=False)] | None = None
    transformer_kva: Positive | None = None
    impedance_percent: Annotated[float, Field(gt=0, le=50, allow_inf_nan=False)] | None = None
    rated_output_a: Rating | None = None
    interactive: bool | None = None
    neutral_bonded_inside: bool | None = None


class Building(Thing):
    """A building or structure of the site."""

    name: Name = ""
    use: BuildingUse | None = None
    livestock: bool | None = None
    metal_path_to_supply: bool | None = None


class DwellingUnit(Thing):
    """One dwelling unit: the group to which dwelling loads belong."""

    name: Name = ""
    building_id: Id | None = None
    load_method: LoadMethod = "standard"


class Enclosure(Thing):
    """A box with metal, bars, lugs and devices. ``rating_a`` is a panel's bus, a meter's class, a switch's rating."""

    name: Name = ""
    kind: EnclosureKind = "panel"
    building_id: Id | None = None
    placement: Placement | None = None
    rating_a: Rating | None = None
    termination_c: Termination | None = None
    service_marking: ServiceMarking | None = None
    emergency_marking: EmergencyMarking = "none"
    interrupting_a: Annotated[float, Field(gt=0, le=300_000, allow_inf_nan=False)] | None = None
    spaces: Annotated[int, Field(ge=0, le=200)] | None = None
    half_size_spaces: bool | None = None
    system: System | None = None
    series: Name = ""
    protection_adjacent: bool | None = None


class Device(Thing):
    """A breaker, a set of fuses or a bare switch. ``rating_a`` of ``None`` is to be chosen."""

    enclosure_id: Id
    name: Name = ""
    role: DeviceRole = "feeder"
    kind: DeviceKind = "breaker"
    rating_a: Rating | None = None
    poles: Poles = 2
    interrupting_a: Annotated[float, Field(gt=0, le=300_000, allow_inf_nan=False)] | None = None
    slash_rated: bool | None = None
    held_down: bool | None = None
    ground_fault_protection: bool | None = None
    space: Annotated[int, Field(ge=1, le=200)] | None = None


class Lugs(Thing):
    """Terminals without a device: main lugs, feed-through lugs."""

    enclosure_id: Id
    name: Name = ""
    feed_through: bool = False


class Bar(Thing):
    """A neutral or ground bar. ``insulated`` tells whether it stands off from the enclosure's metal."""

    enclosure_id: Id
    name: Name = ""
    kind: Annotated[str, Field(pattern="^(neutral|ground)$", json_schema_extra={"enum": ["neutral", "ground"]})]
    insulated: bool | None = None


class Bond(Thing):
    """One possible connection between two named parts: a screw, a strap, tied bars, a conductor on the wrong bar.

    A part is a bar or the enclosure itself, which stands for its metal. ``made`` is what is found:
    a screw that sits in the bar but not in the enclosure is not made.
    """

    enclosure_id: Id
    kind: BondKind = "screw"
    part_a: Id
    part_b: Id
    made: bool | None = None
    size: Size | None = None
    material: Material | None = None
    note: Note = ""


class Run(Thing):
    """A service run, feeder or branch circuit between two terminals. A size of ``None`` is to be chosen; a value is locked.

    ``several_receptacles`` tells of a branch circuit whether it supplies more than one receptacle for portable loads.
    """

    name: Name = ""
    from_part: Id
    to_part: Id
    length_ft: Length | None = None
    placement: Placement | None = None
    method: Method | None = None
    insulation: Insulation | None = None
    material: Material | None = None
    sets: Annotated[int, Field(ge=1, le=MOST_SETS)] = 1
    hot_size: Size | None = None
    neutral_size: Size | None = None
    neutral_as_calculated: bool = False
    ground_size: Size | None = None
    ground_material: Material | None = None
    ground_by_raceway: bool = False
    ground_bare: bool = False
    raceway_size: TradeSize | None = None
    burial_location: BurialLocation | None = None
    cover_in: Cover | None = None
    ambient_c: Celsius | None = None
    other_current_carrying: Bundled = 0
    harmonic_neutral: bool = False
    complied_when_installed: bool | None = None
    bends_deg: Annotated[float, Field(ge=0, le=3600, allow_inf_nan=False)] | None = None
    roof_clearance_in: Cover | None = None
    exposed_to_damage: bool | None = None
    temperature_span_f: Annotated[float, Field(ge=0, le=300, allow_inf_nan=False)] | None = None
    in_thermal_insulation: bool | None = None
    jacket_marked_sunlight: bool | None = None
    armour_listed_ground: bool | None = None
    cable_diameter_in: Annotated[float, Field(gt=0, le=6, allow_inf_nan=False)] | None = None
    several_receptacles: bool | None = None


class Stretch(Thing):
    """A part of a run that lies otherwise than the rest of it. ``None`` is as the run, but for the length.

    The run's own properties hold for the length that its stretches leave.
    """

    run_id: Id
    name: Name = ""
    length_ft: Length | None = None
    placement: Placement | None = None
    method: Method | None = None
    raceway_size: TradeSize | None = None
    ambient_c: Celsius | None = None
    other_current_carrying: Bundled | None = None
    roof_clearance_in: Cover | None = None
    burial_location: BurialLocation | None = None
    cover_in: Cover | None = None


class Box(Thing):
    """A pull box or conduit body that runs pass through; its inside measures as far as they are known.

    ``marked_size`` and ``marked_count`` are the largest conductors marked on a conduit body.
    """

    name: Name = ""
    kind: BoxKind = "pull_box"
    width_in: Inches | None = None
    height_in: Inches | None = None
    length_in: Inches | None = None
    cross_area_in2: Inches | None = None
    volume_in3: Positive | None = None
    internal_clamps: bool | None = None
    marked_size: Size | None = None
    marked_count: Annotated[int, Field(ge=1, le=200)] | None = None


class Pull(Thing):
    """The passage of a run through a box: how far along it, by which walls, in which row of the wall."""

    box_id: Id
    run_id: Id
    at_ft: Amount | None = None
    enters: Wall | None = None
    leaves: Wall | None = None
    row: Annotated[int, Field(ge=1, le=20)] = 1
    spliced: bool | None = None


class Conductor(Thing):
    """One conductor of a run, naming the bar or terminal at each end."""

    run_id: Id
    role: ConductorRole
    from_part: Id
    to_part: Id


class Electrode(Thing):
    """A grounding electrode and the conductor that joins it to a bar or enclosure."""

    kind: ElectrodeKind = "rod"
    building_id: Id | None = None
    connects_to: Id | None = None
    length_ft: Annotated[float, Field(gt=0, le=LONGEST_RUN_FT, allow_inf_nan=False)] | None = None
    resistance_ohm: Amount | None = None
    spacing_ft: Amount | None = None
    conductor_size: Size | None = None
    conductor_material: Material | None = None


class Load(Thing):
    """A load on a panel. ``amount`` is of one piece; ``quantity`` counts equal pieces.

    Loads of one panel with the same word in ``runs_apart`` cannot run at once; ``load_managed`` marks vehicle charging
    whose amount is the setting of a listed load-management system; ``without_diversity`` tells of a farm load whether
    it is expected to run together with the others.
    """

    enclosure_id: Id
    name: Name = ""
    category: LoadCategory = "other"
    amount: Amount | None = None
    unit: AmountUnit = "VA"
    quantity: Annotated[int, Field(ge=1, le=1000)] = 1
    volts: Volts | None = None
    three_phase: bool = False
    connection: Connection | None = None
    continuous: bool = False
    neutral_used: bool | None = None
    dwelling_unit_id: Id | None = None
    space_kind: SpaceKind | None = None
    occupancy: Occupancy | None = None
    locked_out: bool = False
    load_managed: bool = False
    runs_apart: Annotated[str, StringConstraints(max_length=40)] = ""
    without_diversity: bool | None = None


class Transfer(Thing):
    """Transfer gear within an enclosure: which parts it joins and whether it switches the neutral."""

    enclosure_id: Id
    name: Name = ""
    normal_part: Id
    standby_part: Id
    load_part: Id
    switches_neutral: bool | None = None
    automatic: bool | None = None
    standby_position: bool = False


class Transformer(Thing):
    """A transformer: primary and secondary terminals, rating in kVA."""

    enclosure_id: Id
    primary_part: Id
    secondary_part: Id
    kva: Positive | None = None
    primary_v: Volts | None = None
    secondary_system: System | None = None
    impedance_percent: Annotated[float, Field(gt=0, le=50, allow_inf_nan=False)] | None = None


class Tap(Thing):
    """A run that leaves another run at a distance from its start.

    The tap run begins at the device of the run it is taken from. ``rule`` of ``None`` is the first that fits.
    ``bay_wall_ft`` and ``level_length_ft`` belong to the high-bay rule.
    """

    run_id: Id
    tap_run_id: Id
    at_ft: Amount | None = None
    rule: TapRule | None = None
    protected_from_damage: bool | None = None
    leaves_enclosure: bool | None = None
    outdoors_only: bool | None = None
    bay_wall_ft: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] | None = None
    level_length_ft: Amount | None = None
    qualified_industry: bool | None = None


class Measurement(Thing):
    """The peak that a meter recorded ahead of an enclosure, summed up from its record."""

    enclosure_id: Id
    peak_kw: Amount | None = None
    power_factor: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] | None = None
    began_on: Name = ""
    days: Amount | None = None
    interval_minutes: Annotated[float, Field(gt=0, le=1440, allow_inf_nan=False)] | None = None
    missing_percent: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] | None = None
    net_metered: bool | None = None
    highest_phase_recorded: bool | None = None
    seasonal_load_allowed_for: bool | None = None
    note: Note = ""


class Price(Thing):
    """What the shop pays for one item: a conductor or raceway by the foot."""

    item: Name
    price: Amount | None = None


class Amendment(Thing):
    """A local rule: what it changes, how, and where it is written down."""

    key: Id
    action: AmendmentAction
    value: Amount | None = None
    unit: Name = ""
    source_note: Note = ""


class FieldRecord(Thing):
    """Something done or measured on site."""

    thing_id: Id
    kind: FieldRecordKind
    text: Note = ""
    value: Annotated[float, Field(allow_inf_nan=False)] | None = None
    unit: Name = ""
    taken_at: Name = ""
    taken_by: Name = ""
