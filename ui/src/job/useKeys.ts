/** Keys that work anywhere in a job, except while typing into a field. */
import { useEffect, useRef } from "react";

interface Keys {
  undo: () => void;
  redo: () => void;
  help: () => void;
  stage: (number: number) => void;
  state: () => void;
  finding: () => void;
}

export function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest("input, select, textarea, [role=dialog]") !== null;
}

export function useKeys(keys: Keys): void {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const { undo, redo, help, stage, state, finding } = latest.current;
      const command = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      if (command && key === "z") {
        event.preventDefault();
        if (event.shiftKey) redo();
        else undo();
      } else if (command && key === "y") {
        event.preventDefault();
        redo();
      } else if (command || event.altKey || isTyping(event.target)) {
        return;
      } else if (event.key === "?") help();
      else if (key === "x") state();
      else if (key === "n") finding();
      else if (/^[1-9]$/.test(event.key)) stage(Number(event.key) - 1);
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}
