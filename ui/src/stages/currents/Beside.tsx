/** The same situation in the other state beside the one that is shown: as it stands, and as it is proposed. */
import { useState } from "react";
import { answered, api, type Schemas } from "../../api/client";
import { useAnswer } from "../../core/useAnswer";
import { amperes } from "./amperes";

type Study = Schemas["StudyOut"];
type Body = Schemas["StudyBody"];

const WORDS: Record<"existing" | "proposed", string> = { existing: "As it stands", proposed: "As proposed" };
const ROLES = ["neutral", "ground", "raceway"];

export function Beside({ study, body }: { study: Study; body: Body }) {
  const [open, setOpen] = useState(false);
  const other = body.state === "proposed" ? "existing" : "proposed";
  return (
    <details className="mx-4 mt-1" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="narrow text-soft">
        Beside it: the same {other === "existing" ? "as it stands" : "as it is proposed"}
      </summary>
      {open ? <Both study={study} body={{ ...body, state: other, position: "" }} /> : null}
    </details>
  );
}

function Both({ study, body }: { study: Study; body: Body }) {
  const { answer, fault } = useAnswer(body, (asked, signal) =>
    answered(api.POST("/api/study", { body: asked, signal })),
  );
  if (fault)
    return (
      <p role="alert" className="text-fix">
        {fault}
      </p>
    );
  if (!answer) return <p className="text-soft">Working it out…</p>;
  const other = body.state === "existing" ? "existing" : "proposed";
  const own = other === "existing" ? "proposed" : "existing";
  return (
    <div className="mt-1" data-testid="beside">
      <dl className="grid gap-x-4 md:grid-cols-[7rem_minmax(0,1fr)]">
        {(
          [
            [own, study],
            [other, answer],
          ] as const
        ).map(([state, outcome]) => (
          <div key={state} className="contents" data-state={state}>
            <dt className="font-semibold">{WORDS[state]}</dt>
            <dd className="mb-1">{outcome.sentences.join(" ")}</dd>
          </div>
        ))}
      </dl>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Amperes of both states">
        <table aria-label="Both states" className="mt-1">
          <thead>
            <tr className="narrow text-soft">
              <th className="pr-4 text-left font-normal">Amperes</th>
              {[own, other].flatMap((state) =>
                ROLES.map((role) => (
                  <th key={state + role} className="pr-4 text-right font-normal">
                    {role}, {WORDS[state as "existing" | "proposed"].toLowerCase()}
                  </th>
                )),
              )}
            </tr>
          </thead>
          <tbody>
            {namesOf(study, answer).map(([id, name]) => (
              <tr key={id} className="border-t border-rule">
                <th scope="row" dir="auto" className="pr-4 text-left font-normal">
                  {name}
                </th>
                {[study, answer].flatMap((outcome, at) =>
                  ROLES.map((role) => (
                    <td key={`${at} ${role}`} className="pr-4 text-right tabular-nums">
                      {amperesOf(outcome, id, role)}
                    </td>
                  )),
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

/** The runs of either state, by their names. */
function namesOf(...studies: Study[]): [string, string][] {
  return [...new Map(studies.flatMap((study) => study.runs.map((run) => [run.id, run.name] as [string, string])))];
}

function amperesOf(study: Study, id: string, role: string): string {
  return amperes(study.runs.find((run) => run.id === id)?.amperes[role]);
}
