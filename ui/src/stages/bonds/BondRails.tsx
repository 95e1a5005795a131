/**
 * Neutral and ground as two rails along the path, every box on them. A bond is a rung between the rails at its box; an
 * electrode hangs on the rail that its conductor really lands on.
 */
import { useMemo } from "react";
import type { Schemas } from "../../api/client";
import { find, type Document } from "../../core/document";
import { SHORT_DECISION_WORDS, word } from "../../core/words";
import { wrap } from "../../kit/lettering";
import { BOX_BOTTOM, BOX_TOP, COLUMN, GROUND_Y, NEUTRAL_Y, WIDE_COLUMN, railsOf, type Piece, type Stop } from "./rails";

type Report = Schemas["ReportOut"];
type Enclosure = Schemas["EnclosureOut"];
type RunFlow = Schemas["RunCurrentsOut"];

const RAIL_NAMES: [string, number][] = [
  ["neutral", NEUTRAL_Y],
  ["metal", GROUND_Y],
];
const HALF = 37;
const RUNG_X = -24;
const EARTH_X = 30;

export function BondRails({
  site,
  report,
  played,
  selected,
  onSelect,
  flow = null,
  bonds = {},
  onToggle,
}: {
  site: Document;
  report: Report;
  played: Schemas["PositionOut"] | null;
  selected: string | null;
  onSelect: (id: string) => void;
  /** The currents of a study, drawn on the rails. */
  flow?: Schemas["StudyOut"] | null;
  /** Bonds that are played with, and what a rung does when it is pressed. */
  bonds?: Record<string, boolean>;
  onToggle?: (bondId: string, made: boolean) => void;
}) {
  const column = onToggle ? WIDE_COLUMN : COLUMN;
  const rails = useMemo(() => railsOf(site, report, column), [site, report, column]);
  const isLive = (ids: string[]) => !played || ids.every((id) => played.live.includes(id));
  return (
    <div className="overflow-x-auto bg-paper" data-testid="bond-rails">
      <svg
        width={rails.width}
        height={rails.height}
        viewBox={`0 0 ${rails.width} ${rails.height}`}
        role="group"
        aria-label="Neutral and ground along the path. The cards beneath say the same in words."
        className="block"
      >
        {RAIL_NAMES.map(([name, y]) => (
          <text key={name} x={4} y={y + 4} className="narrow" fontSize={11.5} fill="var(--soft)">
            {name}
          </text>
        ))}
        {rails.pieces.map((piece) => (
          <RailPiece
            key={piece.runId}
            piece={piece}
            faint={played !== null && !played.runs.includes(piece.runId)}
            supply={report.runs[piece.runId]?.kind === "service" || report.runs[piece.runId]?.kind === "utility"}
            flow={flow?.runs.find((run) => run.id === piece.runId) ?? null}
          />
        ))}
        {rails.stops.map((stop) => (
          <g
            key={stop.id}
            transform={`translate(${stop.x} ${stop.y})`}
            opacity={isLive([stop.id]) ? 1 : 0.32}
            className="cursor-pointer"
            onClick={() => onSelect(stop.id)}
          >
            <Box
              site={site}
              stop={stop}
              answer={report.enclosures[stop.id]}
              flow={flow}
              bonds={bonds}
              onToggle={onToggle}
              joined={played?.systems.some((system) => system.places.includes(stop.id)) ?? false}
              selected={selected === stop.id}
            />
          </g>
        ))}
      </svg>
    </div>
  );
}

/** From one box to the next: a whole line where the conductor goes along, two stubs where it does not. */
function RailPiece({
  piece,
  faint,
  supply,
  flow,
}: {
  piece: Piece;
  faint: boolean;
  supply: boolean;
  flow: RunFlow | null;
}) {
  const back = piece.to.x < piece.from.x + 2 * HALF;
  const path = (railY: number, down: number) => {
    const y = piece.to.y + railY;
    const end = piece.to.x + (back ? HALF : -HALF);
    if (piece.from.y === piece.to.y) return `M${piece.from.x + HALF} ${y} H${end}`;
    const x = piece.from.x + down;
    return `M${x} ${piece.from.y + BOX_BOTTOM} V${y} H${end}`;
  };
  return (
    <g fill="none" opacity={faint ? 0.32 : 1} data-rail={piece.runId}>
      {piece.neutral ? (
        <>
          <path d={path(NEUTRAL_Y, -24)} stroke="var(--neutral-edge)" strokeWidth={7} />
          <path d={path(NEUTRAL_Y, -24)} stroke="var(--neutral)" strokeWidth={5} />
        </>
      ) : null}
      {piece.ground ? (
        <path d={path(GROUND_Y, -12)} stroke="var(--ground)" strokeWidth={5} />
      ) : supply ? null : (
        <path d={path(GROUND_Y, -12)} stroke="var(--tell)" strokeWidth={1.2} strokeDasharray="2 6" />
      )}
      {flow ? (
        <>
          <Flow
            d={path(NEUTRAL_Y, -24)}
            piece={piece}
            y={NEUTRAL_Y}
            amperes={flow.amperes.neutral ?? 0}
            back={flow.along.neutral === -1}
          />
          <Flow
            d={path(GROUND_Y, -12)}
            piece={piece}
            y={GROUND_Y}
            amperes={(flow.amperes.ground ?? 0) + (flow.amperes.raceway ?? 0)}
            back={(flow.along.ground ?? flow.along.raceway) === -1}
            wrong={!supply}
          />
        </>
      ) : null}
    </g>
  );
}

const LEAST_DRAWN_A = 0.05;

/** Current along a rail: marks that move with it, as wide as it is large, and its amperes. */
function Flow({
  d,
  piece,
  y,
  amperes,
  back,
  wrong = false,
}: {
  d: string;
  piece: Piece;
  y: number;
  amperes: number;
  back: boolean;
  wrong?: boolean;
}) {
  if (amperes < LEAST_DRAWN_A) return null;
  const colour = wrong ? "var(--fix)" : "var(--ink)";
  const middle = (piece.from.x + piece.to.x) / 2;
  const straight = piece.from.y === piece.to.y;
  return (
    <g data-flow={wrong ? "metal" : "neutral"}>
      <path
        d={d}
        fill="none"
        stroke={colour}
        strokeWidth={Math.min(7, 1.6 + 1.6 * Math.log10(1 + amperes))}
        strokeDasharray="6 10"
        className={back ? "flow-back" : "flow-along"}
      />
      <text
        x={straight ? middle : piece.to.x - HALF - 6}
        y={piece.to.y + y - 7}
        textAnchor={straight ? "middle" : "end"}
        className="narrow"
        fontSize={11}
        fontWeight={700}
        fill={colour}
        stroke="none"
      >
        {shownAmperes(amperes)}
      </text>
    </g>
  );
}

function shownAmperes(value: number): string {
  return `${value < 10 ? value.toFixed(2) : value.toFixed(value < 100 ? 1 : 0)} A`;
}

function Box({
  site,
  stop,
  answer,
  flow,
  bonds,
  onToggle,
  joined,
  selected,
}: {
  site: Document;
  stop: Stop;
  answer: Enclosure | undefined;
  flow: Schemas["StudyOut"] | null;
  bonds: Record<string, boolean>;
  onToggle?: (bondId: string, made: boolean) => void;
  /** Joined to the metal in the position played, by a relay too. */
  joined: boolean;
  selected: boolean;
}) {
  const enclosure = find(site.enclosures, stop.id);
  const name = enclosure?.name || find(site.sources, stop.id)?.name || stop.id;
  return (
    <>
      {wrap(name, 100, 12.5, true, 2).map((line, at, lines) => (
        <text
          key={at}
          y={BOX_TOP - 22 - (lines.length - 1 - at) * 13}
          textAnchor="middle"
          className="narrow"
          fontSize={12.5}
          fontWeight={700}
          fill="var(--ink)"
        >
          {line}
        </text>
      ))}
      <rect
        x={-HALF}
        y={BOX_TOP}
        width={2 * HALF}
        height={BOX_BOTTOM - BOX_TOP}
        rx={enclosure ? 3 : 14}
        fill={enclosure ? "var(--metal)" : "var(--sheet)"}
        stroke={selected ? "var(--copper)" : "var(--ink)"}
        strokeWidth={selected ? 3 : 1.1}
      />
      <NeutralThrough site={site} id={stop.id} answer={answer} />
      {enclosure ? <path d={`M${-HALF} ${GROUND_Y} H${HALF}`} stroke="var(--ground)" strokeWidth={5} /> : null}
      {answer ? (
        <PlayedRung
          site={site}
          id={stop.id}
          answer={answer}
          joined={joined}
          bonds={bonds}
          flow={flow}
          onToggle={onToggle}
        />
      ) : null}
      <MetalVolts volts={flow?.boxes.find((box) => box.id === stop.id)?.metal ?? null} />
      {answer ? (
        <text
          y={BOX_TOP - 7}
          textAnchor="middle"
          className="narrow"
          fontSize={11.5}
          fontWeight={answer.wrong ? 700 : 400}
          fill={answer.wrong ? "var(--fix)" : "var(--ink)"}
        >
          {SHORT_DECISION_WORDS[answer.decision]}
        </text>
      ) : null}
      <Earth site={site} id={stop.id} />
    </>
  );
}

/** The neutral goes through a box; gear that opens it parts the rail there. */
function NeutralThrough({ site, id, answer }: { site: Document; id: string; answer: Enclosure | undefined }) {
  if (answer?.found === "no_neutral") return null;
  const gear = (site.transfers ?? []).find((item) => item.enclosure_id === id);
  const source = (site.sources ?? []).find((item) => item.enclosure_id === id);
  const apart = gear?.switches_neutral === true || source?.neutral_path === "opens";
  const line = apart ? `M${-HALF} ${NEUTRAL_Y} H4 M22 ${NEUTRAL_Y} H${HALF}` : `M${-HALF} ${NEUTRAL_Y} H${HALF}`;
  return (
    <g fill="none">
      <path d={line} stroke="var(--neutral-edge)" strokeWidth={7} />
      <path d={line} stroke="var(--neutral)" strokeWidth={5} />
      {apart ? <path d={`M4 ${NEUTRAL_Y} L20 ${NEUTRAL_Y - 9}`} stroke="var(--ink)" strokeWidth={2} /> : null}
    </g>
  );
}

function hasRelay(site: Document, id: string): boolean {
  const source = (site.sources ?? []).find((item) => item.enclosure_id === id);
  return source?.relay === "closes_when_islanded" || source?.relay === "always_closed";
}

/** The rung of a box; where bonds are played with, it is pressed to make or open the bond, and shows its current. */
function PlayedRung({
  site,
  id,
  answer,
  joined,
  bonds,
  flow,
  onToggle,
}: {
  site: Document;
  id: string;
  answer: Enclosure;
  joined: boolean;
  bonds: Record<string, boolean>;
  flow: Schemas["StudyOut"] | null;
  onToggle?: (bondId: string, made: boolean) => void;
}) {
  const bond = (site.bonds ?? []).find((item) => item.enclosure_id === id);
  const played = bond ? bonds[bond.id] : undefined;
  const shown =
    played === undefined
      ? answer
      : { ...answer, found: played ? ("bonded" as const) : ("apart" as const), wrong: false };
  const rung = <Rung answer={shown} joined={joined && played === undefined} relay={hasRelay(site, id)} />;
  const amperes = (flow?.bonds ?? []).filter((item) => item.place === id).reduce((sum, item) => sum + item.amperes, 0);
  if (!onToggle || !bond) return rung;
  const isMade = shown.found === "bonded";
  const toggle = () => onToggle(bond.id, !isMade);
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={isMade}
      aria-label={`Bond at ${answer.name}${amperes >= LEAST_DRAWN_A ? `, ${shownAmperes(amperes)}` : ""}`}
      className="cursor-pointer"
      onClick={(event) => {
        event.stopPropagation();
        toggle();
      }}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        toggle();
      }}
    >
      <rect x={RUNG_X - 12} y={NEUTRAL_Y} width={24} height={GROUND_Y - NEUTRAL_Y} fill="transparent" />
      {rung}
      {amperes >= LEAST_DRAWN_A ? (
        <text
          x={RUNG_X + 8}
          y={(NEUTRAL_Y + GROUND_Y) / 2 + 4}
          className="narrow"
          fontSize={11}
          fontWeight={700}
          fill="var(--ink)"
        >
          {shownAmperes(amperes)}
        </text>
      ) : null}
    </g>
  );
}

const TOUCH_V = 30;

/** What the metal of a box stands at against earth, where it is worth telling. */
function MetalVolts({ volts }: { volts: number | null }) {
  if (volts === null || volts < 0.1) return null;
  return (
    <text
      x={-HALF}
      y={BOX_BOTTOM + 14}
      className="narrow"
      fontSize={11.5}
      fontWeight={700}
      fill={volts >= TOUCH_V ? "var(--fix)" : "var(--ink)"}
    >
      {volts.toFixed(volts < 10 ? 1 : 0)} V
    </text>
  );
}

/** The bond of a box, or the relay that makes it: closed, open, or not known; a square on it where it is not as it must be. */
function Rung({ answer, joined, relay }: { answer: Enclosure; joined: boolean; relay: boolean }) {
  const found = joined ? "bonded" : relay && answer.found === "apart" ? "relay" : answer.found;
  const colour = answer.wrong ? "var(--fix)" : answer.found === "unknown" ? "var(--tell)" : "var(--ink)";
  const top = NEUTRAL_Y + 3;
  const bottom = GROUND_Y - 3;
  if (answer.found === "no_neutral") return null;
  return (
    <g transform={`translate(${RUNG_X} 0)`} stroke={colour} strokeWidth={4} fill="none" data-rung={found}>
      {found === "bonded" ? <path d={`M0 ${top} V${bottom}`} /> : null}
      {found === "relay" ? (
        <path d={`M0 ${top} V${top + 12} L9 ${bottom - 12} M0 ${bottom - 10} V${bottom}`} strokeWidth={2.4} />
      ) : null}
      {found === "unknown" ? <path d={`M0 ${top} V${bottom}`} strokeDasharray="4 4" /> : null}
      {found === "apart" ? <path d={`M0 ${top} V${top + 10} M0 ${bottom} V${bottom - 10}`} strokeWidth={2.4} /> : null}
      {answer.wrong ? (
        <rect x={-6} y={(top + bottom) / 2 - 6} width={12} height={12} fill={colour} stroke="none" />
      ) : null}
      {found === "unknown" ? (
        <text x={10} y={(top + bottom) / 2 + 5} fontSize={14} fontWeight={700} fill={colour} stroke="none">
          ?
        </text>
      ) : null}
    </g>
  );
}

/** The electrodes of a box, on the rail of the bar that they land on. */
function Earth({ site, id }: { site: Document; id: string }) {
  const bars = (site.bars ?? []).filter((item) => item.enclosure_id === id);
  const landing = new Map(bars.map((item) => [item.id, item.kind]));
  const own = (site.electrodes ?? []).filter(
    (item) => item.connects_to && (item.connects_to === id || landing.has(item.connects_to)),
  );
  if (own.length === 0) return null;
  const onNeutral = own.some((item) => landing.get(item.connects_to ?? "") === "neutral");
  const start = onNeutral ? NEUTRAL_Y : GROUND_Y;
  const kinds = [...new Set(own.map((item) => item.kind))];
  const words = `${own.length} ${kinds.length === 1 ? word(kinds[0] ?? "").toLowerCase() : "electrode"}${own.length > 1 ? "s" : ""}`;
  return (
    <g>
      <circle cx={EARTH_X} cy={start} r={3.4} fill="var(--ink)" />
      <path
        d={`M${EARTH_X} ${start} V${BOX_BOTTOM + 12} M${EARTH_X - 9} ${BOX_BOTTOM + 12} h18 m-15 4 h12 m-9 4 h6`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.6}
      />
      <text x={EARTH_X} y={BOX_BOTTOM + 33} textAnchor="middle" className="narrow" fontSize={11} fill="var(--soft)">
        {words}
      </text>
    </g>
  );
}
