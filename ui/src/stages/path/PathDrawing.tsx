/** The path to scale: boxes and runs over the tape. Selecting, moving and re-feeding work by pointer and by keyboard. */
import type { DrawingActions } from "./actions";
import {
  memo,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type RefObject,
} from "react";
import type { Schemas } from "../../api/client";
import type { Outcome } from "../../kit/Glyph";
import { wrap } from "../../kit/lettering";
import { find, type Document } from "../../core/document";
import { otherEnd } from "../../core/feeds";
import { useDerived, useSite, useWork } from "../../core/context";
import { DEAD, EnclosureBox } from "./EnclosureBox";
import { focusPlace } from "../../core/focus";
import { BOX_HEIGHT, BOX_WIDTH, TAG_HEIGHT, layOut, middle, type Layout } from "./layout";
import { Overview } from "./Overview";
import { Plots } from "./Plots";
import type { Position } from "../PositionBar";
import { RunDrawing } from "./RunDrawing";
import { Tape, TAPE_HEIGHT } from "./Tape";
import { Tracks, tracksHeight } from "./Tracks";
import { useDrag } from "./useDrag";
import { useZoom, type Zoom } from "./useZoom";
import { ZoomButtons } from "./ZoomButtons";

type Place = Schemas["PlaceOut"];

/** The room of an element as it changes. */
function useRoom() {
  const element = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState({ width: 700, height: 600 });
  useEffect(() => {
    if (!element.current) return;
    const watch = new ResizeObserver(([entry]) => {
      if (entry) setRoom({ width: Math.floor(entry.contentRect.width), height: Math.floor(entry.contentRect.height) });
    });
    watch.observe(element.current);
    return () => watch.disconnect();
  }, []);
  return { element, room };
}

const JOINT_ROOM = 12;
const SEVERITY: Outcome[] = ["must_fix", "advice", "cannot_tell"];

/** The worst that is found of each thing. */
function worstOf({ findings }: Schemas["ReportOut"]): Map<string, Outcome> {
  const worst = new Map<string, Outcome>();
  for (const outcome of SEVERITY)
    for (const finding of findings)
      if (finding.outcome === outcome && !worst.has(finding.id)) worst.set(finding.id, outcome);
  return worst;
}

function drawable({ enclosures = [], sources = [] }: Pick<Document, "enclosures" | "sources">, places: Place[]) {
  const known = new Set([...enclosures, ...sources].map((item) => item.id));
  return places.filter((place) => known.has(place.id));
}

/** A function that stays the same and does what the newest one does. */
function useNewest<Args extends unknown[]>(act: (...args: Args) => void): (...args: Args) => void {
  const newest = useRef(act);
  useEffect(() => {
    newest.current = act;
  });
  return useCallback((...args: Args) => newest.current(...args), []);
}

export function PathDrawing({
  report,
  played,
  actions,
}: {
  report: Schemas["ReportOut"];
  played: Position | null;
  actions: DrawingActions;
}) {
  const { selected, select, mayWrite } = useWork("selected", "select", "mayWrite");
  const { enclosures, sources } = useSite("enclosures", "sources");
  const limitPercent = useDerived(({ site }) => site.settings.feeder_drop_limit_percent);
  const { element, room } = useRoom();
  const drag = useDrag(report, actions);
  const places = useMemo(() => drawable({ enclosures, sources }, report.places), [enclosures, sources, report.places]);
  const worst = useMemo(() => worstOf(report), [report]);
  const shownPlaces = useMemo(() => drag.moved(places), [drag, places]);
  const layout = useMemo(() => layOut(shownPlaces, room.width - 8), [shownPlaces, room.width]);
  const rooms = useMemo(() => roomsFor(shownPlaces, layout), [shownPlaces, layout]);
  const tapeY = layout.height + 4;
  const tracksY = tapeY + TAPE_HEIGHT + 6;
  const height = tracksY + tracksHeight(report, layout);
  const zoom = useZoom(element, room, { width: layout.width, height });
  const { scale } = zoom;
  const pan = usePan(element);
  const onHold = useNewest((event: PointerEvent, place: Place) => {
    if (mayWrite) drag.begin(event, place);
  });
  const onKey = useNewest((event: KeyboardEvent, place: Place) =>
    followKey(event, place, shownPlaces, report, select, actions),
  );
  const shown = selected ? shownPlaces.find((place) => place.id === selected || place.run_id === selected) : undefined;
  const shownX = shown ? layout.x(shown.x_ft) * scale : null;
  useEffect(() => {
    const pane = element.current;
    if (!pane || shownX === null) return;
    const inView = shownX - BOX_WIDTH > pane.scrollLeft && shownX + BOX_WIDTH < pane.scrollLeft + pane.clientWidth;
    if (!inView) pane.scrollTo({ left: shownX - pane.clientWidth / 2 });
  }, [element, shownX]);

  return (
    <div className="relative flex min-h-0 flex-1">
      <ZoomButtons zoom={zoom} />
      <Overview
        pane={element}
        places={shownPlaces}
        layout={layout}
        size={{ width: layout.width, height }}
        scale={scale}
        worstAt={(place) => worst.get(place.id) ?? null}
      />
      <div
        ref={element}
        className="min-h-0 min-w-0 flex-1 overflow-auto bg-paper"
        data-testid="path-drawing"
        data-scale={scale}
        onKeyDown={(event) => zoomByKey(event, zoom)}
        {...pan}
      >
        <svg
          width={layout.width * scale}
          height={height * scale}
          viewBox={`0 0 ${layout.width} ${height}`}
          role="group"
          aria-label="Path of the power. Arrow keys follow the feed."
          className="block touch-pan-x touch-pan-y select-none"
          onPointerMove={(event) => drag.move(event, layout.pxPerFt * scale)}
          onPointerUp={() => drag.drop()}
          onPointerCancel={() => drag.cancel()}
        >
          <defs>
            <pattern id="soil" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(35)">
              <path d="M0 0 V7" stroke="var(--soil)" strokeWidth="1.6" />
            </pattern>
          </defs>
          <Plots places={shownPlaces} layout={layout} />
          <Runs places={shownPlaces} layout={layout} report={report} played={played} drag={mayWrite ? drag : null} />
          {shownPlaces.map((place) => (
            <PlaceItem
              key={place.id}
              place={place}
              first={place === shownPlaces[0]}
              {...middle(layout, place)}
              room={rooms.get(place.id) ?? 0}
              answer={report.enclosures[place.id]}
              worst={worst.get(place.id) ?? null}
              live={!played || played.live.includes(place.id)}
              circuitsLive={played?.circuits[place.id]?.length ?? 0}
              closed={played?.closed ?? null}
              onHold={onHold}
              onKey={onKey}
            />
          ))}
          <Tape layout={layout} y={tapeY} />
          <Tracks report={report} layout={layout} y={tracksY} limitPercent={limitPercent} />
        </svg>
      </div>
    </div>
  );
}

function zoomByKey(event: KeyboardEvent, zoom: Zoom) {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "+" || event.key === "=") zoom.step(1);
  else if (event.key === "-") zoom.step(-1);
  else if (event.key === "0") zoom.fit();
  else return;
  event.preventDefault();
}

/** The ground of the drawing is taken hold of and moved; boxes and runs keep their own drag. */
function usePan(pane: RefObject<HTMLElement | null>) {
  const held = useRef<{ x: number; y: number } | null>(null);
  return useMemo(() => {
    const onPointerDown = (event: PointerEvent) => {
      const onGround = event.target instanceof Element && !event.target.closest("[data-place], [data-run], button");
      if (event.button === 0 && event.pointerType !== "touch" && onGround)
        held.current = { x: event.clientX, y: event.clientY };
    };
    const onPointerMove = (event: PointerEvent) => {
      if (!held.current || event.buttons !== 1) return;
      pane.current?.scrollBy(held.current.x - event.clientX, held.current.y - event.clientY);
      held.current = { x: event.clientX, y: event.clientY };
    };
    const onPointerUp = () => {
      held.current = null;
    };
    return { onPointerDown, onPointerMove, onPointerUp, onPointerLeave: onPointerUp };
  }, [pane]);
}

function Runs({
  places,
  layout,
  report,
  played,
  drag,
}: {
  places: Place[];
  layout: Layout;
  report: Schemas["ReportOut"];
  played: Position | null;
  drag: ReturnType<typeof useDrag> | null;
}) {
  const { selected, select } = useWork("selected", "select");
  const { runs = [], taps: tapped = [] } = useSite("runs", "taps");
  const at = new Map(places.map((place) => [place.id, place]));
  const leaving = new Map<string, number>();
  for (const place of places) {
    const run = place.run_id ? report.runs[place.run_id] : undefined;
    const drawnFrom = run ? otherEnd(run, place.id) : "";
    leaving.set(drawnFrom, (leaving.get(drawnFrom) ?? 0) + 1);
  }
  /** The widest stretch of a run between its ends and the taps on it: its nameplate stands there. */
  const tagSpan = (runId: string, left: number, right: number): [number, number] => {
    const taps = tapped.filter((item) => item.run_id === runId).map((item) => item.tap_run_id);
    const joints = places.flatMap((item) =>
      item.run_id && taps.includes(item.run_id) && item.joins_ft !== null ? [layout.x(item.joins_ft)] : [],
    );
    const marks = [left, ...joints.sort((one, other) => one - other), right];
    const spans = marks
      .slice(1)
      .map((end, at): [number, number] => [
        at === 0 ? left : (marks[at] ?? left) + JOINT_ROOM,
        end === right ? right : end - JOINT_ROOM,
      ]);
    return spans.reduce((widest, span) => (span[1] - span[0] > widest[1] - widest[0] ? span : widest));
  };
  /** A tap begins at its joint, on the line of the run it is taken from. */
  const startOf = (place: Place, start: Place, runId: string) => {
    if (place.joins_ft === null) return middle(layout, start);
    const tap = tapped.find((item) => item.tap_run_id === runId);
    const end = places.find((item) => item.run_id === tap?.run_id);
    return { x: layout.x(place.joins_ft), y: middle(layout, end ?? start).y };
  };
  return places.map((place) => {
    const answer = place.run_id ? report.runs[place.run_id] : undefined;
    const run = find(runs, place.run_id);
    const start = answer ? at.get(otherEnd(answer, place.id)) : undefined;
    if (!run || !answer || !start) return null;
    const from = startOf(place, start, run.id);
    const to = middle(layout, place);
    const [tagLeft, tagRight] = tagSpan(run.id, from.x, to.x);
    return (
      <g
        key={run.id}
        data-run={run.id}
        className="cursor-pointer"
        opacity={played && !played.runs.includes(run.id) ? DEAD : 1}
        onClick={() => select(run.id)}
      >
        <RunDrawing
          run={run}
          answer={answer}
          fromX={from.x}
          fromY={from.y}
          toX={to.x}
          toY={to.y}
          selected={selected === run.id}
          lengthFt={drag?.lengthOf(run.id) ?? run.length_ft ?? null}
          branching={(leaving.get(start.id) ?? 0) > 1}
          joint={place.joins_ft !== null}
          tagLeft={tagLeft}
          tagRight={tagRight}
        />
        <rect
          x={from.x + BOX_WIDTH / 2}
          y={to.y - 22}
          width={Math.max(to.x - from.x - BOX_WIDTH, 0)}
          height={22 + BOX_HEIGHT / 2 + TAG_HEIGHT}
          fill="transparent"
        />
        {drag && selected === run.id ? (
          <circle
            data-handle={run.id}
            cx={from.x + BOX_WIDTH / 2 + 9}
            cy={to.y}
            r={7}
            fill="var(--copper)"
            className="cursor-grab touch-none"
            onPointerDown={(event) => drag.beginEnd(event, run.id)}
          >
            <title>Drag to another box to feed from there</title>
          </circle>
        ) : null}
      </g>
    );
  });
}

interface PlaceProps {
  place: Place;
  first: boolean;
  x: number;
  y: number;
  /** For the label. */
  room: number;
  answer: Schemas["EnclosureOut"] | undefined;
  worst: Outcome | null;
  live: boolean;
  circuitsLive: number;
  closed: string[] | null;
  onHold: (event: PointerEvent, place: Place) => void;
  onKey: (event: KeyboardEvent, place: Place) => void;
}

const PlaceItem = memo(function PlaceItem({ place, first, onHold, onKey, ...shown }: PlaceProps) {
  const { select } = useWork("select");
  const { id } = place;
  const selected = useDerived((work) => work.selected === id);
  const reached = useDerived((work) => work.selected === id || (first && work.selected === null));
  const touched = useDerived((work) => work.touched.has(id));
  const enclosure = useDerived(({ site }) => find(site.enclosures, id));
  const source = useDerived(({ site }) => find(site.sources, id));
  return (
    <g
      role="button"
      tabIndex={reached ? 0 : -1}
      aria-pressed={selected}
      data-place={id}
      className="cursor-pointer"
      onClick={() => select(id)}
      onFocus={() => !selected && select(id)}
      onPointerDown={(event) => onHold(event, place)}
      onKeyDown={(event) => onKey(event, place)}
    >
      {enclosure ? (
        <EnclosureBox
          {...shown}
          enclosure={enclosure}
          selected={selected}
          touched={touched}
          legs={Math.max(2, shown.answer?.level.legs.length ?? 2)}
        />
      ) : (
        <SourceMark x={shown.x} y={shown.y} name={source?.name || id} selected={selected} live={shown.live} />
      )}
    </g>
  );
});

/** The room of each label: to the middle of the gaps on both sides within its lane. */
function roomsFor(places: Place[], layout: Layout): Map<string, number> {
  const rooms = new Map<string, number>();
  const along = places
    .map(({ id, lane, x_ft }) => ({ id, lane, x: layout.x(x_ft) }))
    .sort((one, other) => one.lane - other.lane || one.x - other.x);
  along.forEach(({ id, lane, x }, at) => {
    const gaps = [along[at - 1], along[at + 1]].map((next) => (next?.lane === lane ? Math.abs(next.x - x) : Infinity));
    rooms.set(id, Math.min(170, 2 * x, 2 * (layout.width - x), ...gaps) - 6);
  });
  return rooms;
}

function SourceMark({
  x,
  y,
  name,
  selected,
  live,
}: {
  x: number;
  y: number;
  name: string;
  selected: boolean;
  live: boolean;
}) {
  return (
    <g transform={`translate(${x} ${y})`} opacity={live ? 1 : DEAD}>
      <path
        d="M-26 -26 H26 L31 0 L26 26 H-26 Z"
        fill="var(--sheet)"
        stroke={selected ? "var(--copper)" : "var(--ink)"}
        strokeWidth={selected ? 3 : 1.3}
      />
      <path d="M-14 0 q7 -16 14 0 q7 16 14 0" fill="none" stroke="var(--ink)" strokeWidth={1.8} />
      {wrap(name, 84, 12.5, true, 1).map((line) => (
        <text
          key={line}
          data-label
          y={-BOX_HEIGHT / 2 - 6}
          textAnchor="middle"
          fontSize={12.5}
          fontWeight={700}
          className="narrow"
          fill="var(--ink)"
        >
          {line}
        </text>
      ))}
    </g>
  );
}

/** Arrow keys follow the feed: left to what feeds it, right to what it feeds, up and down among the branches. */
function followKey(
  event: KeyboardEvent,
  place: Place,
  places: Place[],
  report: Schemas["ReportOut"],
  select: (id: string | null) => void,
  actions: DrawingActions,
) {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const go = (target: Place | undefined) => {
    if (!target) return;
    select(target.id);
    focusPlace(target.id);
  };
  const run = place.run_id ? report.runs[place.run_id] : undefined;
  const keys: Record<string, () => void> = {
    ArrowLeft: () => go(places.find((item) => run && item.id === otherEnd(run, place.id))),
    ArrowRight: () => go(places.find((item) => item.run_id && report.runs[item.run_id]?.from_id === place.id)),
    ArrowUp: () => go(nearestLane(place, places, -1)),
    ArrowDown: () => go(nearestLane(place, places, 1)),
    Enter: actions.onOpen,
    r: actions.onOpenRun,
    Delete: actions.onRemove,
    Escape: () => select(null),
    a: actions.onAdd,
    f: actions.onRefeed,
    "[": () => actions.onLengthen(-1),
    "]": () => actions.onLengthen(1),
  };
  const action = keys[event.key.length === 1 ? event.key.toLowerCase() : event.key];
  if (!action) return;
  event.preventDefault();
  action();
}

function nearestLane(place: Place, places: Place[], direction: number): Place | undefined {
  return places
    .filter((item) => (item.lane - place.lane) * direction > 0)
    .sort(
      (a, b) =>
        Math.abs(a.lane - place.lane) - Math.abs(b.lane - place.lane) ||
        Math.abs(a.x_ft - place.x_ft) - Math.abs(b.x_ft - place.x_ft),
    )[0];
}
