"""Runs and what belongs to them: stretches, boxes they pass through, conductors, taps."""

from __future__ import annotations

from functools import cached_property
from typing import Annotated

from pydantic import Field, StringConstraints

from nelvor.model.base import MOST_SETS, Id, Length, Name, Thing
from nelvor.model.limits import Amount, Bundled, Celsius, Cover, Inches, Positive
from nelvor.model.vocabulary import (
    BoxKind,
    BurialLocation,
    CircuitPlace,
    CircuitUse,
    ConductorRole,
    Insulation,
    LineLimiters,
    Material,
    Method,
    NeutralCovering,
    Placement,
    Size,
    TapRule,
    TradeSize,
    Wall,
)


class Run(Thing):
    """A service run, feeder or branch circuit between two terminals. A size of ``None`` is to be chosen; a value is locked.

    ``several_receptacles`` tells of a branch circuit whether it supplies more than one receptacle for portable loads,
    ``limiters`` of conductors that bring a source ahead of the service disconnect what protects them along the way.
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
    neutral_bare: bool = False
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
    armor_listed_ground: bool | None = None
    cable_diameter_in: Annotated[float, Field(gt=0, le=6, allow_inf_nan=False)] | None = None
    several_receptacles: bool | None = None
    limiters: LineLimiters | None = None

    @cached_property
    def but_its_length(self) -> str:
        """Everything of the run but its length, as text: by it two versions of a run are told apart."""
        proposed = {name: value for name, value in self.proposed.items() if name != "length_ft"}
        return f"{self.model_dump_json(exclude={'length_ft', 'proposed'})} {proposed}"


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


class Circuit(Thing):
    """The wires that leave a device of a panel for outlets or equipment that are not drawn: what they serve, and how.

    Circuits of one panel with the same word in ``shared_neutral`` have one neutral between them: a multiwire circuit.
    ``neutral_bar`` is where its neutral lands, None in its own panel.
    ``extended_ft`` is the wire that the work adds to a standing circuit, ``reach_ft`` how far its cable reaches from the
    panel where it ends now. ``serves`` are the places of its outlets and the equipment that is named by itself.
    ``has_ground``, ``neutral_size`` and ``neutral_covering`` tell of a range or dryer whether its circuit is an old one of three wires; a
    bare neutral may be ``covered_in_box``, insulated or covered within the panel with material listed for it.
    """

    device_id: Id
    use: CircuitUse | None = None
    serves: Annotated[list[CircuitPlace], Field(max_length=20)] = Field(default_factory=list)
    wire_size: Size | None = None
    material: Material | None = None
    insulation: Insulation | None = None
    ground_size: Size | None = None
    has_ground: bool | None = None
    neutral_size: Size | None = None
    neutral_covering: NeutralCovering | None = None
    length_ft: Length | None = None
    extended_ft: Amount | None = None
    extension_adds_outlets: bool | None = None
    receptacles_replaced: bool = False
    reach_ft: Length | None = None
    shared_neutral: Annotated[str, StringConstraints(max_length=40)] = ""
    neutral_bar: Id | None = None


class Conductor(Thing):
    """One conductor of a run, naming the bar or terminal at each end."""

    run_id: Id
    role: ConductorRole
    from_part: Id
    to_part: Id


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
