/** The steps of a working, numbered, each with what it rests on. */
import type { Schemas } from "../api/client";

const SIGNS: Record<string, string> = { add: "+", subtract: "−", multiply: "×", divide: "÷" };
const VERBS: Record<string, string> = {
  greatest: "the larger of",
  least: "the smaller of",
  next_up: "next standard at or above",
  next_down: "next standard at or below",
  at_least: "is it enough:",
  root_sum: "from",
  hypotenuse: "root of the squares of",
  carried: "as worked out in",
  band: "read for",
};

export function Steps({ steps, changes }: { steps: Schemas["StepOut"][]; changes: string }) {
  const place = new Map(steps.map((step, at) => [step.number, at + 1]));
  return (
    <>
      <ol className="space-y-0.5">
        {steps.map((step, at) => (
          <li key={step.number} className="grid grid-cols-[1.5rem_minmax(0,1fr)]">
            <span className="text-copper">{at + 1}</span>
            <span>
              {step.label}: <span className="text-soft">{expression(step, place)}</span>{" "}
              <strong className="whitespace-nowrap">
                {step.value} {step.unit}
              </strong>
              {step.section ? <span className="text-soft"> · {step.section}</span> : null}
              {step.source && step.inputs.length === 0 ? <span className="text-soft"> · {step.source}</span> : null}
              {step.refused ? <span className="block text-soft">refused: {step.refused}</span> : null}
            </span>
          </li>
        ))}
      </ol>
      {changes ? <p className="mt-1 text-soft">{changes}</p> : null}
    </>
  );
}

function expression(step: Schemas["StepOut"], place: Map<number, number>): string {
  if (step.inputs.length === 0) return "";
  const named = step.inputs.map((number) => `(${place.get(number) ?? "?"})`);
  const sign = SIGNS[step.operation];
  if (sign) return `${named.join(` ${sign} `)} =`;
  const verb = VERBS[step.operation];
  return verb ? `${verb} ${named.join(", ")}:` : `by ${named.join(", ")}:`;
}
