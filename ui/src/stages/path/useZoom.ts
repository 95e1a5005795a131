/** How large the drawing stands: it fits its room on opening; wheel, pinch, keys and buttons make it larger or smaller. */
import { useEffect, useLayoutEffect, useRef, useState, type RefObject } from "react";

export interface Zoom {
  scale: number;
  /** Make it larger or smaller by steps, about the middle of what is seen. */
  step: (by: number) => void;
  fit: () => void;
}

const LEAST = 0.3;
const MOST = 3;
const STEP = 1.2;

/** Smaller than this nothing could be read: the rest is scrolled to. */
const LEAST_THAT_FITS = 0.45;

/** On a phone the drawing opens at full size: it is followed with a finger. */
const NARROW_PX = 500;

/** A point of the pane, and what of the drawing lies there. */
interface Point {
  x: number;
  y: number;
  left: number;
  top: number;
}

interface Size {
  width: number;
  height: number;
}

export function useZoom(pane: RefObject<HTMLElement | null>, room: Size, drawing: Size): Zoom {
  const [chosen, setChosen] = useState<number | null>(null);
  const about = useRef<Point | null>(null);
  const fitting = room.width < NARROW_PX ? 1 : Math.min(1, room.width / drawing.width, room.height / drawing.height);
  const scale = chosen ?? Math.max(fitting, LEAST_THAT_FITS);

  useLayoutEffect(() => {
    const point = about.current;
    about.current = null;
    if (point && pane.current)
      pane.current.scrollTo({ left: point.left * scale - point.x, top: point.top * scale - point.y });
  }, [pane, scale]);

  useEffect(() => {
    const element = pane.current;
    if (!element) return;
    // A pinch on a touch pad arrives as a wheel with the control key.
    const turned = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      const box = element.getBoundingClientRect();
      const [x, y] = [event.clientX - box.left, event.clientY - box.top];
      about.current = pointAt(element, scale, x, y);
      setChosen(within(scale * Math.exp(-event.deltaY / 300)));
    };
    element.addEventListener("wheel", turned, { passive: false });
    return () => element.removeEventListener("wheel", turned);
  }, [pane, scale]);

  const step = (by: number) => {
    const element = pane.current;
    if (element) about.current = pointAt(element, scale, element.clientWidth / 2, element.clientHeight / 2);
    setChosen(within(scale * STEP ** by));
  };
  const fit = () => setChosen(null);
  return { scale, step, fit };
}

function within(scale: number): number {
  return Math.min(MOST, Math.max(LEAST, scale));
}

/** The point of the drawing that lies at x, y of the pane, to keep it there. */
function pointAt(element: HTMLElement, scale: number, x: number, y: number): Point {
  return { x, y, left: (element.scrollLeft + x) / scale, top: (element.scrollTop + y) / scale };
}
