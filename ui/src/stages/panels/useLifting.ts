/** A breaker taken up to be carried: with the mouse as soon as it moves, with a finger once it has rested for a moment. */
import { useCallback, useEffect, useRef, type PointerEvent, type RefObject } from "react";
import type { PanelCircuit } from "../../core/panel";

interface Press {
  circuit: PanelCircuit;
  x: number;
  y: number;
  touch: boolean;
  lifted: boolean;
  rest: number;
}

const LEAST_MOVE_PX = 5;
const REST_MS = 350;

export function useLifting(frame: RefObject<HTMLElement | null>) {
  const press = useRef<Press | null>(null);

  const end = useCallback(() => {
    window.clearTimeout(press.current?.rest);
    press.current = null;
  }, []);

  // A page that scrolls under the finger would take the breaker out of it.
  useEffect(() => {
    const element = frame.current;
    const hold = (event: Event) => {
      if (press.current?.touch && press.current.lifted) event.preventDefault();
    };
    element?.addEventListener("touchmove", hold, { passive: false });
    element?.addEventListener("contextmenu", hold);
    return () => {
      element?.removeEventListener("touchmove", hold);
      element?.removeEventListener("contextmenu", hold);
      end();
    };
  }, [frame, end]);

  const begin = (event: PointerEvent, circuit: PanelCircuit, onLifted: () => void) => {
    end();
    const touch = event.pointerType === "touch";
    const begun: Press = { circuit, x: event.clientX, y: event.clientY, touch, lifted: false, rest: 0 };
    if (touch)
      begun.rest = window.setTimeout(() => {
        begun.lifted = true;
        onLifted();
      }, REST_MS);
    press.current = begun;
  };

  /** What is carried where the pointer is now; null while nothing is. A finger that moves before it rested scrolls. */
  const lifted = (event: PointerEvent): PanelCircuit | null => {
    const begun = press.current;
    if (!begun) return null;
    const moved = Math.max(Math.abs(event.clientX - begun.x), Math.abs(event.clientY - begun.y)) >= LEAST_MOVE_PX;
    if (!begun.lifted && moved) {
      if (begun.touch) end();
      else begun.lifted = true;
    }
    return begun.lifted ? begun.circuit : null;
  };

  return { begin, lifted, end };
}
