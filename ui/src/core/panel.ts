/** Breakers in the spaces of a panel: which spots they take, what stands in the way, and the operations that place them. */
import type { Schemas } from "../api/client";
import { edit, insert, type Operation } from "./changes";
import { find, freshId, type Document, type State } from "./document";
import { Draft, standingIn } from "./draft";

export type Schedule = Schemas["ScheduleOut"];
export type PanelCircuit = Schemas["CircuitOut"];
export type PanelSpace = Schemas["SpaceOut"];
export type Half = "first" | "second";

export interface Spot {
  space: number;
  half: Half | null;
}

const OTHER: Record<Half, Half> = { first: "second", second: "first" };

export function spaceOf(schedule: Schedule, number: number): PanelSpace | undefined {
  return schedule.spaces.find((item) => item.number === number);
}

/** The spots that poles take from a start; fewer than the poles where the bus ends before. */
export function spotsFrom(schedule: Schedule, poles: number, start: Spot): Spot[] {
  const spots: Spot[] = [];
  let half = start.half;
  for (let space = spaceOf(schedule, start.space); space && spots.length < poles;) {
    spots.push({ space: space.number, half });
    half = half && OTHER[half];
    space = space.next === null ? undefined : spaceOf(schedule, space.next);
  }
  return spots;
}

const overlaps = (one: Spot, other: { space: number; half: string | null }) =>
  one.space === other.space && (one.half === null || other.half === null || one.half === other.half);

/** The breakers that stand where these spots are, but for one that is being moved. */
export function inTheWay(schedule: Schedule, spots: Spot[], but?: string): PanelCircuit[] {
  return schedule.circuits.filter(
    (item) => item.device_id !== but && item.spots.some((spot) => spots.some((mine) => overlaps(mine, spot))),
  );
}

export const wordsOf = (circuit: PanelCircuit) =>
  circuit.name || (circuit.spots[0] ? `the breaker in space ${circuit.spots[0].space}` : "the breaker");

/** Why a breaker cannot stand there, in words; null where it can. */
export function refusal(schedule: Schedule, poles: number, start: Spot, but?: string): string | null {
  const first = spaceOf(schedule, start.space);
  if (!first) return `This panel has no space ${start.space}.`;
  if (start.half && !first.halves) return `Space ${start.space} is not marked for half-size breakers.`;
  if (poles > schedule.legs.length) return `${poles} poles need ${poles} legs; this bus has ${schedule.legs.length}.`;
  const spots = spotsFrom(schedule, poles, start);
  if (spots.length < poles) return `From space ${start.space} on, the bus does not go on for ${poles} poles.`;
  const taken = inTheWay(schedule, spots, but)[0];
  if (!taken) return null;
  const where = taken.spots.find((spot) => spots.some((mine) => overlaps(mine, spot)))?.space;
  return `Space ${where ?? start.space} is taken by ${wordsOf(taken)}.`;
}

/** The first space from a number on where a breaker of so many poles fits; from the top again where none does. */
export function firstFit(schedule: Schedule, poles: number, from = 1): number | null {
  const numbers = schedule.spaces.map((item) => item.number);
  const order = [...numbers.filter((item) => item >= from), ...numbers.filter((item) => item < from)];
  return order.find((space) => refusal(schedule, poles, { space, half: null }) === null) ?? null;
}

/** Move a breaker to a spot; with one of the same shape standing there, the two change places. */
export function place(
  document: Document,
  state: State,
  schedule: Schedule,
  circuit: PanelCircuit,
  start: Spot,
): { label: string; operations: Operation[] } | { refused: string } {
  const [own] = circuit.spots;
  const spots = spotsFrom(schedule, circuit.poles, start);
  const [other, ...more] = inTheWay(schedule, spots, circuit.device_id);
  const put = (id: string, spot: { space: number; half: string | null }) => [
    ...edit(document, state, "devices", id, "space", spot.space),
    ...(find(document.devices, id)?.half === spot.half && !find(document.devices, id)?.proposed?.half
      ? []
      : edit(document, state, "devices", id, "half", spot.half)),
  ];
  const sameShape = (one: PanelCircuit, spot?: { space: number; half: string | null }) =>
    one.poles === circuit.poles && spot?.space === start.space && spot.half === start.half;
  if (own && other && more.length === 0 && sameShape(other, other.spots[0]))
    return {
      label: `Swap ${wordsOf(circuit)} and ${wordsOf(other)}`,
      operations: [...put(circuit.device_id, start), ...put(other.device_id, own)],
    };
  const refused = refusal(schedule, circuit.poles, start, circuit.device_id);
  if (refused) return { refused };
  return { label: `Move ${wordsOf(circuit)} to space ${start.space}`, operations: put(circuit.device_id, start) };
}

export interface DoorLine {
  space: number;
  name: string;
  poles: number;
  rating_a: number | null;
}

/** A breaker as one reads it from the door. */
export function addBreaker(
  document: Document,
  state: State,
  schedule: Schedule,
  line: DoorLine,
): { id: string; operations: Operation[] } {
  const id = freshId(document, `${schedule.enclosure_id} ${line.space}`);
  const device = {
    ...line,
    id,
    standing: standingIn(state),
    enclosure_id: schedule.enclosure_id,
    bus_id: schedule.bus_id,
    role: /^spare$/i.test(line.name.trim()) ? "spare" : "branch",
    ...(line.poles > 1 ? { tie: "common_trip" } : {}),
  };
  return { id, operations: [insert("devices", device)] };
}

/** A solar inverter on a back-fed breaker of the panel, as far from its main as there is room. */
export function pushIn(
  document: Document,
  site: Document,
  state: State,
  schedule: Schedule,
): { id: string; operations: Operation[] } | null {
  const poles = Math.min(2, schedule.legs.length);
  const far = find(site.buses, schedule.bus_id)?.main_end === "bottom" ? 1 : -1;
  const spaces = [...schedule.spaces].sort((a, b) => far * (a.row - b.row));
  const fits = (space: number) => refusal(schedule, poles, { space, half: null }) === null;
  const space = spaces.map((item) => item.number).find(fits);
  if (space === undefined) return null;
  const draft = new Draft(document, standingIn(state));
  const source = draft.add("sources", "inverter", { name: "Solar inverter", kind: "inverter", interactive: true });
  const device = draft.add("devices", `${schedule.enclosure_id} solar`, {
    enclosure_id: schedule.enclosure_id,
    bus_id: schedule.bus_id,
    name: "Solar",
    role: "source",
    poles,
    space,
    tie: "common_trip",
  });
  const run = draft.add("runs", "from inverter", { from_part: source, to_part: device });
  const bar = (kind: string) =>
    (site.bars ?? []).find((item) => item.enclosure_id === schedule.enclosure_id && item.kind === kind)?.id;
  for (const role of schedule.legs.slice(0, poles))
    draft.add("conductors", `${run} ${role}`, { run_id: run, role, from_part: source, to_part: device });
  const ground = bar("ground") ?? schedule.enclosure_id;
  draft.add("conductors", `${run} g`, { run_id: run, role: "ground", from_part: source, to_part: ground });
  return { id: device, operations: draft.operations };
}
