/** The same path as a table, for screen readers and for those who prefer it. */
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { figureText } from "../../sheets/FigureLine";
import { DECISION_WORDS } from "../../core/words";
import { useWork } from "../../core/context";
import type { Position } from "../PositionBar";

const HEADS = ["Enclosure", "Fed from", "Length", "Load", "Hots", "Neutral", "Ground", "Drop", "Neutral and ground"];

function liveWords(played: Position, id: string): string {
  const from = played.fed_from[id];
  if (from) return `live from ${from.join(" and ")}`;
  return played.live.includes(id) ? "live" : "not live";
}

export function PathTable({ report, played }: { report: Schemas["ReportOut"]; played: Position | null }) {
  const { site } = useWork("site");
  const [open, setOpen] = useState(false);
  const lengths = new Map((site.runs ?? []).map((run) => [run.id, run.length_ft]));
  const text = (run: Schemas["RunOut"] | undefined, part: string) => {
    const figure = run?.chosen.figures[part];
    return figure ? figureText(figure) : "";
  };
  return (
    <details
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
      className="max-h-[45%] overflow-auto border-t border-rule bg-sheet px-3 py-1"
    >
      <summary className="narrow text-soft">The path as a table</summary>
      <table className="w-full text-left">
        <thead>
          <tr className="narrow text-soft">
            {HEADS.map((head) => (
              <th key={head} scope="col" className="pr-3 font-normal">
                {head}
              </th>
            ))}
            {played ? (
              <th scope="col" className="pr-3 font-normal">
                {played.name}
              </th>
            ) : null}
          </tr>
        </thead>
        <tbody>
          {report.places.map((place) => {
            const run = place.run_id ? report.runs[place.run_id] : undefined;
            const enclosure = report.enclosures[place.id];
            if (!enclosure) return null;
            return (
              <tr key={place.id} className="border-t border-rule">
                <th scope="row" className="pr-3 font-semibold">
                  {enclosure.name}
                </th>
                <td>{run ? (report.enclosures[run.from_id]?.name ?? run.from_id) : ""}</td>
                <td>{run && lengths.get(run.id) ? `${lengths.get(run.id)} ft` : ""}</td>
                <td>{text(run, "load")}</td>
                <td>{text(run, "hots")}</td>
                <td>{text(run, "neutral")}</td>
                <td>{text(run, "ground")}</td>
                <td>{text(run, "total_drop")}</td>
                <td>{DECISION_WORDS[enclosure.decision]}</td>
                {played ? <td>{liveWords(played, place.id)}</td> : null}
              </tr>
            );
          })}
        </tbody>
      </table>
    </details>
  );
}
