/** Every figure of a study: currents of runs, volts of metal, devices, loads that get the wrong volts, what is assumed. */
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { amperes, TELLING } from "./amperes";

type Study = Schemas["StudyOut"];

const ROLES = ["L1", "L2", "L3", "neutral", "ground", "raceway"];
const OPENS: Record<Schemas["DeviceOut"]["opens"], string> = {
  stays: "stays",
  may_stay: "may stay for good",
  opens: "opens",
  at_once: "opens at once",
  unknown: "its rating is not known",
};
const HEAD = "pr-3 text-left font-normal";

export function CurrentTables({ study, children }: { study: Study; children?: ReactNode }) {
  const roles = ROLES.filter((role) => study.runs.some((run) => role in run.amperes));
  const opening = study.devices.filter((item) => item.opens !== "stays");
  const wrong = study.loads.filter((item) => Math.abs(item.volts / item.rated_v - 1) > 0.1);
  return (
    <div className="grid gap-x-8 gap-y-4 px-4 py-3 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <table className="h-fit w-full" aria-label="Amperes of each run">
        <thead>
          <tr className="narrow text-soft">
            <th className={HEAD}>Amperes</th>
            {roles.map((role) => (
              <th key={role} className="pr-3 text-right font-normal">
                {role}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {study.runs.map((run) => (
            <tr key={run.id} className="border-t border-rule">
              <th scope="row" dir="auto" className={HEAD}>
                {run.name}
              </th>
              {roles.map((role) => (
                <td key={role} className="pr-3 text-right tabular-nums">
                  {amperes(run.amperes[role])}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <div className="space-y-4">
        <table className="w-full" aria-label="Volts to earth">
          <thead>
            <tr className="narrow text-soft">
              <th className={HEAD}>Volts to earth</th>
              <th className="pr-3 text-right font-normal">metal</th>
              <th className="pr-3 text-right font-normal">neutral</th>
            </tr>
          </thead>
          <tbody>
            {study.boxes.map((box) => (
              <tr key={box.id} className="border-t border-rule">
                <th scope="row" dir="auto" className={HEAD}>
                  {box.name}
                </th>
                <td className="pr-3 text-right tabular-nums">{box.metal === null ? "floats" : volts(box.metal)}</td>
                <td className="pr-3 text-right tabular-nums">{box.neutral === null ? "" : volts(box.neutral)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {opening.length > 0 ? (
          <ul aria-label="Devices">
            {opening.map((item) => (
              <li key={item.id}>
                <strong dir="auto">{item.name}</strong>, {item.rating_a ?? "?"} A: {amperes(item.amperes)} A,{" "}
                {OPENS[item.opens]}
                {item.opens === "opens" && item.within_s !== null ? ` within ${item.within_s} s` : ""}
              </li>
            ))}
          </ul>
        ) : null}
        {wrong.length > 0 ? (
          <ul aria-label="Loads with wrong volts">
            {wrong.map((item, at) => (
              <li key={`${item.id} ${at}`}>
                <strong dir="auto">{item.name}</strong>: {volts(item.volts)} V instead of {item.rated_v} V
              </li>
            ))}
          </ul>
        ) : null}
        {children}
        <details>
          <summary className="narrow text-soft">What is assumed, and how it proves itself</summary>
          <ul className="narrow list-disc pl-5 text-soft">
            {study.assumed.map((item) => (
              <li key={item}>{item}</li>
            ))}
            <li>opening times are generic bands of breakers of that size, not the curve of this one</li>
            <li>
              {study.proof.nodes} nodes, {study.proof.branches} branches; {study.proof.residual_a.toExponential(1)} A
              left over, {study.proof.imbalance.toExponential(1)} of the power not accounted for
            </li>
          </ul>
        </details>
      </div>
    </div>
  );
}

function volts(value: number): string {
  return value < TELLING ? "0" : value.toFixed(value < 10 ? 2 : 1);
}
