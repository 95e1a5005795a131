/** What is inside a box as it is drawn on the path: main or lugs, legs, bars, gear, a set, coils, the pins of an inlet. */
import type { Schemas } from "../../api/client";
import { useSite } from "../../core/context";
import { formsNeutral } from "../../core/fitOut";
import type { Enclosure } from "../../core/document";
import { BOX_HEIGHT, BOX_WIDTH } from "./layout";

export interface InsideProps {
  enclosure: Enclosure;
  answer: Schemas["EnclosureOut"] | undefined;
  legs: number;
  /** The throws that are closed in the position played; null where none is played. */
  closed: string[] | null;
}

/** How many blades of a box of switches are drawn. */
const MOST_BLADES = 12;
const LEFT = -BOX_WIDTH / 2;
const TOP = -BOX_HEIGHT / 2;
const LEG_COLOURS = ["var(--hot-1)", "var(--hot-2)", "var(--hot-3)"];

export function BoxInside(props: InsideProps) {
  switch (props.enclosure.kind) {
    case "meter":
      return <Meter {...props} />;
    case "generator":
      return <Generator {...props} />;
    case "transfer_switch":
      return <Gear {...props} />;
    case "switch_box":
      return <SwitchBox {...props} />;
    case "inverter":
      return <Inverter {...props} />;
    case "inlet":
      return <Pins />;
    case "transformer":
      return <Transformer {...props} />;
    default:
      return <Panel {...props} />;
  }
}

function useParts({ enclosure }: InsideProps) {
  const site = useSite("bars", "devices");
  const own = (item: { enclosure_id?: string | null }) => item.enclosure_id === enclosure.id;
  const bars = (site.bars ?? []).filter(own);
  const devices = (site.devices ?? []).filter(own);
  return {
    main: devices.find((item) => item.role === "main"),
    others: devices.filter((item) => item.role !== "main"),
    neutral: bars.find((item) => item.kind === "neutral"),
    ground: bars.find((item) => item.kind === "ground"),
  };
}

function Meter(props: InsideProps) {
  const { neutral } = useParts(props);
  return (
    <>
      <circle r={15} cy={-12} fill="var(--sheet)" stroke="var(--ink)" />
      <path d="M-8 -12 H8 M0 -20 V-4" stroke="var(--soft)" strokeWidth={1} />
      {neutral ? <NeutralBar x={-20} y={12} height={20} insulated={neutral.insulated ?? null} /> : null}
      <Link answer={props.answer} from={-16} to={20} y={34} />
    </>
  );
}

/** The gear in a box, and which of its sides its blade lies on: -1, 1, or 0 for neither. Breakers on a bus come first. */
function useGear({ enclosure, closed }: InsideProps) {
  const site = useSite("transfers", "throws", "buses");
  const gear = (site.transfers ?? []).find((item) => item.enclosure_id === enclosure.id);
  const buses = new Set((site.buses ?? []).map((bus) => bus.id));
  const throws = (site.throws ?? [])
    .filter((item) => item.transfer_id === gear?.id)
    .sort((one, other) => Number(buses.has(other.part)) - Number(buses.has(one.part)));
  const at = closed ? throws.findIndex((item) => closed.includes(item.id)) : 0;
  return { gear, side: [-1, 1][at] ?? 0 };
}

function Panel(props: InsideProps) {
  const { legs, answer } = props;
  const { main, others, neutral, ground } = useParts(props);
  const { gear, side } = useGear(props);
  return (
    <>
      {gear ? <SmallGear side={side} /> : main ? <MainSwitch open={main.kind === "switch"} /> : <Lugs />}
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
      {others.slice(0, 5).map((device, at) => (
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
      {ground ? <GroundBar /> : null}
      <Link answer={answer} from={LEFT + 9.5} to={-LEFT - 9.5} y={TOP + 72} />
    </>
  );
}

/** A set: the machine, its own breaker, and what joins its neutral to its frame. */
function Generator(props: InsideProps) {
  const { main, ground } = useParts(props);
  return (
    <>
      {main ? <MainSwitch open={main.kind === "switch"} /> : null}
      <circle r={14} cy={-4} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.3} />
      <path d="M-8 -4 q4 -9 8 0 q4 9 8 0" fill="none" stroke="var(--ink)" strokeWidth={1.6} />
      <NeutralBar x={LEFT + 7} y={TOP + 30} height={32} insulated={null} />
      {ground ? <GroundBar /> : null}
      <Link answer={props.answer} from={LEFT + 9.5} to={-LEFT - 9.5} y={TOP + 72} />
    </>
  );
}

/** An inverter: direct current on one side, alternating on the other. */
function Inverter(props: InsideProps) {
  const { neutral, ground } = useParts(props);
  return (
    <>
      <rect x={-15} y={TOP + 16} width={30} height={30} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.3} />
      <path d={`M-15 ${TOP + 46} L15 ${TOP + 16}`} stroke="var(--ink)" strokeWidth={1} />
      <path d={`M-11 ${TOP + 22} h9 m-9 4 h9`} stroke="var(--ink)" strokeWidth={1.4} />
      <path d={`M2 ${TOP + 38} q2.5 -6 5 0 q2.5 6 5 0`} fill="none" stroke="var(--ink)" strokeWidth={1.4} />
      {neutral ? <NeutralBar x={LEFT + 7} y={TOP + 22} height={40} insulated={neutral.insulated ?? null} /> : null}
      {ground ? <GroundBar /> : null}
      <Link answer={props.answer} from={LEFT + 9.5} to={-LEFT - 9.5} y={TOP + 72} />
    </>
  );
}

/** Transfer gear: a blade that joins the load to one side or the other; a second one where the neutral goes with it. */
function Gear(props: InsideProps) {
  const { main, neutral, ground } = useParts(props);
  const { gear, side } = useGear(props);
  const sides = [-9, 9];
  const tip = 9 * side;
  return (
    <>
      {main ? <MainSwitch open={main.kind === "switch"} /> : <Lugs />}
      {sides.map((x) => (
        <circle key={x} cx={x} cy={TOP + 28} r={2.6} fill="none" stroke="var(--ink)" />
      ))}
      <path d={`M0 ${TOP + 56} L${tip} ${TOP + 31}`} stroke="var(--ink)" strokeWidth={2.4} fill="none" />
      {gear?.switches_neutral ? (
        <path
          d={`M4 ${TOP + 56} L${tip + 4} ${TOP + 33}`}
          stroke="var(--neutral-edge)"
          strokeWidth={1.4}
          strokeDasharray="3 2"
          fill="none"
        />
      ) : null}
      <circle cx={0} cy={TOP + 58} r={2.6} fill="var(--ink)" />
      {neutral ? <NeutralBar x={LEFT + 7} y={TOP + 22} height={40} insulated={neutral.insulated ?? null} /> : null}
      {ground ? <GroundBar /> : null}
      <Link answer={props.answer} from={LEFT + 9.5} to={-LEFT - 9.5} y={TOP + 72} />
    </>
  );
}

/** A box of switches: one blade for each pole, on its circuit's breaker or on the set; faint where it moves nothing. */
function SwitchBox(props: InsideProps) {
  const { neutral, ground } = useParts(props);
  const { gear, side } = useGear(props);
  const { circuit_switches = [] } = useSite("circuit_switches");
  const switches = circuit_switches.filter((item) => item.transfer_id === gear?.id).slice(0, MOST_BLADES);
  const step = Math.min(9, 56 / Math.max(switches.length, 1));
  return (
    <>
      {switches.map((item, at) => {
        const y = TOP + 12 + at * step;
        const tied = switches.findIndex((other) => other.id === item.tied_to);
        return (
          <g key={item.id} stroke="var(--ink)" fill="none" opacity={item.device_id ? 1 : 0.35}>
            <path d={`M-14 ${y} h3 M11 ${y} h3`} strokeWidth={1.2} />
            <path d={`M0 ${y} L${11 * side} ${y - step * 0.3}`} strokeWidth={1.8} />
            <circle cx={0} cy={y} r={1.7} fill="var(--ink)" stroke="none" />
            {tied < 0 ? null : (
              <path d={`M-4 ${y} V${TOP + 12 + tied * step}`} strokeWidth={1} strokeDasharray="2 1.5" />
            )}
          </g>
        );
      })}
      {neutral ? <NeutralBar x={LEFT + 7} y={TOP + 22} height={40} insulated={neutral.insulated ?? null} /> : null}
      {ground ? <GroundBar /> : null}
      <Link answer={props.answer} from={LEFT + 9.5} to={-LEFT - 9.5} y={TOP + 72} />
    </>
  );
}

/** A transformer: two coils with the core between, or one coil that both sides share, with what leaves its middle. */
function Transformer(props: InsideProps) {
  const { bars, transformers } = useSite("bars", "transformers");
  const { neutral, ground } = useParts(props);
  const own = transformers?.find((item) => item.enclosure_id === props.enclosure.id);
  const shared = own?.isolating === false || (own !== undefined && formsNeutral({ bars }, own));
  return (
    <>
      {(shared ? [-3] : [-13, 13]).map((x) => (
        <path
          key={x}
          d={`M${x} ${TOP + 16}${` q${x > 0 ? -11 : 11} 5.5 0 11`.repeat(4)}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.8}
        />
      ))}
      {shared ? (
        <path d={`M-3 ${TOP + 38} H-14`} fill="none" stroke="var(--neutral-edge)" strokeWidth={1.8} />
      ) : (
        <path d={`M-1.5 ${TOP + 16} v44 M1.5 ${TOP + 16} v44`} stroke="var(--ink)" strokeWidth={1} />
      )}
      {neutral ? <NeutralBar x={LEFT + 7} y={TOP + 22} height={40} insulated={neutral.insulated ?? null} /> : null}
      {ground ? <GroundBar /> : null}
      <Link answer={props.answer} from={LEFT + 9.5} to={-LEFT - 9.5} y={TOP + 72} />
    </>
  );
}

/** The pins of an inlet: the cord's side. */
function Pins() {
  return (
    <>
      <circle r={17} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.3} />
      {[45, 135, 225, 315].map((turn) => (
        <path key={turn} d="M0 -12 V-6" transform={`rotate(${turn})`} stroke="var(--ink)" strokeWidth={3} />
      ))}
    </>
  );
}

function MainSwitch({ open }: { open: boolean }) {
  return (
    <g transform={`translate(0 ${TOP + 11})`}>
      <rect x={-11} y={-6} width={22} height={12} rx={1.5} fill="var(--sheet)" stroke="var(--ink)" />
      <path d={open ? "M-6 2 L5 -4" : "M-6 0 H6"} stroke="var(--ink)" strokeWidth={2} />
    </g>
  );
}

/** Gear at the head of a panel, whose circuits it moves together. */
function SmallGear({ side }: { side: number }) {
  return (
    <g transform={`translate(0 ${TOP + 11})`} fill="none" stroke="var(--ink)">
      <circle cx={-8} cy={-4} r={2.6} />
      <circle cx={8} cy={-4} r={2.6} />
      <path d={`M0 7 L${side * 7} -2`} strokeWidth={2.2} />
      <circle cy={7} r={2} fill="var(--ink)" />
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

function GroundBar() {
  return <rect x={-LEFT - 12} y={TOP + 22} width={5} height={40} fill="var(--ground)" />;
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
function Link({ answer, from, to, y }: { answer: InsideProps["answer"]; from: number; to: number; y: number }) {
  const found = answer?.found ?? "unknown";
  const wrong = answer?.wrong ?? false;
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
