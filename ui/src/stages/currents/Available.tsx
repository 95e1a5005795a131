/** The fault current that is available at every box, worked out when somebody looks. */
import { useState } from "react";
import { answered, api, type Schemas } from "../../api/client";
import { useAnswer } from "../../core/useAnswer";

type Body = Schemas["PositionBody"];

export function Available({ body }: { body: Body }) {
  const [open, setOpen] = useState(false);
  return (
    <details className="mx-4" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="narrow text-soft">Available fault current at every box</summary>
      {open ? <Table body={body} /> : null}
    </details>
  );
}

const HEAD = "pr-4 text-right font-normal";

function Table({ body }: { body: Body }) {
  const { answer, fault } = useAnswer(body, (asked, signal) =>
    answered(api.POST("/api/study/available", { body: asked, signal })),
  );
  if (fault)
    return (
      <p role="alert" className="text-fix">
        {fault}
      </p>
    );
  if (!answer) return <p className="text-soft">Working it out…</p>;
  const motors = answer.boxes.some((box) => box.motors_at_most > 0);
  const three = answer.boxes.some((box) => box.three_phase !== null);
  return (
    <>
      <table aria-label="Available fault current" className="mt-1">
        <thead>
          <tr className="narrow text-soft">
            <th className="pr-4 text-left font-normal">Amperes</th>
            {three ? <th className={HEAD}>three-phase</th> : null}
            <th className={HEAD}>line to line</th>
            <th className={HEAD}>line to neutral</th>
            {motors ? <th className={HEAD}>motors, at most</th> : null}
          </tr>
        </thead>
        <tbody>
          {answer.boxes.map((box) => (
            <tr key={box.id} className="border-t border-rule">
              <th scope="row" dir="auto" className="pr-4 text-left font-normal">
                {box.name}
              </th>
              {three ? <td className="pr-4 text-right tabular-nums">{shown(box.three_phase)}</td> : null}
              <td className="pr-4 text-right tabular-nums">{shown(box.line_to_line)}</td>
              <td className="pr-4 text-right tabular-nums">{shown(box.line_to_neutral)}</td>
              {motors ? <td className="pr-4 text-right tabular-nums">{shown(box.motors_at_most)}</td> : null}
            </tr>
          ))}
        </tbody>
      </table>
      <FarEnds ends={answer.far_ends} />
      {answer.told ? null : (
        <p className="text-advice">
          What a source gives into a fault is assumed: nothing of this may go on a label until the utility has told it.
        </p>
      )}
      <p className="narrow text-soft">
        {motors
          ? "Motors come on top, with four times their full-load current at most; the ratings of devices are held against both. "
          : "No motor is entered. "}
        Assumed: {answer.assumed.join("; ")}.
      </p>
    </>
  );
}

const OPENS: Record<Schemas["FarEndOut"]["opens"], string> = {
  stays: "stays",
  may_stay: "may stay for good",
  opens: "opens late",
  at_once: "opens at once",
  unknown: "its rating is not known",
};

/** Boxes at the end of runs so long that a line on metal need not open the breaker at once, and what would do. */
function FarEnds({ ends }: { ends: Schemas["FarEndOut"][] }) {
  if (ends.length === 0) return null;
  return (
    <table aria-label="Far ends" className="mt-3">
      <caption className="text-left">A line that touches metal here need not open the breaker at once:</caption>
      <thead>
        <tr className="narrow text-soft">
          <th className="pr-4 text-left font-normal">At</th>
          <th className={HEAD}>flows, A</th>
          <th className="pr-4 text-left font-normal">breaker ahead</th>
          <th className={HEAD}>at once from, A</th>
          <th className="pr-4 text-left font-normal">what would do</th>
        </tr>
      </thead>
      <tbody>
        {ends.map((end) => (
          <tr key={end.id} className="border-t border-rule align-top">
            <th scope="row" dir="auto" className="pr-4 text-left font-normal">
              {end.name}
            </th>
            <td className="pr-4 text-right tabular-nums">{shown(end.amperes)}</td>
            <td className="pr-4">
              <span dir="auto">{end.device}</span>: {OPENS[end.opens]}
              {end.within_s === null ? "" : `, within ${end.within_s} s`}
            </td>
            <td className="pr-4 text-right tabular-nums">{shown(end.at_once_from_a)}</td>
            <td className="pr-4">{remedies(end)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function remedies({ length_ft, at_once_up_to_ft, sizes_that_do }: Schemas["FarEndOut"]): string {
  const ways = [
    ...(at_once_up_to_ft === null ? [] : [`${at_once_up_to_ft} ft instead of ${length_ft ?? "?"}`]),
    ...(sizes_that_do === "" ? [] : [sizes_that_do]),
  ];
  return ways.join(", or ") || "no length and no size: the supply is too weak, or the breaker too large";
}

function shown(value: number | null): string {
  return value === null ? "" : Math.round(value).toLocaleString("en-US");
}
