/** Where the rails, the boxes on them and their rungs stand: one pair of rails for each lane of the path. */
import type { Schemas } from "../../api/client";
import { find, type Document, type Run } from "../../core/document";
import { otherEnd } from "../../core/feeds";

type Place = Schemas["PlaceOut"];
type Report = Schemas["ReportOut"];

export const COLUMN = 108;
/** With currents written between the boxes. */
export const WIDE_COLUMN = 138;
export const LANE = 172;
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
  const spots = spotsOf(places, report);
  const at = new Map(
    [...spots].map(([id, spot]): [string, Stop] => [id, { id, x: SIDE + spot.column * column, y: spot.lane * LANE }]),
  );
  const pieces = places.flatMap((place) => {
    const answer = place.run_id ? report.runs[place.run_id] : undefined;
    const run = find(site.runs, place.run_id);
    const from = answer ? at.get(otherEnd(answer, place.id)) : undefined;
    const to = at.get(place.id);
    return run && from && to ? [{ runId: run.id, from, to, ...brings(site, run, answer) }] : [];
  });
  const widest = Math.max(0, ...[...spots.values()].map((spot) => spot.column));
  const lanes = Math.max(1, ...[...spots.values()].map((spot) => spot.lane + 1));
  return { stops: [...at.values()], pieces, width: 2 * SIDE + widest * column, height: lanes * LANE };
}

interface Spot {
  column: number;
  lane: number;
}

/**
 * Each box one column further than the one that it hangs on: in its lane where it goes straight on from there, else in a
 * lane of its own, so that no rail runs through a box that it has nothing to do with.
 */
function spotsOf(places: Place[], report: Report): Map<string, Spot> {
  const spots = new Map<string, Spot>();
  const goneOn = new Set<string>();
  let lanes = 0;
  for (const place of places) {
    const answer = place.run_id ? report.runs[place.run_id] : undefined;
    const fromId = answer ? otherEnd(answer, place.id) : "";
    const from = spots.get(fromId);
    const straight = from !== undefined && !goneOn.has(fromId);
    if (straight) goneOn.add(fromId);
    spots.set(place.id, { column: (from?.column ?? -1) + 1, lane: straight ? from.lane : lanes++ });
  }
  return spots;
}

/** Ahead of the service disconnect metal hangs on the neutral: a raceway there is no grounding conductor. */
const AHEAD = new Set(["utility", "service"]);
const METAL = new Set(["emt", "rmc", "imc", "fmc", "lfmc"]);

function brings(site: Document, run: Run, answer: Schemas["RunOut"] | undefined) {
  const roles = new Set((site.conductors ?? []).filter((item) => item.run_id === run.id).map((item) => item.role));
  const byMetal = run.ground_by_raceway || (METAL.has(run.method ?? "") && !AHEAD.has(answer?.kind ?? ""));
  return { neutral: roles.has("neutral"), ground: roles.has("ground") || byMetal };
}
