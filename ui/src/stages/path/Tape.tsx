/** The tape measure: the one axis of drawing and tracks. A stretched part is drawn torn, without marks. */
import { ticks, type Layout } from "./layout";

const HEIGHT = 22;

export function Tape({ layout, y }: { layout: Layout; y: number }) {
  const stops = [...new Set(layout.segments.flatMap((segment) => [segment.fromFt, segment.toFt]))];
  const last = Math.max(0, ...stops);
  return (
    <g transform={`translate(0 ${y})`} aria-hidden="true">
      {layout.segments.map((segment) => (
        <g key={segment.fromPx}>
          <rect
            x={segment.fromPx}
            width={segment.toPx - segment.fromPx}
            height={HEIGHT}
            fill="var(--tape)"
            opacity={segment.broken ? 0.45 : 1}
          />
          {segment.broken ? <Tear x={(segment.fromPx + segment.toPx) / 2} /> : null}
          {ticks(segment).map((tick) => (
            <path key={tick.feet} d={`M${layout.x(tick.feet)} 0 v${tick.major ? 9 : 5}`} stroke="var(--tape-ink)" />
          ))}
        </g>
      ))}
      {stops.map((feet) => (
        <g
          key={feet}
          transform={`translate(${layout.x(feet)} 0)`}
          textAnchor={feet === last && feet > 0 ? "end" : "start"}
        >
          <path d={`M0 0 v${HEIGHT}`} stroke="var(--tape-ink)" strokeWidth={1.4} />
          <text
            data-label
            x={feet === last && feet > 0 ? -4 : 4}
            y={HEIGHT - 5}
            fontSize={11}
            fontWeight={650}
            className="narrow"
            fill="var(--tape-ink)"
          >
            {Math.round(feet * 10) / 10}
            {feet === 0 ? " ft" : ""}
          </text>
        </g>
      ))}
    </g>
  );
}

function Tear({ x }: { x: number }) {
  return (
    <path
      d={`M${x - 3} -2 l4 6 l-5 6 l5 6 l-4 8 M${x + 4} -2 l4 6 l-5 6 l5 6 l-4 8`}
      fill="none"
      stroke="var(--tape-ink)"
      strokeWidth={1.1}
    />
  );
}

export const TAPE_HEIGHT = HEIGHT;
