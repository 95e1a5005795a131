/** Where the rails, the boxes on them and their rungs stand: one pair of rails for each lane of the path. */
import type { Schemas } from "../../api/client";
import { find, type Document, type Run } from "../../core/document";
import { otherEnd } from "../../core/feeds";

type Place = Schemas["PlaceOut"];
type Report = Schemas["ReportOut"];

export const COLUMN = 108;
/** With currents written between the boxes. */
export const WIDE_COLUMN = 138;
export const LANE = 186;
export const NEUTRAL_Y = 74;
export const GROUND_Y = 118;
export const BOX_TOP = 60;
export const BOX_BOTTOM = 132;
const SIDE = 86;

export interface Stop {
  id: string;
  x: number;
  y: number;
}

/** A piece of the rails from one box to the next: whether neutral and ground go along. */
export interface Piece {
  runId: string;
  from: Stop;
  to: Stop;
  neutral: boolean;
  ground: boolean;
}

export interface Rails {
  stops: Stop[];
  pieces: Piece[];
  width: number;
  height: number;
}

/** Lay the boxes out in the order in which the power reaches them, each lane of the path on rails of its own. */
export function railsOf(site: Document, report: Report, column = COLUMN): Rails {
  const known = new Set([...(site.enclosures ?? []), ...(site.sources ?? [])].map((item) => item.id));
  const places = report.places.filter((place) => known.has(place.id));
  const columns = columnsOf(places, report);
  const at = new Map(
    places.map((place): [string, Stop] => [
      place.id,
      { id: place.id, x: SIDE + (columns.get(place.id) ?? 0) * column, y: place.lane * LANE },
    ]),
  );
  const pieces = places.flatMap((place) => {
    const answer = place.run_id ? report.runs[place.run_id] : undefined;
    const run = find(site.runs, place.run_id);
    const from = answer ? at.get(otherEnd(answer, place.id)) : undefined;
    const to = at.get(place.id);
    return run && from && to ? [{ runId: run.id, from, to, ...brings(site, run, answer) }] : [];
  });
  const widest = Math.max(0, ...columns.values());
  const lanes = Math.max(1, ...places.map((place) => place.lane + 1));
  return { stops: [...at.values()], pieces, width: 2 * SIDE + widest * column, height: lanes * LANE };
}

/** Each box one column further than the one that it hangs on, and beyond what stands in its lane before it. */
function columnsOf(places: Place[], report: Report): Map<string, number> {
  const columns = new Map<string, number>();
  const last = new Map<number, number>();
  for (const place of places) {
    const answer = place.run_id ? report.runs[place.run_id] : undefined;
    const before = answer ? (columns.get(otherEnd(answer, place.id)) ?? -1) : -1;
    const column = Math.max(before, last.get(place.lane) ?? -1) + 1;
    columns.set(place.id, column);
    last.set(place.lane, column);
  }
  return columns;
}

/** Ahead of the service disconnect metal hangs on the neutral: a raceway there is no grounding conductor. */
const AHEAD = new Set(["utility", "service"]);
const METAL = new Set(["emt", "rmc", "imc", "fmc", "lfmc"]);

function brings(site: Document, run: Run, answer: Schemas["RunOut"] | undefined) {
  const roles = new Set((site.conductors ?? []).filter((item) => item.run_id === run.id).map((item) => item.role));
  const byMetal = run.ground_by_raceway || (METAL.has(run.method ?? "") && !AHEAD.has(answer?.kind ?? ""));
  return { neutral: roles.has("neutral"), ground: roles.has("ground") || byMetal };
}
