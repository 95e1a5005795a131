"""Buildings and the boxes in them: enclosures with their buses, devices, lugs and bars."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from nelvor.model.base import Id, Name, Note, Rating, Thing
from nelvor.model.limits import Inches, Interrupting, Poles, Space, Termination, Torque
from nelvor.model.vocabulary import (
    BuildingUse,
    BusEnd,
    CircuitProtection,
    Combining,
    DeviceKind,
    DeviceRole,
    EmergencyMarking,
    EnclosureKind,
    EquipotentialPlane,
    Facing,
    HalfSpace,
    Leg,
    LoadMethod,
    Numbering,
    PipingBond,
    Placement,
    Room,
    ServiceMarking,
    SupplyNear,
    System,
    TerminalScrew,
    Tie,
    VoltsToEarth,
)


class Building(Thing):
    """A building or structure of the site.

    Of one in which ``livestock`` is kept, now or as planned: ``equipotential_plane`` is not needed where animals reach no metal
    of the installation from concrete; ``supply_near`` is another service or distribution point of the same site;
    ``neutral_isolator`` tells whether the utility parts its neutral from the farm's; ``volts_to_earth`` are those between metal
    and where animals stand.
    """

    name: Name = ""
    use: BuildingUse | None = None
    livestock: bool | None = None
    equipotential_plane: EquipotentialPlane | None = None
    supply_near: SupplyNear | None = None
    neutral_isolator: bool | None = None
    volts_to_earth: VoltsToEarth | None = None
    metal_path_to_supply: bool | None = None
    water_piping: PipingBond | None = None
    gas_piping: PipingBond | None = None
    steel_frame: PipingBond | None = None
    intersystem_terminal: bool | None = None


class DwellingUnit(Thing):
    """One dwelling unit: the group to which dwelling loads belong."""

    name: Name = ""
    building_id: Id | None = None
    load_method: LoadMethod = "standard"


class Enclosure(Thing):
    """A box with metal, bars, lugs and devices. ``meter_class_a`` is the class of the meter in it, ``beside_service`` that it
    stands immediately beside the service disconnect ahead of it;
    ``no_other_circuits`` tells that it supplies no more than the circuits drawn, ``note`` what was seen on site.

    ``place_as_required`` tells that room, handles and working space were looked at and are right, in place of each by
    itself: ``handle_height_in`` is that of the highest handle when up, above the floor; ``working_`` are the clear depth, width
    and height before it, ``facing`` what lies across the depth; ``dedicated_space`` tells that above and below it nothing
    foreign runs.
    """

    name: Name = ""
    kind: EnclosureKind = "panel"
    building_id: Id | None = None
    placement: Placement | None = None
    meter_class_a: Rating | None = None
    termination_c: Termination | None = None
    service_marking: ServiceMarking | None = None
    emergency_marking: EmergencyMarking = "none"
    interrupting_a: Interrupting | None = None
    system: System | None = None
    series: Name = ""
    protection_adjacent: bool | None = None
    no_other_circuits: bool | None = None
    site_isolating: bool | None = None
    surge_protection: bool | None = None
    openings_closed: bool | None = None
    place_as_required: bool | None = None
    room: Room | None = None
    handle_height_in: Inches | None = None
    working_depth_in: Inches | None = None
    working_width_in: Inches | None = None
    working_height_in: Inches | None = None
    facing: Facing | None = None
    dedicated_space: bool | None = None
    near_entrance: bool | None = None
    marked_as_disconnect: bool | None = None
    inlet_a: Rating | None = None
    inlet_interlocked: bool | None = None
    beside_service: bool | None = None
    note: Note = ""


class Bus(Thing):
    """The bus of a panel: its rating, its legs, what feeds it and from which end, and how its spaces are numbered.

    ``legs`` of ``None`` are those that reach it. Half-size breakers fit in spaces from ``half_size_from`` to
    ``half_size_to``, in all of them where both are open. A power control holds the sources to ``control_setting_a``, with
    the supply where it watches that; ``control_listed`` tells that it is listed for it and its settings are locked.
    ``combining`` tells that sources join it by the instructions of its listing, or by an engineer's study.
    """

    enclosure_id: Id
    name: Name = ""
    rating_a: Rating | None = None
    legs: Annotated[list[Leg], Field(min_length=1, max_length=3)] | None = None
    fed_by: Id | None = None
    main_end: BusEnd | None = None
    spaces: Annotated[int, Field(ge=0, le=200)] | None = None
    rows: Annotated[int, Field(ge=1, le=2)] | None = None
    numbering: Numbering | None = None
    half_size_spaces: bool | None = None
    half_size_from: Space | None = None
    half_size_to: Space | None = None
    control_setting_a: Rating | None = None
    control_listed: bool | None = None
    control_watches_supply: bool | None = None
    combining: Combining | None = None


class Device(Thing):
    """A breaker, a set of fuses or a bare switch; tied poles are one device. ``rating_a`` of ``None`` is to be chosen.

    ``frame_a`` is the rating of the switch, or of the frame that holds breaker or fuses. A device on a bus stands in
    ``space``, or in one ``half`` of it, and its poles in those that follow on its side. Its name is what the directory
    says of it; ``series`` is read on its label, ``listed_for_panel`` tells whether the panel's label names that series.
    ``series_interrupting_a`` is what the panel's label gives it together with the device ahead.
    Of one that is fed from its load side, ``held_down`` tells of a fastener, ``line_load_marked`` that it is marked line and load,
    ``ground_fault_both_ways`` that its ground-fault protection sees what comes from the source.
    ``torque_lb_in`` is what its label asks of its terminals, ``screw`` what they are where nothing is marked.
    """

    enclosure_id: Id
    name: Name = ""
    role: DeviceRole = "feeder"
    kind: DeviceKind = "breaker"
    rating_a: Rating | None = None
    frame_a: Rating | None = None
    poles: Poles = 2
    bus_id: Id | None = None
    space: Space | None = None
    half: HalfSpace | None = None
    interrupting_a: Interrupting | None = None
    series_interrupting_a: Interrupting | None = None
    slash_rated: bool | None = None
    held_down: bool | None = None
    line_load_marked: bool | None = None
    ground_fault_protection: bool | None = None
    ground_fault_both_ways: bool | None = None
    tie: Tie | None = None
    protection: CircuitProtection | None = None
    series: Name = ""
    listed_for_panel: bool | None = None
    screw: TerminalScrew | None = None
    torque_lb_in: Torque | None = None


class Lugs(Thing):
    """Terminals without a device: main lugs, feed-through lugs."""

    enclosure_id: Id
    name: Name = ""
    bus_id: Id | None = None
    feed_through: bool = False
    screw: TerminalScrew | None = None
    torque_lb_in: Torque | None = None


class Bar(Thing):
    """A neutral or ground bar. ``insulated`` tells whether it stands off from the enclosure's metal; ``terminals`` are
    those for branch circuits; ``rating_a`` is what its label says that it carries."""

    enclosure_id: Id
    name: Name = ""
    kind: Annotated[str, Field(pattern="^(neutral|ground)$", json_schema_extra={"enum": ["neutral", "ground"]})]
    insulated: bool | None = None
    terminals: Annotated[int, Field(ge=0, le=200)] | None = None
    rating_a: Rating | None = None
    screw: TerminalScrew | None = None
    torque_lb_in: Torque | None = None


class Reach(Thing):
    """Two enclosures that one person can touch at once."""

    enclosure_a: Id
    enclosure_b: Id
