/** Where the focused element goes away (mended, removed), the focus goes to what stands in its place, not to the page. */
import { useEffect } from "react";

const FOCUSABLE = "a[href], button:not([disabled]), input:not([disabled]), select:not([disabled]), [tabindex='0']";
const REGION = "section, aside, nav, [role=group], main, body";

interface Held {
  element: Element;
  /** The regions around it, the innermost first, with its place among what can have the focus in each. */
  around: { region: Element; index: number }[];
}

function focusables(region: Element): HTMLElement[] {
  return [...region.querySelectorAll<HTMLElement>(FOCUSABLE)];
}

function regionsAround(element: Element): Held["around"] {
  const found: Held["around"] = [];
  for (let at = element.closest(REGION); at; at = at.parentElement?.closest(REGION) ?? null)
    found.push({ region: at, index: focusables(at).indexOf(element as HTMLElement) });
  return found;
}

export function useFocusKept(): void {
  useEffect(() => {
    let held: Held | null = null;
    let byKeys = false;
    const note = (element: Element | null) => {
      if (!byKeys || !element || element === document.body) return;
      if (element.closest("[role=dialog], [role=menu], [role=listbox]")) return;
      held = { element, around: regionsAround(element) };
    };
    const mend = () => {
      if (!held || held.element.isConnected || document.activeElement !== document.body) return;
      const kept = held.around.find(({ region }) => region.isConnected);
      const left = kept ? focusables(kept.region) : [];
      const next = left[Math.min(Math.max(kept?.index ?? 0, 0), left.length - 1)];
      held = null;
      next?.focus();
    };
    const focused = (event: FocusEvent) => note(event.target as Element);
    const pressed = () => {
      byKeys = true;
      note(document.activeElement);
    };
    const pointed = () => {
      // Who points with a finger or a mouse is not led on by the focus.
      byKeys = false;
      held = null;
    };
    const watch = new MutationObserver(mend);
    watch.observe(document.body, { childList: true, subtree: true });
    document.addEventListener("focusin", focused);
    document.addEventListener("keydown", pressed, true);
    document.addEventListener("pointerdown", pointed);
    return () => {
      watch.disconnect();
      document.removeEventListener("focusin", focused);
      document.removeEventListener("keydown", pressed, true);
      document.removeEventListener("pointerdown", pointed);
    };
  }, []);
}
