/** The words of the field for the document's closed lists; those of verdicts come from the server's side. */
import facts from "../api/model.json";

export const WORDS: Record<string, string> = {
  ...Object.fromEntries(Object.entries(facts.new_loads).map(([category, { label }]) => [category, label])),
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
  service_disconnect: "Emergency disconnect, service disconnect",
  meter_disconnect: "Emergency disconnect, meter disconnect",
  not_service_equipment: "Emergency disconnect, not service equipment",
  meter_disconnect_kind: "Meter with disconnect",
  "10_ft": "10 ft or less",
  "25_ft": "25 ft or less",
  high_bay: "High bay",
  pull_box: "Pull box",
  slotted: "Slotted, slot wider or longer",
  slotted_narrow: "Slotted, up to 0.047 by 1/4 in",
  hex: "Hexagon head",
  hex_split_bolt: "Split bolt",
  socket_1_8: "Socket 1/8 in",
  socket_5_32: "Socket 5/32 in",
  socket_3_16: "Socket 3/16 in",
  socket_7_32: "Socket 7/32 in",
  socket_1_4: "Socket 1/4 in",
  socket_5_16: "Socket 5/16 in",
  socket_3_8: "Socket 3/8 in",
  socket_1_2: "Socket 1/2 in",
  socket_9_16: "Socket 9/16 in",
  small_narrow_under_5_32: "Below No. 10, narrow slot under 5/32 in long",
  small_narrow_5_32: "Below No. 10, narrow slot 5/32 in long",
  small_narrow_3_16: "Below No. 10, narrow slot 3/16 in long",
  small_narrow_7_32: "Below No. 10, narrow slot 7/32 in long",
  small_narrow_1_4: "Below No. 10, narrow slot 1/4 in long",
  small_wide_under_5_32: "Below No. 10, wide slot under 5/32 in long",
  small_wide_5_32: "Below No. 10, wide slot 5/32 in long",
  small_wide_3_16: "Below No. 10, wide slot 3/16 in long",
  small_wide_7_32: "Below No. 10, wide slot 7/32 in long",
  small_wide_1_4: "Below No. 10, wide slot 1/4 in long",
  small_wide_9_32: "Below No. 10, wide slot 9/32 in long",
  small_wide_over_9_32: "Below No. 10, wide slot over 9/32 in long",
  conduit_body: "Conduit body",
  feeder: "Feeder",
  branch: "Branch circuit",
  hotel_motel: "Hotel or motel",
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
  ft: "ft",
  ft2: "ft²",
  circuits: "circuits",
  supply: "what feeds it now",
  panel: "Panel",
  stays: "joined through, not switched",
  switched: "opened with the lines",
  bonded_neutral: "Bonded neutral",
  floating_neutral: "Floating neutral",
  with_neutral: "Lines and neutral",
  line_to_line: "Lines alone",
  two_wire_120: "120 V, two wires",
  living_rooms: "Living rooms, bedrooms, halls",
  near_sink: "Within 6 ft of a sink",
  near_tub: "Within 6 ft of a tub or shower",
  wet_indoors: "Damp or wet indoors",
  microwave: "Microwave oven",
  cooking: "Range, oven, cooktop",
  outdoor_equipment: "Equipment outdoors",
};

/** Words of values that mean one thing in one field and another elsewhere, by the field. */
const OF_FIELD: Record<string, Record<string, string>> = {
  emergency_marking: { none: "No marking" },
  tie: { common_trip: "common trip", handle_tie: "handle tie", none: "none" },
  protection: {
    none: "overcurrent alone",
    arc_fault: "arc fault",
    ground_fault: "ground fault",
    both: "arc and ground fault",
  },
  main_end: { top: "the top", bottom: "the bottom", middle: "the middle", none: "lugs, no main" },
  combining: { listed: "its listing's instructions", engineered: "an engineer's study" },
  neutral_covering: {
    insulated: "insulated",
    bare: "bare, in service cable",
    covered_in_box: "bare, covered in the panel",
  },
  neutral_path: { passes: "passes through", opens: "opens with the lines", none: "none handed on" },
  relay: {
    none: "none in it",
    closes_when_islanded: "closes when alone",
    always_closed: "always closed",
    disabled: "turned off",
  },
  supply_near: {
    none: "none within 500 ft",
    with_plaque: "one, with plaques",
    without_plaque: "one, without plaques",
  },
  limiters: {
    none: "none in its lines",
    at_the_joint: "at the joint",
    within_16_5_ft: "within 16.5 ft of it",
    farther: "farther from it",
  },
};

/** What a value of a closed list is called, in the field that holds it. */
export function word(value: string, field = ""): string {
  return (
    OF_FIELD[field]?.[value] ?? WORDS[value] ?? (value[0] ?? "").toUpperCase() + value.slice(1).replaceAll("_", " ")
  );
}

const UNITS: Record<string, string> = {
  ft: "ft",
  in: "in",
  in3: "in³",
  a: "A",
  v: "V",
  c: "°C",
  kva: "kVA",
  va: "VA",
  percent: "%",
};

/** The unit that a field is in, told by the ending of its name; "" where it has none. */
export function unitOf(field: string, before = ""): string {
  const unit = UNITS[field.split("_").at(-1) ?? ""];
  return unit ? before + unit : "";
}

export const DECISION_WORDS: Record<string, string> = facts.words.decisions;
export const SHORT_DECISION_WORDS: Record<string, string> = facts.words.decisions_short;
export const FOUND_WORDS: Record<string, string> = facts.words.found;
export const OUTCOME_WORDS = facts.words.outcomes;
export const OUTCOMES = facts.words.outcomes_by_severity as (keyof typeof OUTCOME_WORDS)[];
export const CAUTIONS: string[] = facts.words.cautions;
/** How a group of loads was worked out. */
export const LOAD_METHODS: Record<string, string> = facts.words.methods_of_loads;

export const FIELD_WORDS: Record<string, string> = {
  bending: "Bending space",
  torque: "Torque",
  expansion: "Expansion",
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
