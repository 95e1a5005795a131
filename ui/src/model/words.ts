/** The words of the field for the document's closed lists. */
export const WORDS: Record<string, string> = {
  pvc40: "PVC schedule 40",
  pvc80: "PVC schedule 80",
  emt: "EMT",
  rmc: "RMC",
  imc: "IMC",
  fmc: "Flexible metal",
  lfmc: "Liquid-tight flexible metal",
  lfnc_b: "Liquid-tight non-metallic",
  ent: "ENT",
  earth: "Laid in earth",
  cable: "Cable",
  free_air: "Free air",
  general: "Lawn or open ground",
  trench_under_2in_concrete: "Under 2 in of concrete",
  under_building: "Under a building",
  under_4in_exterior_slab_no_vehicles: "Under a 4 in slab, no vehicles",
  street_road_alley_driveway_parking: "Street, driveway, parking",
  one_two_family_driveway_parking: "House driveway",
  airport_runway_area: "Airport runway",
  split_120_240: "120/240 V one-phase",
  wye_208_120: "208Y/120 V three-phase",
  wye_480_277: "480Y/277 V three-phase",
  delta_240: "240 V delta",
  delta_240_high_leg: "240 V delta, high leg",
  single_240: "240 V two-wire",
  single_120: "120 V two-wire",
  suitable: "Suitable as service equipment",
  only_suitable: "Suitable only as service equipment",
  none: "No marking",
  service_disconnect: "Emergency disconnect, service disconnect",
  meter_disconnect: "Emergency disconnect, meter disconnect",
  not_service_equipment: "Emergency disconnect, not service equipment",
  meter_disconnect_kind: "Meter with disconnect",
  lighting_area: "Lighting by area",
  small_appliance: "Small-appliance circuits",
  laundry: "Laundry circuit",
  water_heater: "Water heater",
  fastened_appliance: "Fastened appliance",
  vehicle_charging: "Vehicle charging",
  open_porch: "Open porch",
  unfinished_not_adaptable: "Unfinished, not adaptable",
  unfinished_adaptable: "Unfinished, adaptable",
  three_phase: "Three-phase",
  tied_bars: "Tie between the bars",
  branch_neutral: "Branch neutral on the ground bar",
  branch_ground: "Ground on the neutral bar",
  screw: "Bonding screw",
  strap: "Bonding strap",
  wire: "Wire jumper",
  factory: "Factory bond",
  relay: "Bonding relay",
  concrete_encased: "Concrete-encased",
  water_pipe: "Water pipe",
  building_steel: "Building steel",
  direct_current: "Direct-current resistance",
  impedance: "Effective impedance",
  VA: "VA",
  W: "W",
  kW: "kW",
  kVA: "kVA",
  A: "A",
  hp: "hp",
  ft2: "ft²",
  circuits: "circuits",
};

export function word(value: string): string {
  return WORDS[value] ?? (value[0] ?? "").toUpperCase() + value.slice(1).replaceAll("_", " ");
}

export const DECISION_WORDS: Record<string, string> = {
  bond: "Bond here",
  apart: "Keep apart",
  supply_side: "Supply side, bonded to the neutral",
  existing_three_wire: "Old three-wire feed, bond stays",
  unknown: "Cannot tell",
};

export const FOUND_WORDS: Record<string, string> = {
  bonded: "joined",
  apart: "apart",
  unknown: "not known",
  no_neutral: "no neutral bar",
};

export const OUTCOME_WORDS = {
  must_fix: "must fix",
  advice: "advice",
  cannot_tell: "cannot tell",
  holds: "hold",
} as const;

export const FIELD_WORDS: Record<string, string> = {
  hots: "Hots",
  neutral: "Neutral",
  ground: "Ground",
  raceway: "Raceway",
  load: "Load",
  device: "Device",
  cover: "Cover needed",
  ampacity: "Ampacity",
  drop: "Drop here",
  total_drop: "Drop",
  design: "Design load",
};

/** How a group of loads was worked out. */
export const LOAD_METHODS: Record<string, string> = {
  standard: "dwelling, standard method",
  optional: "dwelling, optional method",
  existing: "existing dwelling, optional method",
  multifamily: "dwelling units together, optional method",
  connected: "connected load",
  demand_factors: "with demand factors",
};
