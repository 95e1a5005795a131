/** The whole of a site that is larger than its room, small: where one looks is a frame, taken to elsewhere by pointer. */
import { useEffect, useState, type PointerEvent, type RefObject } from "react";
import type { Schemas } from "../../api/client";
import type { Outcome } from "../../kit/Glyph";
import { middle, type Layout } from "./layout";

type Place = Schemas["PlaceOut"];

const WIDTH = 200;
const MOST_HEIGHT = 90;
const DOT = 5;
const FILL: Record<Outcome, string> = {
  must_fix: "var(--fix)",
  advice: "var(--advice)",
  cannot_tell: "var(--tell)",
  holds: "var(--soft)",
};

interface OverviewProps {
  pane: RefObject<HTMLElement | null>;
  places: Place[];
  layout: Layout;
  /** The drawing at full size. */
  size: { width: number; height: number };
  scale: number;
  worstAt: (place: Place) => Outcome | null;
}

interface Frame {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** What of the drawing is seen, in parts of the whole; null while all of it is. */
function useFrame({ pane, size, scale }: Pick<OverviewProps, "pane" | "size" | "scale">): Frame | null {
  const [frame, setFrame] = useState<Frame | null>(null);
  useEffect(() => {
    const element = pane.current;
    if (!element) return;
    const look = () => {
      const whole = { width: size.width * scale, height: size.height * scale };
      const all = element.clientWidth >= whole.width - 1 && element.clientHeight >= whole.height - 1;
      setFrame(
        all
          ? null
          : {
              x: element.scrollLeft / whole.width,
              y: element.scrollTop / whole.height,
              width: Math.min(1, element.clientWidth / whole.width),
              height: Math.min(1, element.clientHeight / whole.height),
            },
      );
    };
    look();
    const watch = new ResizeObserver(look);
    watch.observe(element);
    element.addEventListener("scroll", look, { passive: true });
    return () => {
      watch.disconnect();
      element.removeEventListener("scroll", look);
    };
  }, [pane, size.width, size.height, scale]);
  return frame;
}

export function Overview(props: OverviewProps) {
  const { pane, places, layout, size, scale, worstAt } = props;
  const frame = useFrame(props);
  if (!frame) return null;
  const small = Math.min(WIDTH / size.width, MOST_HEIGHT / size.height);
  const width = size.width * small;
  const height = size.height * small;
  const look = (event: PointerEvent<SVGSVGElement>) => {
    const element = pane.current;
    if (!element || event.buttons !== 1) return;
    const box = event.currentTarget.getBoundingClientRect();
    element.scrollTo({
      left: ((event.clientX - box.left) / small) * scale - element.clientWidth / 2,
      top: ((event.clientY - box.top) / small) * scale - element.clientHeight / 2,
    });
  };
  return (
    <svg
      width={width}
      height={height}
      aria-hidden
      data-testid="overview"
      className="absolute bottom-2 left-2 z-10 cursor-pointer touch-none border border-rule bg-sheet shadow-sm max-sm:hidden"
      onPointerDown={look}
      onPointerMove={look}
    >
      {places.map((place) => {
        const { x, y } = middle(layout, place);
        const worst = worstAt(place);
        return (
          <rect
            key={place.id}
            x={x * small - DOT / 2}
            y={y * small - DOT / 2}
            width={DOT}
            height={DOT}
            fill={worst ? FILL[worst] : "var(--soft)"}
          />
        );
      })}
      <rect
        x={frame.x * width + 1}
        y={frame.y * height + 1}
        width={Math.max(2, frame.width * width - 2)}
        height={Math.max(2, frame.height * height - 2)}
        fill="var(--touched)"
        fillOpacity={0.35}
        stroke="var(--copper)"
        strokeWidth={1.5}
      />
    </svg>
  );
}
