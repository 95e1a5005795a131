/** An enclosure as a box whose inside tells the truth: main or lugs, legs, bars, and the link between neutral and ground. */
import { memo } from "react";
import { useSite } from "../../core/context";
import { GlyphShape, type Outcome } from "../../kit/Glyph";
import type { Document, Enclosure } from "../../core/document";
import { BoxInside, type InsideProps } from "./BoxInside";
import { wrap } from "../../kit/lettering";
import { BOX_HEIGHT, BOX_WIDTH } from "./layout";

interface BoxProps extends InsideProps {
  worst: Outcome | null;
  x: number;
  y: number;
  room: number;
  selected: boolean;
  touched: boolean;
  /** Live in the position that is played; true where none is. */
  live: boolean;
  /** How many circuits of it a box of switches keeps live while its bus is not. */
  circuitsLive: number;
}

const LEFT = -BOX_WIDTH / 2;
const TOP = -BOX_HEIGHT / 2;
/** How much of a box or run is seen that is not live in the position played. */
export const DEAD = 0.32;

export const EnclosureBox = memo(function EnclosureBox(props: BoxProps) {
  const { enclosure, answer, worst, x, y, selected, touched, live } = props;
  return (
    <g transform={`translate(${x} ${y})`} opacity={live ? 1 : DEAD}>
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
      <BoxInside {...props} />
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
});

function BoxLabel({ enclosure, room, live, circuitsLive }: BoxProps) {
  const site = useSite("devices", "buses", "transformers", "sources", "transfers");
  const name = wrap(enclosure.name || enclosure.id, room, 12.5, true, 2);
  const partly = circuitsLive > 0 ? `only ${circuitsLive} circuit${circuitsLive > 1 ? "s" : ""} live` : "";
  const rating = wrap(partly || (live ? ratingWords(enclosure, site) : "not live"), room, 11, false, 1);
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

type Rated = Pick<Document, "devices" | "buses" | "transformers" | "sources" | "transfers">;

function ratingWords(enclosure: Enclosure, site: Rated): string {
  const main = (site.devices ?? []).find((item) => item.enclosure_id === enclosure.id && item.role === "main");
  const bus = (site.buses ?? []).find((item) => item.enclosure_id === enclosure.id);
  const spaces = bus?.spaces ? `, ${bus.spaces} sp` : "";
  if (enclosure.kind === "meter") return `class ${enclosure.meter_class_a ?? "?"}`;
  const transformer = (site.transformers ?? []).find((item) => item.enclosure_id === enclosure.id);
  if (transformer) return `${transformer.kva ?? "?"} kVA`;
  const set = (site.sources ?? []).find((item) => item.enclosure_id === enclosure.id);
  if (set)
    return [
      set.rated_kva || !set.rated_output_a ? `${set.rated_kva ?? "?"} kVA` : `${set.rated_output_a} A`,
      main ? `breaker ${main.rating_a ?? "?"}` : "",
    ]
      .filter(Boolean)
      .join(", ");
  const gear = (site.transfers ?? []).find((item) => item.enclosure_id === enclosure.id);
  if (gear) return `${gear.rating_a ?? "?"} A${main ? `, main ${main.rating_a ?? "?"}` : ""}`;
  if (enclosure.kind === "inlet") return "";
  if (!main) return bus ? `bus ${bus.rating_a ?? "?"}, lugs${spaces}` : "lugs";
  const own = main.kind === "switch" ? "switch" : main.rating_a ? `main ${main.rating_a}` : "main ?";
  if (bus) return `bus ${bus.rating_a ?? "?"}, ${own}`;
  return main.frame_a ? `${main.frame_a} A, ${own}` : `rating ?, ${own}`;
}
