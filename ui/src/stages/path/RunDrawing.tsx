/** A run as separate hot, neutral and ground lines in their medium, with a nameplate beneath. */
import { memo } from "react";
import type { Schemas } from "../../api/client";
import { useSite } from "../../core/context";
import { figureText } from "../../sheets/FigureLine";
import type { Run } from "../../core/document";
import { word } from "../../core/words";
import { BoxMarks } from "./BoxMarks";
import { wrap } from "../../kit/lettering";
import { BOX_HEIGHT, BOX_WIDTH } from "./layout";

/** All of it plain values or parts of the job that keep their identity: a run that did not change is not drawn anew. */
interface RunProps {
  run: Run;
  answer: Schemas["RunOut"] | undefined;
  fromX: number;
  fromY: number;
  toX: number;
  toY: number;
  selected: boolean;
  lengthFt: number | null;
  /** More than one run leaves the same enclosure: their trunk goes down beside the first one's nameplate. */
  branching: boolean;
  /** The run is a tap: it begins at a joint on another run. */
  joint: boolean;
  /** Where its nameplate may stand. */
  tagLeft: number;
  tagRight: number;
}

const LINE_GAP = 5;
const ORDER = ["L1", "L2", "L3", "neutral", "ground"];
const METAL = new Set(["emt", "rmc", "imc", "fmc", "lfmc"]);
const TRUNK = 10;
const TAG_TOP = BOX_HEIGHT / 2 + 12;

interface Strand {
  role: string;
  colour: string;
  edge: string | null;
  dash?: string;
}

const STRANDS: Record<string, Strand> = {
  L1: { role: "L1", colour: "var(--hot-1)", edge: "var(--neutral-edge)" },
  L2: { role: "L2", colour: "var(--hot-2)", edge: null },
  L3: { role: "L3", colour: "var(--hot-3)", edge: null },
  neutral: { role: "neutral", colour: "var(--neutral)", edge: "var(--neutral-edge)" },
  ground: { role: "ground", colour: "var(--ground)", edge: null, dash: "7 3" },
};

/** Leads of a box of switches come as many as it has: one dashed line of each leg stands for all of them. */
const IN_LEADS = new Set(["L1", "L2"]);

function strandOf(role: string, leads: boolean): Strand {
  const strand = STRANDS[role] as Strand;
  return leads && IN_LEADS.has(role) ? { ...strand, edge: null, dash: "4 3" } : strand;
}

export const RunDrawing = memo(function RunDrawing(props: RunProps) {
  const { run, answer, fromX, fromY, toX, toY, selected, lengthFt, branching, joint, tagLeft, tagRight } = props;
  const { conductors = [] } = useSite("conductors");
  const roles = new Set<string>(conductors.filter((item) => item.run_id === run.id).map((item) => item.role));
  const leads = answer?.kind === "leads";
  const strands = ORDER.filter((role) => roles.has(role) || (leads && IN_LEADS.has(role))).map((role) =>
    strandOf(role, leads),
  );
  const threePhase = conductors.some((item) => item.role === "L3");
  const trunk = ORDER.filter((role) => threePhase || role !== "L3");
  /** Trunks of all branches lie on each other, role on role. */
  const across = (role: string) => (trunk.indexOf(role) - (trunk.length - 1) / 2) * LINE_GAP;
  const straight = fromY === toY;
  const startX = straight ? fromX + BOX_WIDTH / 2 : joint ? fromX : fromX + TRUNK;
  const startY = joint ? fromY : fromY + BOX_HEIGHT / 2;
  const endX = toX - BOX_WIDTH / 2;
  return (
    <g>
      <Medium run={run} from={{ x: straight ? startX : startX + 10, y: toY }} endX={endX} count={strands.length} />
      {strands.map((strand, at) => {
        const offset = (at - (strands.length - 1) / 2) * LINE_GAP;
        const path = straight
          ? `M${startX} ${toY + offset} H${endX}`
          : `M${startX - across(strand.role)} ${joint ? startY + across(strand.role) : startY} V${toY + offset} H${endX}`;
        return <StrandLine key={strand.role} strand={strand} path={path} selected={selected} />;
      })}
      <BoxMarks
        run={run}
        startX={straight ? startX : startX + TRUNK}
        endX={endX}
        y={toY}
        half={(strands.length * LINE_GAP) / 2 + 7}
      />
      {joint
        ? strands.map(({ role }) => (
            <circle key={role} cx={startX - across(role)} cy={startY + across(role)} r={2.6} fill="var(--ink)" />
          ))
        : null}
      <Tag
        run={run}
        answer={answer}
        left={tagLeft + (joint ? 14 : branching ? TRUNK + 12 : 3)}
        right={tagRight - 3}
        y={toY + TAG_TOP}
        selected={selected}
        lengthFt={lengthFt}
      />
    </g>
  );
});

function StrandLine({ strand, path, selected }: { strand: Strand; path: string; selected: boolean }) {
  const width = strand.role === "neutral" ? 2.2 : 2.6;
  return (
    <g fill="none">
      {selected ? <path d={path} stroke="var(--copper)" strokeWidth={width + 3} opacity={0.55} /> : null}
      {strand.edge ? <path d={path} stroke={strand.edge} strokeWidth={width + 1.2} /> : null}
      <path d={path} stroke={strand.colour} strokeWidth={width} strokeDasharray={strand.dash} />
    </g>
  );
}

/** Earth is hatched, a raceway is a tube: light for plastic, heavy for metal. */
function Medium({ run, from, endX, count }: { run: Run; from: { x: number; y: number }; endX: number; count: number }) {
  const half = (count * LINE_GAP) / 2 + 4;
  const width = Math.max(endX - from.x, 0);
  const tube = run.method && run.method !== "earth" && run.method !== "free_air";
  return (
    <g>
      {run.placement === "underground" ? (
        <rect x={from.x} y={from.y - half - 5} width={width} height={2 * half + 10} fill="url(#soil)" />
      ) : null}
      {tube ? (
        <rect
          x={from.x}
          y={from.y - half}
          width={width}
          height={2 * half}
          rx={run.method === "cable" ? half : 2}
          fill="var(--sheet)"
          stroke={METAL.has(run.method ?? "") ? "var(--ink)" : "var(--neutral-edge)"}
          strokeWidth={METAL.has(run.method ?? "") ? 1.6 : 0.9}
          strokeDasharray={run.method === "cable" ? "6 3" : undefined}
        />
      ) : null}
    </g>
  );
}

function tagLines(run: Run, answer: Schemas["RunOut"] | undefined, lengthFt: number | null): string[] {
  const figures = answer?.chosen.figures ?? {};
  const metal = run.material === "copper" ? "Cu" : run.material === "aluminum" ? "Al" : "";
  const length = lengthFt === null ? "length ?" : `${Math.round(lengthFt * 10) / 10} ft`;
  if (answer?.kind === "utility") return ["utility", length];
  if (answer?.kind === "cord") return ["cord"];
  if (answer?.kind === "leads") return ["leads", length];
  const { hots, neutral, ground, raceway } = figures;
  const sizes = hots
    ? [
        `${hots.value}${answer?.unread.includes("hot_size") ? "?" : ""}`,
        neutral && `${neutral.value} N`,
        ground && `${ground.value} G`,
      ]
        .filter(Boolean)
        .join(" · ")
    : "size ?";
  const method = run.method ? word(run.method).replace("schedule ", "") : "method ?";
  return [
    `${run.sets && run.sets > 1 ? `${run.sets}× ` : ""}${sizes} ${metal}`,
    raceway ? `${method} ${figureText(raceway)}` : method,
    length,
  ];
}

function Tag({
  run,
  answer,
  left,
  right,
  y,
  selected,
  lengthFt,
}: {
  run: Run;
  answer: Schemas["RunOut"] | undefined;
  left: number;
  right: number;
  y: number;
  selected: boolean;
  lengthFt: number | null;
}) {
  const room = right - left;
  const centre = (left + right) / 2;
  const lines = tagLines(run, answer, lengthFt).flatMap((line) => wrap(line, room, 11, false, 1));
  return (
    <>
      {lines.map((line, at) => (
        <text
          key={at}
          data-label
          x={centre}
          y={y + at * 12}
          textAnchor="middle"
          fontSize={11}
          className="narrow"
          fontWeight={at === 0 || selected ? 650 : 400}
          fill={selected ? "var(--copper)" : "var(--ink)"}
        >
          {line}
        </text>
      ))}
    </>
  );
}
