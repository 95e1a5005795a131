"""The closed lists of words that the document uses."""

from __future__ import annotations

from typing import Annotated, Any, Literal, get_args

from pydantic import BeforeValidator

Size = Literal[
    "18",
    "16",
    "14",
    "12",
    "10",
    "8",
    "6",
    "4",
    "3",
    "2",
    "1",
    "1/0",
    "2/0",
    "3/0",
    "4/0",
    "250",
    "300",
    "350",
    "400",
    "500",
    "600",
    "700",
    "750",
    "800",
    "900",
    "1000",
    "1250",
    "1500",
    "1750",
    "2000",
]
SIZES: tuple[str, ...] = get_args(Size)

TradeSize = Literal["3/8", "1/2", "3/4", "1", "1-1/4", "1-1/2", "2", "2-1/2", "3", "3-1/2", "4", "5", "6"]


def _as_spelled_here(value: Any) -> Any:
    """Read the older spelling of the metal."""
    return "aluminum" if value == "aluminium" else value


Material = Annotated[Literal["copper", "aluminum"], BeforeValidator(_as_spelled_here)]
Insulation = Literal[
    "THHN", "THWN", "THWN-2", "XHHW", "XHHW-2", "RHW-2", "USE-2", "TW", "THW", "UF-B", "NM-B", "SER", "MC", "PV wire"
]
Method = Literal["pvc40", "pvc80", "emt", "rmc", "imc", "fmc", "lfmc", "lfnc_b", "ent", "earth", "cable", "free_air"]
Placement = Literal["underground", "indoors", "outdoors", "rooftop"]
BurialLocation = Literal[
    "general",
    "trench_under_2in_concrete",
    "under_building",
    "under_4in_exterior_slab_no_vehicles",
    "street_road_alley_driveway_parking",
    "one_two_family_driveway_parking",
    "airport_runway_area",
]
System = Literal[
    "split_120_240", "wye_208_120", "wye_480_277", "delta_240", "delta_240_high_leg", "single_240", "single_120"
]
SourceKind = Literal["utility", "generator", "inverter", "battery", "other"]
EnclosureKind = Literal[
    "meter",
    "meter_disconnect",
    "disconnect",
    "panel",
    "transfer_switch",
    "switch_box",
    "transformer",
    "inverter",
    "generator",
    "inlet",
    "junction_box",
]
ServiceMarking = Literal["suitable", "only_suitable", "unmarked"]
EmergencyMarking = Literal["none", "service_disconnect", "meter_disconnect", "not_service_equipment"]
OutputKind = Literal["with_neutral", "line_to_line", "two_wire_120"]
NeutralCovering = Literal["insulated", "bare", "covered_in_box"]
NeutralPath = Literal["passes", "opens", "none"]
RelayKind = Literal["none", "closes_when_islanded", "always_closed", "disabled"]
RapidShutdown = Literal["provided", "not_needed", "missing"]
SourceMarking = Literal["bonded_neutral", "floating_neutral"]
Leg = Literal["L1", "L2", "L3"]
BusEnd = Literal["top", "bottom", "middle", "none"]
Combining = Literal["listed", "engineered"]
Numbering = Literal["odd_even", "sequential", "inverted"]
HalfSpace = Literal["first", "second"]
MetalPathKind = Literal["water_pipe", "gas_pipe", "building_steel", "fence", "shield", "other"]
RuleSet = Literal["us"]
DeviceRole = Literal["main", "feeder", "branch", "source", "spare"]
Room = Literal[
    "utility",
    "basement",
    "garage",
    "hallway",
    "kitchen",
    "living",
    "bathroom",
    "clothes_closet",
    "stairway",
    "workshop",
    "other",
]
TerminalScrew = Literal[
    "slotted",
    "slotted_narrow",
    "hex",
    "hex_split_bolt",
    "socket_1_8",
    "socket_5_32",
    "socket_3_16",
    "socket_7_32",
    "socket_1_4",
    "socket_5_16",
    "socket_3_8",
    "socket_1_2",
    "socket_9_16",
    "small_narrow_under_5_32",
    "small_narrow_5_32",
    "small_narrow_3_16",
    "small_narrow_7_32",
    "small_narrow_1_4",
    "small_wide_under_5_32",
    "small_wide_5_32",
    "small_wide_3_16",
    "small_wide_7_32",
    "small_wide_1_4",
    "small_wide_9_32",
    "small_wide_over_9_32",
]
SituationKind = Literal["all_well", "ground_fault", "short_circuit", "line_to_neutral", "neutral_open", "ground_open"]
LoadDraw = Literal["impedance", "power"]
Facing = Literal["insulated", "grounded", "live"]
Tie = Literal["common_trip", "handle_tie", "none"]
CircuitProtection = Literal["none", "arc_fault", "ground_fault", "both"]
CircuitUse = Literal["general", "small_appliance", "laundry", "bathroom", "garage", "outdoors", "individual"]
CircuitPlace = Literal[
    "living_rooms",
    "kitchens",
    "laundry_area",
    "bathroom",
    "garage",
    "finished_basement",
    "unfinished_basement",
    "crawl_space",
    "attic",
    "outdoors",
    "near_sink",
    "near_tub",
    "wet_indoors",
    "boathouse",
    "dishwasher",
    "sump_pump",
    "microwave",
    "cooking",
    "clothes_dryer",
    "outdoor_equipment",
]
"""What a circuit serves: rooms and places of its outlets, and equipment that the code names by itself."""
DeviceKind = Literal["breaker", "fuses", "switch"]
BondKind = Literal["screw", "strap", "wire", "factory", "tied_bars", "branch_neutral", "branch_ground", "relay"]
LineLimiters = Literal["none", "at_the_joint", "within_16_5_ft", "farther"]
"""Where cable limiters stand in each line of conductors without a device, along the conductors from their joint."""
PipingBond = Literal["absent", "bonded", "not_bonded"]
EquipotentialPlane = Literal["bonded", "not_needed", "missing"]
SupplyNear = Literal["none", "with_plaque", "without_plaque"]
VoltsToEarth = Literal["none_noticed", "noticed"]
BuildingUse = Literal["dwelling", "farm", "commercial", "other"]
LoadCategory = Literal[
    "lighting_area",
    "small_appliance",
    "laundry",
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
    "kitchen",
    "lighting",
    "receptacles",
    "sign",
    "show_window",
    "track_lighting",
    "other",
]
AmountUnit = Literal["VA", "W", "kW", "kVA", "A", "hp", "ft", "ft2", "circuits", "outlets"]
SpaceKind = Literal["living", "garage", "open_porch", "unfinished_not_adaptable", "unfinished_adaptable"]
Occupancy = Literal[
    "assembly_hall",
    "automotive",
    "bank",
    "church",
    "hospital",
    "hotel_motel",
    "manufacturing",
    "office",
    "parking_garage",
    "restaurant",
    "school",
    "store",
    "warehouse",
]
LoadMethod = Literal["standard", "optional", "existing"]
JobStatus = Literal["survey", "design", "submitted", "approved", "built", "closed"]
OtherLoadMethod = Literal["connected", "demand_factors", "farm"]
Connection = Literal["L1-N", "L2-N", "L3-N", "L1-L2", "L2-L3", "L1-L3", "three_phase"]
ElectrodeKind = Literal["rod", "concrete_encased", "water_pipe", "building_steel", "ring", "plate", "other"]
ConductorRole = Literal["L1", "L2", "L3", "neutral", "ground"]
AmendmentAction = Literal["replace", "at_least", "at_most", "require", "forbid"]
BoxKind = Literal["pull_box", "conduit_body"]
Wall = Literal["left", "right", "top", "bottom"]
TapRule = Literal["10_ft", "25_ft", "transformer", "high_bay", "outside"]
FieldRecordKind = Literal["as_built", "reading", "torque", "inspection", "photo_note", "finder"]
