/** The room before an enclosure, from above and from the front: what must be clear, and what was found there. */
import { useState } from "react";
import { answered, api, type Schemas } from "../api/client";
import { useAnswer } from "../core/useAnswer";
import { useWork } from "../core/context";

type Plan = Schemas["PlacePlanOut"];
type Measure = Schemas["MeasureOut"];

/** Pixels of the drawing for an inch of the room. */
const SCALE = 1.05;
const BOX = { width: 16, depth: 5, height: 34 };
const ABOVE = { width: 140, height: 132 };
const FRONT = { width: 140, height: 132 };
const FLOOR = FRONT.height - 8;

/** What is drawn where nothing is entered: as much as is needed, dashed. */
const found = (measure: Measure, unknown: number) => measure.there_in ?? measure.needed_in ?? unknown;

const tooSmall = (measure: Measure) =>
  measure.there_in !== null && measure.needed_in !== null && measure.there_in < measure.needed_in;

function words(measure: Measure, name: string): string {
  const needed = measure.needed_in === null ? "how much is needed cannot be told" : `${measure.needed_in} in needed`;
  return `${name}: ${needed}, ${measure.there_in === null ? "not measured" : `${measure.there_in} in there`}`;
}

/** Asked for only while somebody looks at it. */
export function PlacePlan({ enclosureId }: { enclosureId: string }) {
  const [open, setOpen] = useState(false);
  return (
    <details className="mt-1" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="narrow cursor-pointer text-soft">Drawn, with what must be clear</summary>
      {open ? <Drawn enclosureId={enclosureId} /> : null}
    </details>
  );
}

function Drawn({ enclosureId }: { enclosureId: string }) {
  const { document, state } = useWork("document", "state");
  const { answer } = useAnswer({ document, state, enclosure_id: enclosureId }, (body, signal) =>
    answered(api.POST("/api/places/plan", { body, signal })),
  );
  if (!answer) return null;
  const told = [
    words(answer.depth, "Depth"),
    words(answer.width, "Width"),
    ...(answer.headroom ? [words(answer.headroom, "Headroom")] : []),
  ];
  return (
    <figure className="mt-1" data-testid="place-plan">
      <div className="flex flex-wrap gap-2">
        <FromAbove plan={answer} />
        <FromTheFront plan={answer} />
      </div>
      <figcaption className="narrow text-soft">
        {told.join("; ")}. {answer.depth.section}, {answer.width.section}
      </figcaption>
    </figure>
  );
}

function Clear({ x, y, width, height, wrong }: Record<"x" | "y" | "width" | "height", number> & { wrong: boolean }) {
  return (
    <rect
      x={x}
      y={y}
      width={width}
      height={height}
      fill={wrong ? "var(--fix)" : "var(--holds)"}
      fillOpacity={0.16}
      stroke={wrong ? "var(--fix)" : "var(--holds)"}
      strokeDasharray={wrong ? "2 2" : undefined}
    />
  );
}

function FromAbove({ plan }: { plan: Plan }) {
  const middle = ABOVE.width / 2;
  const wall = 16;
  const face = wall + BOX.depth * SCALE;
  const needed = { width: (plan.width.needed_in ?? 30) * SCALE, depth: (plan.depth.needed_in ?? 36) * SCALE };
  const clear = { width: found(plan.width, 30) * SCALE, depth: found(plan.depth, 36) * SCALE };
  const wrong = tooSmall(plan.depth) || tooSmall(plan.width);
  return (
    <svg width={ABOVE.width} height={ABOVE.height} aria-hidden className="border border-rule bg-paper">
      <text x={4} y={10} fontSize={9} fill="var(--soft)">
        from above
      </text>
      <line x1={0} x2={ABOVE.width} y1={wall} y2={wall} stroke="var(--ink)" strokeWidth={3} />
      <Clear x={middle - clear.width / 2} y={face} width={clear.width} height={clear.depth} wrong={wrong} />
      <rect
        x={middle - needed.width / 2}
        y={face}
        width={needed.width}
        height={needed.depth}
        fill="none"
        stroke="var(--ink)"
        strokeDasharray="4 2"
      />
      <rect
        x={middle - (BOX.width * SCALE) / 2}
        y={wall}
        width={BOX.width * SCALE}
        height={BOX.depth * SCALE}
        fill="var(--metal)"
        stroke="var(--ink)"
      />
      <text
        x={middle}
        y={face + Math.max(needed.depth, clear.depth) + 11}
        fontSize={9}
        textAnchor="middle"
        fill="var(--ink)"
      >
        {plan.depth.needed_in ?? "?"} by {plan.width.needed_in ?? "?"} in
      </text>
    </svg>
  );
}

function FromTheFront({ plan }: { plan: Plan }) {
  const middle = FRONT.width / 2;
  const at = (inches: number) => FLOOR - inches * SCALE;
  const top = (plan.handle.there_in ?? 60) + BOX.height / 4;
  const width = BOX.width * SCALE;
  const handleWrong =
    plan.handle.there_in !== null && plan.handle.needed_in !== null && plan.handle.there_in > plan.handle.needed_in;
  return (
    <svg width={FRONT.width} height={FRONT.height} aria-hidden className="border border-rule bg-paper">
      <text x={4} y={10} fontSize={9} fill="var(--soft)">
        from the front
      </text>
      {plan.indoors ? (
        <rect
          x={middle - width / 2}
          y={0}
          width={width}
          height={FLOOR}
          fill={plan.dedicated === false ? "var(--fix)" : "var(--soft)"}
          fillOpacity={plan.dedicated === false ? 0.25 : 0.1}
        />
      ) : null}
      {plan.headroom ? (
        <line
          x1={8}
          x2={FRONT.width - 8}
          y1={at(found(plan.headroom, 78))}
          y2={at(found(plan.headroom, 78))}
          stroke={tooSmall(plan.headroom) ? "var(--fix)" : "var(--holds)"}
          strokeDasharray="4 2"
        />
      ) : null}
      <rect
        x={middle - width / 2}
        y={at(top)}
        width={width}
        height={BOX.height * SCALE}
        fill="var(--metal)"
        stroke="var(--ink)"
      />
      <line
        x1={middle + width / 2 + 3}
        x2={middle + width / 2 + 22}
        y1={at(plan.handle.needed_in ?? 79)}
        y2={at(plan.handle.needed_in ?? 79)}
        stroke="var(--ink)"
      />
      <text x={middle + width / 2 + 5} y={at(plan.handle.needed_in ?? 79) - 2} fontSize={9} fill="var(--ink)">
        {plan.handle.needed_in} in
      </text>
      {plan.handle.there_in === null ? null : (
        <circle cx={middle} cy={at(plan.handle.there_in)} r={3} fill={handleWrong ? "var(--fix)" : "var(--ink)"} />
      )}
      <line x1={0} x2={FRONT.width} y1={FLOOR} y2={FLOOR} stroke="var(--ink)" strokeWidth={3} />
    </svg>
  );
}
