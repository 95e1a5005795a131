/** The sign of a verdict: shape and colour together, so that neither carries it alone. */
export type Outcome = "must_fix" | "advice" | "cannot_tell" | "holds";

const COLOUR: Record<Outcome, string> = {
  must_fix: "var(--fix)",
  advice: "var(--advice)",
  cannot_tell: "var(--tell)",
  holds: "var(--holds)",
};

/** The bare shape, for use inside another drawing; centred on 0, 0 and about 12 units wide. */
export function GlyphShape({ outcome }: { outcome: Outcome }) {
  const colour = COLOUR[outcome];
  switch (outcome) {
    case "must_fix":
      return <rect x={-5} y={-5} width={10} height={10} fill={colour} />;
    case "advice":
      return <path d="M0 -6 L6 5 L-6 5 Z" fill={colour} />;
    case "cannot_tell":
      return <circle r={5} fill="none" stroke={colour} strokeWidth={2} strokeDasharray="2.6 2.1" />;
    case "holds":
      return <path d="M-5 0 L-1.5 4 L5 -4.5" fill="none" stroke={colour} strokeWidth={2.2} />;
  }
}

export function Glyph({ outcome, size = 12 }: { outcome: Outcome; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="-7 -7 14 14" aria-hidden="true" className="inline-block shrink-0">
      <GlyphShape outcome={outcome} />
    </svg>
  );
}
