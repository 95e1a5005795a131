/** The focus, given to what is about to be drawn. */
const DRAWN_WITHIN_FRAMES = 120;

/** Give the focus to what a selector finds, as soon as it is there. */
export function focusSoon(selector: string, frames = DRAWN_WITHIN_FRAMES): void {
  requestAnimationFrame(() => {
    const found = document.querySelector<HTMLElement | SVGElement>(selector);
    if (found) found.focus();
    else if (frames > 0) focusSoon(selector, frames - 1);
  });
}

/** Give the focus to a box of the drawing. */
export function focusPlace(id: string): void {
  focusSoon(`[data-place="${id}"]`);
}
