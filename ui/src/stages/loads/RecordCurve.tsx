/** The largest average of each day as a curve, with the peak marked; a table of months beside it for reading aloud. */
import type { Schemas } from "../../api/client";

type RecordOut = Schemas["RecordOut"];

const WIDTH = 640;
const HEIGHT = 150;
const LEFT = 44;
const BOTTOM = 22;
const TOP = 22;
const DAY_MS = 86_400_000;

export function RecordCurve({ record }: { record: RecordOut }) {
  const first = Date.parse(record.began_on);
  const span = Math.max(1, (Date.parse(record.ended_on) - first) / DAY_MS);
  const top = Math.max(record.peak_kw, 0.001);
  const x = (day: string) => LEFT + ((Date.parse(day) - first) / DAY_MS / span) * (WIDTH - LEFT - 8);
  const y = (kw: number) => HEIGHT - BOTTOM - (Math.max(kw, 0) / top) * (HEIGHT - BOTTOM - TOP);
  const peakX = x(record.peak_at.slice(0, 10));
  const months = monthPeaks(record);
  return (
    <figure>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full max-w-3xl" role="img" aria-label={told(record)}>
        {[0, 0.5, 1].map((share) => (
          <g key={share}>
            <line x1={LEFT} x2={WIDTH - 8} y1={y(share * top)} y2={y(share * top)} stroke="var(--rule)" />
            <text x={LEFT - 6} y={y(share * top) + 4} textAnchor="end" fontSize={11} fill="var(--soft)">
              {(share * top).toFixed(1)}
            </text>
          </g>
        ))}
        <text x={4} y={12} fontSize={11} fill="var(--soft)">
          kW
        </text>
        <path d={segments(record.daily, x, y)} fill="none" stroke="var(--ink)" strokeWidth={1.3} />
        <circle cx={peakX} cy={y(record.peak_kw)} r={4} fill="var(--sheet)" stroke="var(--copper)" strokeWidth={2} />
        <text
          x={Math.min(Math.max(peakX, LEFT + 70), WIDTH - 90)}
          y={12}
          textAnchor="middle"
          fontSize={12}
          fontWeight={700}
          fill="var(--ink)"
        >
          {record.peak_kw} kW, {record.peak_at}
        </text>
        <text x={LEFT} y={HEIGHT - 6} fontSize={11} fill="var(--soft)">
          {record.began_on}
        </text>
        <text x={WIDTH - 8} y={HEIGHT - 6} textAnchor="end" fontSize={11} fill="var(--soft)">
          {record.ended_on}
        </text>
      </svg>
      <figcaption className="narrow text-soft">
        Largest average of each day over {record.interval_minutes} minutes; {record.readings} readings, {record.days}{" "}
        days, {record.missing_percent} % missing.
      </figcaption>
      <details>
        <summary className="narrow cursor-pointer text-soft">The record as a table</summary>
        <table className="narrow">
          <thead>
            <tr>
              <th scope="col" className="pr-6 text-left">
                Month
              </th>
              <th scope="col">Peak, kW</th>
            </tr>
          </thead>
          <tbody>
            {months.map(([month, kw]) => (
              <tr key={month}>
                <td>{month}</td>
                <td className="text-right">{kw}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </figure>
  );
}

function told(record: RecordOut): string {
  return `Meter record from ${record.began_on} to ${record.ended_on}, peak ${record.peak_kw} kW on ${record.peak_at}`;
}

/** A line through the days, broken where days are missing. */
function segments(daily: RecordOut["daily"], x: (day: string) => number, y: (kw: number) => number): string {
  let before = Number.NaN;
  return daily
    .map((item) => {
      const day = Date.parse(item.day);
      const joined = day - before <= DAY_MS * 1.5;
      before = day;
      return `${joined ? "L" : "M"}${x(item.day).toFixed(1)} ${y(item.kw).toFixed(1)}`;
    })
    .join("");
}

function monthPeaks(record: RecordOut): [string, number][] {
  const found = new Map<string, number>();
  for (const item of record.daily) {
    const month = item.day.slice(0, 7);
    found.set(month, Math.max(found.get(month) ?? item.kw, item.kw));
  }
  return [...found];
}
