/** The parts that a panel is drawn from: its bus with the legs, its breakers, its ends. */
import type { KeyboardEvent, PointerEvent } from "react";
import { useWork } from "../../core/context";
import { find } from "../../core/document";
import { spaceOf, wordsOf, type PanelCircuit, type Schedule } from "../../core/panel";
import { OUTCOME_WORDS } from "../../core/words";
import { Glyph, type Outcome } from "../../kit/Glyph";
import { cell, side } from "./geometry";
import { standingWord } from "./CircuitTable";
import { legColour } from "./legs";

/** The bus with the leg of each row. */
export function Bus({ schedule }: { schedule: Schedule }) {
  const { site } = useWork("site");
  const rating = find(site.buses, schedule.bus_id)?.rating_a ?? null;
  const most = Math.max(rating ?? 0, ...schedule.along_bus, 1);
  const rows = Array.from({ length: schedule.rows }, (_, row) => schedule.spaces.find((item) => item.row === row));
  return rows.map((space, row) => (
    <span
      key={row}
      className="relative flex items-center justify-center border-x border-rule bg-metal text-xs font-semibold"
      style={{ gridColumn: schedule.columns === 1 ? 1 : 2, gridRow: `${row * 2 + 1} / span 2` }}
      aria-hidden="true"
    >
      <Segment amperes={schedule.along_bus[row]} rating={rating} most={most} />
      <span
        className="relative w-full border-y-2 px-1 text-center leading-none"
        style={{ borderColor: legColour(schedule, space?.leg ?? null) }}
      >
        {space?.leg ?? ""}
      </span>
    </span>
  ));
}

/** The worst current through the bus below a row, as wide as it is strong; above the rating in the colour of a fault. */
function Segment({ amperes, rating, most }: { amperes?: number; rating: number | null; most: number }) {
  if (amperes === undefined) return null;
  const over = rating !== null && amperes > rating;
  return (
    <span
      className={`absolute inset-y-0 left-1/2 -translate-x-1/2 ${over ? "bg-fix/60" : "bg-copper/30"}`}
      style={{ width: `${(amperes / most) * 100}%` }}
      title={`${amperes.toFixed(0)} A at worst`}
      data-segment={amperes.toFixed(0)}
      data-over={over}
    />
  );
}

interface BreakerProps {
  schedule: Schedule;
  circuit: PanelCircuit;
  chosen: boolean;
  over: boolean;
  outcome: Outcome | null;
  current: boolean;
  onFocus: () => void;
  onChoose: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
  onPointerDown: (event: PointerEvent) => void;
}

export function Breaker({ schedule, circuit, chosen, over, outcome, current, ...acts }: BreakerProps) {
  const spaces = circuit.spots.map((spot) => spaceOf(schedule, spot.space)).filter((item) => item !== undefined);
  const top = Math.min(...spaces.map((item) => item.row));
  const column = spaces[0]?.column ?? 0;
  const half = circuit.poles === 1 ? circuit.spots[0]?.half : null;
  const from = top * 2 + (half === "second" ? 1 : 0);
  const span = half ? 1 : spaces.length * 2;
  const left = side(column, schedule) === "left";
  const word = standingWord(circuit);
  const amperes = circuit.poles_a.length > 0 ? `${circuit.poles_a[0] ?? ""} A` : circuit.gap ? "?" : "";
  return (
    <button
      type="button"
      data-space={circuit.spots[0]?.space}
      data-spaces={spaces.map((item) => item.number).join(" ")}
      data-rows={spaces.length}
      data-at={circuit.spots[0]?.space}
      data-circuit={circuit.device_id}
      data-state={circuit.state}
      tabIndex={current ? 0 : -1}
      aria-pressed={chosen}
      aria-label={`Space ${circuit.spots.map((spot) => spot.space).join(", ")}: ${wordsOf(circuit)}, ${circuit.rating_a ?? "unknown"} A, ${circuit.poles} pole, ${circuit.legs.join(" and ")}${word ? `, ${word}` : ""}${circuit.switches.length > 0 ? `, on switch ${circuit.switches.join(" and ")}` : ""}`}
      className={`z-10 flex min-h-0 items-stretch overflow-hidden border-b border-rule text-left outline-offset-[-2px] ${left ? "flex-row" : "flex-row-reverse"} ${chosen || over ? "bg-touched" : "bg-sheet hover:bg-touched/60"}`}
      style={cell(schedule, column, from, span)}
      onFocus={acts.onFocus}
      onClick={acts.onChoose}
      onKeyDown={acts.onKeyDown}
      onPointerDown={acts.onPointerDown}
    >
      <span
        className={`flex min-w-0 flex-1 items-center gap-1.5 px-1.5 leading-tight ${left ? "" : "flex-row-reverse"}`}
      >
        <span dir="auto" className={`min-w-0 truncate ${circuit.role === "spare" ? "text-soft italic" : ""}`}>
          {circuit.name || "–"}
        </span>
        {word && word !== "spare" ? (
          <span className="narrow rounded-sm border border-copper px-0.5 text-xs text-copper">{word}</span>
        ) : null}
        {circuit.switches.length > 0 ? (
          <span
            className="mono rounded-sm border border-rule px-0.5 text-xs"
            title="moved to the set by these switches"
          >
            {circuit.switches.join(" ")}
          </span>
        ) : null}
        {outcome ? (
          <>
            <Glyph outcome={outcome} />
            <span className="sr-only">{OUTCOME_WORDS[outcome]}</span>
          </>
        ) : null}
        <span className="flex-1" />
        <span className="narrow whitespace-nowrap text-soft max-sm:hidden">{amperes}</span>
      </span>
      <span
        className={`flex w-11 shrink-0 items-center max-sm:w-8 justify-center border-x text-sm font-semibold ${circuit.state === "added" ? "border-dashed border-copper" : "border-solid border-ink"} bg-plot`}
      >
        {circuit.rating_a ?? "?"}
      </span>
      <span className="flex w-6 shrink-0 flex-col text-xs">
        {spaces.map((item) => (
          <span key={item.number} className="flex flex-1 items-center justify-center">
            {item.number}
          </span>
        ))}
      </span>
    </button>
  );
}

/** The end of the box at which the main stands, lugs come in, or nothing does. */
export function PanelEnd({ schedule, end }: { schedule: Schedule; end: "top" | "bottom" }) {
  const { site } = useWork("site");
  const bus = find(site.buses, schedule.bus_id);
  const main = find(site.devices, bus?.fed_by);
  const lugs = (site.lugs ?? []).filter((item) => item.enclosure_id === schedule.enclosure_id);
  const mainEnd = bus?.main_end === "bottom" ? "bottom" : "top";
  const words =
    end === mainEnd
      ? main
        ? `${main.name || "Main"} ${main.rating_a ?? "?"} A`
        : lugs.some((item) => !item.feed_through)
          ? "Main lugs"
          : ""
      : lugs.some((item) => item.feed_through)
        ? "Feed-through lugs"
        : "";
  return words ? (
    <p className="flex justify-center bg-metal text-sm font-semibold">
      <span className="border-x border-rule px-4">{words}</span>
    </p>
  ) : null;
}
