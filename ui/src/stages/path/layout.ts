/**
 * Where everything of the drawing stands. The tape is to scale; where two enclosures are nearer than a box is wide,
 * the tape is stretched there and marked as broken.
 */
import type { Schemas } from "../../api/client";

type Place = Schemas["PlaceOut"];

export const BOX_WIDTH = 62;
export const BOX_HEIGHT = 82;
export const LABEL_HEIGHT = 68;
export const TAG_HEIGHT = 46;
export const LANE_HEIGHT = LABEL_HEIGHT + BOX_HEIGHT + TAG_HEIGHT;
const WANTED_GAP = BOX_WIDTH + 34;
const LEAST_GAP = BOX_WIDTH + 18;
const SIDE = 46;

export interface Segment {
  fromFt: number;
  toFt: number;
  fromPx: number;
  toPx: number;
  broken: boolean;
}

export interface Layout {
  width: number;
  height: number;
  lanes: number;
  segments: Segment[];
  pxPerFt: number;
  x: (feet: number) => number;
}

/** Lay out the places in a width; a chain too long for it is given more width, and the drawing scrolls by itself. */
export function layOut(places: Place[], width: number): Layout {
  const joints = places.flatMap((place) => (place.joins_ft === null ? [] : [place.joins_ft]));
  const stops = [...new Set([...places.map((place) => place.x_ft), ...joints])].sort((a, b) => a - b);
  const gaps = stops.slice(1).map((stop, at) => stop - (stops[at] ?? 0));
  const roomEach = (width - 2 * SIDE) / Math.max(gaps.length, 1);
  const leastGap = roomEach < LEAST_GAP ? WANTED_GAP : Math.min(WANTED_GAP, roomEach);
  const whole = Math.max(width, gaps.length * leastGap + 2 * SIDE);
  const pxPerFt = scaleFor(gaps, whole - 2 * SIDE, leastGap);
  const segments: Segment[] = [];
  let px = SIDE;
  gaps.forEach((gap, at) => {
    const wide = Math.max(leastGap, gap * pxPerFt);
    segments.push({
      fromFt: stops[at] ?? 0,
      toFt: stops[at + 1] ?? 0,
      fromPx: px,
      toPx: px + wide,
      broken: wide > gap * pxPerFt + 0.5,
    });
    px += wide;
  });
  const lanes = Math.max(1, ...places.map((place) => place.lane + 1));
  return {
    width: whole,
    height: lanes * LANE_HEIGHT,
    lanes,
    segments,
    pxPerFt,
    x: (feet) => positionOf(segments, feet),
  };
}

/** The scale at which the gaps that are to scale and the least gaps of the others fill the room. */
function scaleFor(gaps: number[], room: number, leastGap: number): number {
  const stretched = new Set<number>();
  for (;;) {
    const feet = gaps.reduce((sum, gap, at) => (stretched.has(at) ? sum : sum + gap), 0);
    const free = room - stretched.size * leastGap;
    if (feet === 0) return 1;
    const scale = free / feet;
    const tooNarrow = gaps.findIndex((gap, at) => !stretched.has(at) && gap * scale < leastGap - 0.5);
    if (tooNarrow < 0) return scale;
    stretched.add(tooNarrow);
  }
}

function positionOf(segments: Segment[], feet: number): number {
  const segment = segments.find((item) => feet <= item.toFt) ?? segments.at(-1);
  if (!segment) return SIDE;
  const share = (feet - segment.fromFt) / (segment.toFt - segment.fromFt || 1);
  return segment.fromPx + share * (segment.toPx - segment.fromPx);
}

/** The middle of an enclosure's box in its lane. */
export function middle(layout: Layout, place: Place): { x: number; y: number } {
  return { x: layout.x(place.x_ft), y: place.lane * LANE_HEIGHT + LABEL_HEIGHT + BOX_HEIGHT / 2 };
}

/** Round distances to mark on the tape within a segment. */
export function ticks(segment: Segment): { feet: number; major: boolean }[] {
  if (segment.broken) return [];
  const step = [1, 5, 10, 20, 50, 100, 200, 500, 1000].find(
    (size) => (size / (segment.toFt - segment.fromFt)) * (segment.toPx - segment.fromPx) >= 9,
  );
  if (!step) return [];
  const first = Math.ceil((segment.fromFt + step * 0.01) / step) * step;
  const found = [];
  for (let feet = first; feet < segment.toFt - step * 0.01; feet += step)
    found.push({ feet, major: feet % (step * 5) === 0 });
  return found;
}
