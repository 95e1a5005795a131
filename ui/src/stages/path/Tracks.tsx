/** Tracks beneath the tape, on the same feet: drop from the service point, use of each rating, and what a fault can draw. */
import { memo } from "react";
import type { Schemas } from "../../api/client";
import { otherEnd } from "../../core/feeds";
import type { Layout } from "./layout";

type Report = Schemas["ReportOut"];

const DROP_TOP = 14;
const DROP_HEIGHT = 84;
const ROW = 17;
const TRACK_LEFT = 6;

interface Bar {
  id: string;
  from: number;
  to: number;
  share: number;
  text: string;
}

/** Rows of bars so that no two in a row overlap. */
function inRows(bars: Bar[]): Bar[][] {
  const rows: Bar[][] = [];
  for (const bar of bars) {
    const row = rows.find((item) => item.every((other) => bar.from >= other.to + 4 || bar.to + 4 <= other.from));
    if (row) row.push(bar);
    else rows.push([bar]);
  }
  return rows;
}

function barsOf(report: Report, layout: Layout): Bar[] {
  const x = new Map(report.places.map((place) => [place.id, layout.x(place.x_ft)]));
  return report.places.flatMap((place) => {
    const run = place.run_id ? report.runs[place.run_id] : undefined;
    const from = run ? x.get(otherEnd(run, place.id)) : undefined;
    const to = x.get(place.id);
    if (!run?.use || from === undefined || to === undefined) return [];
    const { load_a, rating_a } = run.use;
    return [
      {
        id: run.id,
        from: from + 3,
        to: to - 3,
        share: load_a / rating_a,
        text: `${load_a.toFixed(0)} of ${rating_a.toFixed(0)} A`,
      },
    ];
  });
}

/** The most that a fault can draw in each box, where the utility has told what it gives, as marks on the axis. */
function faultsOf(report: Report, layout: Layout): Bar[] {
  const x = new Map(report.places.map((place) => [place.id, layout.x(place.x_ft)]));
  return Object.values(report.enclosures).flatMap(({ id, figures }) => {
    const at = x.get(id);
    const amperes = figures.fault_current?.number;
    if (at === undefined || amperes === undefined || amperes === null) return [];
    const text = `${Math.round(amperes).toLocaleString("en-US")} A`;
    return [{ id, from: at - 7 * text.length, to: at, share: 1, text }];
  });
}

const FAULTS_HEAD = 20;

export function tracksHeight(report: Report | null, layout: Layout): number {
  const rows = report ? inRows(barsOf(report, layout)).length : 0;
  const faults = report ? inRows(faultsOf(report, layout)).length : 0;
  const height = DROP_TOP + DROP_HEIGHT + 20 + rows * ROW + 8;
  return height + (faults > 0 ? FAULTS_HEAD + faults * ROW : 0);
}

export const Tracks = memo(function Tracks({
  report,
  layout,
  y,
  limitPercent,
}: {
  report: Report;
  layout: Layout;
  y: number;
  limitPercent: number;
}) {
  const uses = inRows(barsOf(report, layout));
  const faults = inRows(faultsOf(report, layout));
  return (
    <g transform={`translate(0 ${y})`}>
      <DropTrack report={report} layout={layout} limitPercent={limitPercent} />
      <g transform={`translate(0 ${DROP_TOP + DROP_HEIGHT + 14})`}>
        <text data-label x={TRACK_LEFT} y={0} fontSize={11} className="narrow" fill="var(--soft)">
          Use of rating, A
        </text>
        {uses.map((row, at) => row.map((bar) => <UseBar key={bar.id} {...bar} y={5 + at * ROW} />))}
      </g>
      {faults.length > 0 ? (
        <g transform={`translate(0 ${DROP_TOP + DROP_HEIGHT + 14 + uses.length * ROW + FAULTS_HEAD})`}>
          <text data-label x={TRACK_LEFT} y={0} fontSize={11} className="narrow" fill="var(--soft)">
            Fault of all lines, at most
          </text>
          {faults.map((row, at) => row.map((mark) => <FaultMark key={mark.id} {...mark} y={5 + at * ROW} />))}
        </g>
      ) : null}
    </g>
  );
});

const UseBar = memo(function UseBar({ from, to, share, text, y }: Bar & { y: number }) {
  const width = to - from;
  const over = share > 1;
  return (
    <g>
      <rect x={from} y={y} width={width} height={13} fill="var(--sheet)" stroke="var(--rule)" />
      <rect
        x={from}
        y={y}
        width={width * Math.min(share, 1)}
        height={13}
        fill={over ? "var(--fix)" : "var(--holds)"}
        opacity={0.35}
      />
      <text data-label x={from + 5} y={y + 10.5} fontSize={11} className="narrow" fill="var(--ink)">
        {text}
      </text>
    </g>
  );
});

const FaultMark = memo(function FaultMark({ to, text, y }: Bar & { y: number }) {
  return (
    <g>
      <path d={`M${to} ${y} v13`} stroke="var(--ink)" strokeWidth={1.7} />
      <Before x={to - 4} y={y + 10.5} weight={400} text={text} />
    </g>
  );
});

/** Words that end at a mark, on a ground of their own where lines pass beneath. */
const Before = memo(function Before({ x, y, weight, text }: { x: number; y: number; weight: number; text: string }) {
  return (
    <text
      data-label
      x={x}
      y={y}
      fontSize={11}
      fontWeight={weight}
      textAnchor="end"
      className="narrow"
      fill="var(--ink)"
      stroke="var(--paper)"
      strokeWidth={6}
      strokeLinejoin="round"
      paintOrder="stroke"
    >
      {text}
    </text>
  );
});

/** The drop from the service point to the end of a run; none on the way of a source of the premises. */
function totalDrop(run: Report["runs"][string]): number | null {
  return run.chosen.figures.total_drop?.number ?? (run.kind === "utility" ? 0 : null);
}

/** The drop along each feed, falling from the service point; the job's limit is the dashed line. */
function DropTrack({ report, layout, limitPercent }: { report: Report; layout: Layout; limitPercent: number }) {
  const places = new Map(report.places.map((place) => [place.id, place]));
  const drops = new Map<string, number>();
  for (const run of Object.values(report.runs)) {
    const total = totalDrop(run);
    if (total !== null) drops.set(run.to_id, total);
  }
  const worst = Math.max(limitPercent, ...drops.values()) * 1.12;
  const toY = (percent: number) => DROP_TOP + (percent / worst) * DROP_HEIGHT;
  const limitY = toY(limitPercent);
  const labels = spread(
    [...drops].filter(([, percent]) => percent >= 0.05),
    places,
    layout,
    toY,
  );
  return (
    <g>
      <text data-label x={TRACK_LEFT} y={8} fontSize={11} className="narrow" fill="var(--soft)">
        Voltage drop, %
      </text>
      <path d={`M${TRACK_LEFT} ${DROP_TOP} H${layout.width - 6}`} stroke="var(--rule)" />
      <path d={`M${TRACK_LEFT} ${limitY} H${layout.width - 6}`} stroke="var(--advice)" strokeDasharray="4 4" />
      <text data-label x={TRACK_LEFT} y={limitY - 3} fontSize={10.5} className="narrow" fill="var(--advice)">
        limit {limitPercent}
      </text>
      {Object.values(report.runs).map((run) => {
        const from = places.get(run.from_id);
        const to = places.get(run.to_id);
        const end = totalDrop(run);
        if (!from || !to || end === null) return null;
        const start = drops.get(run.from_id) ?? 0;
        return (
          <path
            key={run.id}
            d={`M${layout.x(from.x_ft)} ${toY(start)} L${layout.x(to.x_ft)} ${toY(end)}`}
            stroke="var(--ink)"
            strokeWidth={1.7}
          />
        );
      })}
      {labels.map((label) => (
        <g key={label.id}>
          <circle cx={label.x} cy={label.dotY} r={2.8} fill={label.over ? "var(--advice)" : "var(--ink)"} />
          <Before x={label.x - 6} y={label.y} weight={650} text={label.text} />
        </g>
      ))}
    </g>
  );

  function spread(
    points: [string, number][],
    found: Map<string, { x_ft: number }>,
    on: Layout,
    y: (percent: number) => number,
  ) {
    const taken: { x: number; y: number }[] = [];
    return points.flatMap(([id, percent]) => {
      const place = found.get(id);
      if (!place) return [];
      const x = on.x(place.x_ft);
      const dotY = y(percent);
      let labelY = dotY + 12;
      while (taken.some((other) => Math.abs(other.x - x) < 44 && Math.abs(other.y - labelY) < 12)) labelY += 12;
      if (Math.abs(labelY - 6 - limitY) < 8 && x < 90) labelY += 12;
      taken.push({ x, y: labelY });
      return [{ id, x, y: labelY, dotY, text: `${beside(percent, limitPercent)} %`, over: percent > limitPercent }];
    });
  }
}

/** A drop to a tenth, and closer where that would hide on which side of the limit it lies. */
function beside(percent: number, limit: number): string {
  const text = percent.toFixed(1);
  return Number(text) === limit && percent !== limit ? percent.toFixed(2) : text;
}
