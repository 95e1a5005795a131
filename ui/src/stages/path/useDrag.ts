/** Dragging an enclosure changes the length of its feeding run; dragging a run's start feeds it from elsewhere. */
import { useCallback, useMemo, useState, type PointerEvent } from "react";
import { otherEnd } from "../../core/feeds";
import type { Schemas } from "../../api/client";
import type { DrawingActions } from "./actions";

type Place = Schemas["PlaceOut"];

interface Moving {
  kind: "enclosure" | "end";
  runId: string;
  startX: number;
  startFt: number;
  deltaFt: number;
  moved: boolean;
}

const LEAST_MOVE_PX = 4;

export function useDrag(report: Schemas["ReportOut"], actions: DrawingActions) {
  const [moving, setMoving] = useState<Moving | null>(null);

  const lengthOf = useCallback(
    (runId: string) =>
      moving?.kind === "enclosure" && moving.moved && moving.runId === runId ? moving.startFt + moving.deltaFt : null,
    [moving],
  );

  /** The places as they would be, with all downstream carried along. */
  const moved = useCallback(
    (places: Place[]): Place[] => {
      if (moving?.kind !== "enclosure" || !moving.moved) return places;
      const carried = new Set<string>();
      for (const place of places) {
        const run = place.run_id ? report.runs[place.run_id] : undefined;
        if (run && (run.id === moving.runId || carried.has(run.from_id))) carried.add(place.id);
      }
      return places.map((place) => (carried.has(place.id) ? { ...place, x_ft: place.x_ft + moving.deltaFt } : place));
    },
    [moving, report],
  );

  return useMemo(() => {
    const start = (event: PointerEvent, kind: Moving["kind"], runId: string, startFt: number) => {
      if (event.button !== 0 || event.pointerType === "touch") return;
      setMoving({ kind, runId, startX: event.clientX, startFt, deltaFt: 0, moved: false });
    };
    return {
      lengthOf,
      moved,
      begin: (event: PointerEvent, place: Place) => {
        const run = place.run_id ? report.runs[place.run_id] : undefined;
        const from = report.places.find((item) => run && item.id === otherEnd(run, place.id));
        if (run && from) start(event, "enclosure", run.id, place.x_ft - from.x_ft);
      },
      beginEnd: (event: PointerEvent, runId: string) => {
        event.stopPropagation();
        start(event, "end", runId, 0);
      },
      move: (event: PointerEvent, pxPerFt: number) => {
        if (!moving) return;
        const px = event.clientX - moving.startX;
        const feet = Math.max(1 - moving.startFt, Math.round(px / pxPerFt));
        setMoving({ ...moving, deltaFt: feet, moved: moving.moved || Math.abs(px) >= LEAST_MOVE_PX });
      },
      drop: () => {
        if (moving?.moved && moving.kind === "enclosure" && moving.deltaFt !== 0)
          actions.onLength(moving.runId, Math.round(moving.startFt + moving.deltaFt));
        if (moving?.kind === "end" && moving.moved) {
          const target = hovered();
          if (target) actions.onFeedFrom(moving.runId, target);
        }
        setMoving(null);
      },
      cancel: () => setMoving(null),
    };
  }, [moving, report, actions, lengthOf, moved]);
}

function hovered(): string | null {
  const item = [...document.querySelectorAll("[data-place]:hover")].at(-1);
  return item?.getAttribute("data-place") ?? null;
}
