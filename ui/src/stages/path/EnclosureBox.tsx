/** An enclosure as a box whose inside tells the truth: main or lugs, legs, bars, and the link between neutral and ground. */
import type { Schemas } from "../../api/client";
import { GlyphShape, type Outcome } from "../../kit/Glyph";
import type { Document, Enclosure } from "../../core/document";
import { BOX_HEIGHT, BOX_WIDTH, wrap } from "./layout";

interface BoxProps {
  site: Document;
  enclosure: Enclosure;
  answer: Schemas["EnclosureOut"] | undefined;
  worst: Outcome | null;
  x: number;
  y: number;
  room: number;
  selected: boolean;
  touched: boolean;
  legs: number;
}

const LEFT = -BOX_WIDTH / 2;
const TOP = -BOX_HEIGHT / 2;
const LEG_COLOURS = ["var(--hot-1)", "var(--hot-2)", "var(--hot-3)"];

export function EnclosureBox(props: BoxProps) {
  const { enclosure, answer, worst, x, y, selected, touched } = props;
  return (
    <g transform={`translate(${x} ${y})`}>
      <rect
        x={LEFT}
        y={TOP}
        width={BOX_WIDTH}
        height={BOX_HEIGHT}
        rx={enclosure.kind === "meter" ? 20 : 2.5}
        fill={touched ? "var(--touched)" : "var(--metal)"}
        stroke={selected ? "var(--copper)" : "var(--ink)"}
        strokeWidth={selected ? 3 : 1.3}
        strokeDasharray={enclosure.standing === "added" ? "5 2.5" : undefined}
      />
      <Inside {...props} />
      {worst ? (
        <g transform={`translate(${-LEFT - 3} ${TOP + 3})`}>
          <circle r={9} fill="var(--sheet)" />
          <GlyphShape outcome={worst} />
        </g>
      ) : null}
      <BoxLabel {...props} />
      <desc>{`${worst ? `${worst.replaceAll("_", " ")}. ` : ""}${answer?.reason ?? ""}`}</desc>
    </g>
  );
}

function BoxLabel({ enclosure, site, room }: BoxProps) {
  const name = wrap(enclosure.name || enclosure.id, room, 12.5, true, 2);
  const rating = wrap(ratingWords(enclosure, site), room, 11, false, 1);
  const lines = [...name.map((text) => ({ text, bold: true })), ...rating.map((text) => ({ text, bold: false }))];
  const top = TOP - 8 - (lines.length - 1) * 13;
  return (
    <>
      {lines.map((line, at) => (
        <text
          key={at}
          data-label
          y={top + at * 13}
          textAnchor="middle"
          className="narrow"
          fontSize={line.bold ? 12.5 : 11}
          fontWeight={line.bold ? 700 : 400}
          fill={line.bold ? "var(--ink)" : "var(--soft)"}
        >
          {line.text}
        </text>
      ))}
    </>
  );
}

function ratingWords(enclosure: Enclosure, site: Document): string {
  const main = (site.devices ?? []).find((item) => item.enclosure_id === enclosure.id && item.role === "main");
  const bus = (site.buses ?? []).find((item) => item.enclosure_id === enclosure.id);
  const spaces = bus?.spaces ? `, ${bus.spaces} sp` : "";
  if (enclosure.kind === "meter") return `class ${enclosure.meter_class_a ?? "?"}`;
  const transformer = (site.transformers ?? []).find((item) => item.enclosure_id === enclosure.id);
  if (transformer) return `${transformer.kva ?? "?"} kVA`;
  if (!main) return bus ? `bus ${bus.rating_a ?? "?"}, lugs${spaces}` : "lugs";
  const own = main.kind === "switch" ? "switch" : main.rating_a ? `main ${main.rating_a}` : "main ?";
  if (bus) return `bus ${bus.rating_a ?? "?"}, ${own}`;
  return main.frame_a ? `${main.frame_a} A, ${own}` : `rating ?, ${own}`;
}

function Inside({ site, enclosure, answer, legs }: BoxProps) {
  const bars = (site.bars ?? []).filter((item) => item.enclosure_id === enclosure.id);
  const main = (site.devices ?? []).find((item) => item.enclosure_id === enclosure.id && item.role === "main");
  const feeders = (site.devices ?? []).filter((item) => item.enclosure_id === enclosure.id && item.role !== "main");
  const neutral = bars.find((item) => item.kind === "neutral");
  const ground = bars.find((item) => item.kind === "ground");
  if (enclosure.kind === "meter")
    return (
      <>
        <circle r={15} cy={-12} fill="var(--sheet)" stroke="var(--ink)" />
        <path d="M-8 -12 H8 M0 -20 V-4" stroke="var(--soft)" strokeWidth={1} />
        {neutral ? <NeutralBar x={-20} y={12} height={20} insulated={neutral.insulated ?? null} /> : null}
        <Link found={answer?.found ?? "unknown"} wrong={answer?.wrong ?? false} from={-16} to={20} y={34} />
      </>
    );
  return (
    <>
      {main ? <MainSwitch rating={main.kind === "switch"} /> : <Lugs />}
      {Array.from({ length: legs }, (_, leg) => (
        <rect
          key={leg}
          x={-7 + leg * 7 - (legs - 2) * 3}
          y={TOP + 22}
          width={3.5}
          height={38}
          fill={LEG_COLOURS[leg]}
          stroke="var(--neutral-edge)"
          strokeWidth={0.4}
        />
      ))}
      {feeders.slice(0, 5).map((device, at) => (
        <rect
          key={device.id}
          x={-13}
          y={TOP + 26 + at * 7}
          width={26}
          height={4.5}
          rx={1}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth={0.8}
        />
      ))}
      {neutral ? <NeutralBar x={LEFT + 7} y={TOP + 22} height={40} insulated={neutral.insulated ?? null} /> : null}
      {ground ? <rect x={-LEFT - 12} y={TOP + 22} width={5} height={40} fill="var(--ground)" /> : null}
      <Link
        found={answer?.found ?? "unknown"}
        wrong={answer?.wrong ?? false}
        from={LEFT + 9.5}
        to={-LEFT - 9.5}
        y={TOP + 72}
      />
    </>
  );
}

function MainSwitch({ rating }: { rating: boolean }) {
  return (
    <g transform={`translate(0 ${TOP + 11})`}>
      <rect x={-11} y={-6} width={22} height={12} rx={1.5} fill="var(--sheet)" stroke="var(--ink)" />
      <path d={rating ? "M-6 2 L5 -4" : "M-6 0 H6"} stroke="var(--ink)" strokeWidth={2} />
    </g>
  );
}

function Lugs() {
  return (
    <g transform={`translate(0 ${TOP + 11})`} fill="none" stroke="var(--ink)">
      <circle cx={-5} r={3.2} />
      <circle cx={5} r={3.2} />
    </g>
  );
}

function NeutralBar({ x, y, height, insulated }: { x: number; y: number; height: number; insulated: boolean | null }) {
  return (
    <>
      <rect x={x} y={y} width={5} height={height} fill="var(--neutral)" stroke="var(--neutral-edge)" />
      {insulated ? (
        <path d={`M${x - 2.5} ${y + 4} v${height - 8}`} stroke="var(--neutral-edge)" strokeDasharray="2 2" />
      ) : null}
    </>
  );
}

/** The link between neutral and ground: closed, open, or not known; red where it is not as it must be. */
function Link({ found, wrong, from, to, y }: { found: string; wrong: boolean; from: number; to: number; y: number }) {
  const colour = wrong ? "var(--fix)" : found === "unknown" ? "var(--tell)" : "var(--ink)";
  const rise = `M${from} ${y - 8} V${y} `;
  const fall = `M${to} ${y - 8} V${y} `;
  const closed = `${rise}H${to} V${y - 8}`;
  if (found === "no_neutral") return null;
  return (
    <g fill="none" stroke={colour} strokeWidth={wrong ? 2.8 : 2}>
      {found === "bonded" ? <path d={closed} /> : null}
      {found === "unknown" ? <path d={closed} strokeDasharray="3 3" /> : null}
      {found === "apart" ? <path d={`${rise}H${from + 11} ${fall}H${to - 11}`} /> : null}
      {wrong ? <rect x={-4} y={y - 4} width={8} height={8} fill="var(--fix)" stroke="none" /> : null}
    </g>
  );
}
