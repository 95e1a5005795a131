/** The same path as a table, for screen readers and for those who prefer it. */
import { memo, useState } from "react";
import type { Schemas } from "../../api/client";
import { figureText } from "../../sheets/FigureLine";
import { DECISION_WORDS } from "../../core/words";
import { useSite } from "../../core/context";
import type { Position } from "../PositionBar";

const HEADS = ["Enclosure", "Fed from", "Length", "Load", "Hots", "Neutral", "Ground", "Drop", "Neutral and ground"];

function liveWords(played: Position, id: string): string {
  const from = played.fed_from[id];
  if (from) return `live from ${from.join(" and ")}`;
  const circuits = played.circuits[id];
  if (circuits) return `bus not live, but ${circuits.join(", ")}`;
  return played.live.includes(id) ? "live" : "not live";
}

export function PathTable({ report, played }: { report: Schemas["ReportOut"]; played: Position | null }) {
  const { runs = [] } = useSite("runs");
  const [open, setOpen] = useState(false);
  const lengths = new Map(runs.map((run) => [run.id, run.length_ft]));
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
              <Row
                key={place.id}
                enclosure={enclosure}
                run={run}
                fedFrom={run ? (report.enclosures[run.from_id]?.name ?? run.from_id) : ""}
                lengthFt={lengths.get(run?.id ?? "") ?? null}
                live={played ? liveWords(played, place.id) : null}
              />
            );
          })}
        </tbody>
      </table>
    </details>
  );
}

interface RowProps {
  enclosure: Schemas["EnclosureOut"];
  run: Schemas["RunOut"] | undefined;
  fedFrom: string;
  lengthFt: number | null;
  /** Whether it is live in the position that is played; null where none is. */
  live: string | null;
}

const FIGURES = ["load", "hots", "neutral", "ground", "total_drop"];

const Row = memo(function Row({ enclosure, run, fedFrom, lengthFt, live }: RowProps) {
  return (
    <tr className="border-t border-rule">
      <th scope="row" className="pr-3 font-semibold">
        {enclosure.name}
      </th>
      <td>{fedFrom}</td>
      <td>{lengthFt ? `${lengthFt} ft` : ""}</td>
      {FIGURES.map((part) => {
        const figure = run?.chosen.figures[part];
        return <td key={part}>{figure ? figureText(figure) : ""}</td>;
      })}
      <td>{DECISION_WORDS[enclosure.decision]}</td>
      {live === null ? null : <td>{live}</td>}
    </tr>
  );
});
