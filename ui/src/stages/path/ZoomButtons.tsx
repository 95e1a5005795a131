/** Larger, smaller, and all of it at once; the keys + - and 0 do the same on the drawing. */
import type { Zoom } from "./useZoom";

const KEYS = "size-8 border border-rule bg-sheet text-ink hover:text-copper pointer-coarse:size-11";

export function ZoomButtons({ zoom }: { zoom: Zoom }) {
  return (
    <div role="group" aria-label="Size of the drawing" className="absolute right-4 bottom-2 z-10 flex">
      <button type="button" aria-label="Smaller" title="Smaller (-)" className={KEYS} onClick={() => zoom.step(-1)}>
        −
      </button>
      <button
        type="button"
        aria-label={`${Math.round(zoom.scale * 100)} %, fit the drawing`}
        title="All of it (0)"
        className={`${KEYS} w-12! narrow border-x-0`}
        onClick={zoom.fit}
      >
        {Math.round(zoom.scale * 100)} %
      </button>
      <button type="button" aria-label="Larger" title="Larger (+)" className={KEYS} onClick={() => zoom.step(1)}>
        +
      </button>
    </div>
  );
}
