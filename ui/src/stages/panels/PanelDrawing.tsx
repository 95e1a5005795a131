/** The panel as it hangs: the bus in the middle with its legs, the breakers at its sides in their true spaces. */
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { useWork } from "../../core/context";
import { find, type Document } from "../../core/document";
import { place, spaceOf, spotsFrom, wordsOf, type PanelCircuit, type Schedule, type Spot } from "../../core/panel";
import { cell, side } from "./geometry";
import { Breaker, Bus, PanelEnd } from "./PanelParts";
import { useLifting } from "./useLifting";

interface DrawingProps {
  schedule: Schedule;
  chosen: string | null;
  onChoose: (id: string | null) => void;
}

interface Carried {
  circuit: PanelCircuit;
  over: Spot;
  byKey: boolean;
}

const STEPS: Record<string, [column: number, row: number]> = {
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
};

export function PanelDrawing({ schedule, chosen, onChoose }: DrawingProps) {
  const { document, site, report, state, act, remove, mayWrite } = useWork(
    "document",
    "site",
    "report",
    "state",
    "act",
    "remove",
    "mayWrite",
  );
  const wires = site.circuits ?? [];
  const busRating = find(site.buses, schedule.bus_id)?.rating_a ?? null;
  const [at, setAt] = useState<number>(schedule.spaces[0]?.number ?? 1);
  const [carried, carry] = useState<Carried | null>(null);
  const [told, tell] = useState<string | null>(null);
  const frame = useRef<HTMLDivElement>(null);
  const lifting = useLifting(frame);

  const standing = (space: number) =>
    schedule.circuits.find((item) => item.spots.some((spot) => spot.space === space)) ?? null;
  const drop = ({ circuit, over }: Carried) => {
    carry(null);
    if (circuit.spots[0]?.space === over.space && circuit.spots[0].half === over.half) return;
    const result = place(document, state, schedule, circuit, over);
    if ("refused" in result) tell(result.refused);
    else {
      tell(null);
      act(result.label, result.operations);
      setAt(over.space);
    }
  };
  const focusOn = (space: number) => frame.current?.querySelector<HTMLElement>(`[data-at="${space}"]`)?.focus();
  const step = (from: number, key: string): number => {
    const here = spaceOf(schedule, from);
    const [column, row] = STEPS[key] ?? [0, 0];
    const own = standing(from);
    const rows = own && !carried ? own.spots.map((spot) => spaceOf(schedule, spot.space)?.row ?? 0) : [here?.row ?? 0];
    const edge = row > 0 ? Math.max(...rows) : Math.min(...rows);
    const next = schedule.spaces.find(
      (item) =>
        item.column === (here?.column ?? 0) + column && item.row === (row === 0 ? (here?.row ?? 0) : edge + row),
    );
    const there = next && !carried ? (standing(next.number)?.spots[0]?.space ?? next.number) : next?.number;
    return there ?? from;
  };
  const onKey = (event: KeyboardEvent, space: number) => {
    const circuit = standing(space);
    if (STEPS[event.key]) {
      event.preventDefault();
      if (carried) carry({ ...carried, over: { ...carried.over, space: step(carried.over.space, event.key) } });
      else focusOn(step(space, event.key));
    } else if (event.key === "Escape" && carried) carry(null);
    else if (event.key === "Enter" && carried) {
      event.preventDefault();
      drop(carried);
    } else if (event.key === "m" && circuit && mayWrite)
      carry({ circuit, over: { space, half: halfOf(circuit) }, byKey: true });
    else if (event.key === "Delete" && circuit) remove(`Take out ${wordsOf(circuit)}`, "devices", circuit.device_id);
  };
  const onMove = (event: PointerEvent) => {
    const circuit = lifting.lifted(event);
    const spot = circuit && spotUnder(event.clientX, event.clientY);
    if (circuit && spot !== null) carry({ circuit, over: { space: spot, half: halfOf(circuit) }, byKey: false });
  };
  const worstOn = (item: PanelCircuit) => {
    const own = new Set([
      item.device_id,
      ...wires.filter((wire) => wire.device_id === item.device_id).map((w) => w.id),
    ]);
    const found = report?.findings.find((finding) => own.has(finding.id) || item.loads.includes(finding.id));
    return found?.outcome ?? null;
  };
  const gone = state === "proposed" ? takenOut(document, schedule) : new Map<number, string>();
  const ghost = carried ? spotsFrom(schedule, carried.circuit.poles, carried.over).map((spot) => spot.space) : [];
  return (
    <>
      <div
        ref={frame}
        data-drawing={schedule.bus_id}
        className="mx-auto w-full max-w-3xl border-2 border-ink bg-sheet select-none"
        onPointerMove={onMove}
        onPointerUp={() => {
          lifting.end();
          if (carried && !carried.byKey) drop(carried);
        }}
        onPointerCancel={() => {
          lifting.end();
          if (carried && !carried.byKey) carry(null);
        }}
      >
        <PanelEnd schedule={schedule} end="top" />
        <div
          className="grid border-y border-rule"
          style={{
            gridTemplateColumns: schedule.columns === 1 ? "2.6rem minmax(0,1fr)" : "minmax(0,1fr) 2.6rem minmax(0,1fr)",
            gridTemplateRows: `repeat(${schedule.rows * 2}, minmax(0, calc(var(--row) / 2)))`,
            ["--row" as string]: `clamp(1.35rem, calc((100vh - 17.5rem) / ${schedule.rows}), 2.1rem)`,
          }}
        >
          <Bus schedule={schedule} />
          {schedule.spaces
            .filter((space) => standing(space.number) === null)
            .map((space) => (
              <button
                key={space.number}
                type="button"
                data-space={space.number}
                data-at={space.number}
                tabIndex={space.number === at ? 0 : -1}
                aria-label={`Space ${space.number}, free, ${space.leg ?? "leg not known"}${gone.has(space.number) ? `, ${gone.get(space.number)} is taken out` : ""}`}
                className={`flex items-center border-b border-dotted border-rule px-1 text-soft outline-offset-[-2px] ${side(space.column, schedule) === "left" ? "flex-row" : "flex-row-reverse"} ${ghost.includes(space.number) ? "bg-touched" : ""}`}
                style={cell(schedule, space.column, space.row * 2, 2)}
                onFocus={() => setAt(space.number)}
                onClick={() => onChoose(null)}
                onKeyDown={(event) => onKey(event, space.number)}
              >
                <span dir="auto" className="narrow min-w-0 flex-1 truncate px-1 text-left line-through">
                  {gone.get(space.number)}
                </span>
                <span className="w-6 text-center text-xs">{space.number}</span>
              </button>
            ))}
          {schedule.circuits
            .filter((item) => item.spots.length > 0)
            .map((item) => (
              <Breaker
                key={item.device_id}
                schedule={schedule}
                circuit={item}
                chosen={item.device_id === chosen}
                outcome={worstOn(item)}
                over={
                  ghost.some((space) => item.spots.some((spot) => spot.space === space)) && carried?.circuit !== item
                }
                current={item.spots.some((spot) => spot.space === at)}
                onFocus={() => setAt(item.spots[0]?.space ?? at)}
                onChoose={() => onChoose(item.device_id)}
                onKeyDown={(event) => onKey(event, item.spots[0]?.space ?? 1)}
                onPointerDown={(event) => {
                  const space = item.spots[0]?.space;
                  if (!mayWrite || event.button !== 0 || space === undefined) return;
                  lifting.begin(event, item, () =>
                    carry({ circuit: item, over: { space, half: halfOf(item) }, byKey: false }),
                  );
                }}
              />
            ))}
        </div>
        <PanelEnd schedule={schedule} end="bottom" />
      </div>
      <p className="narrow mx-auto w-full max-w-3xl text-soft" role="status" data-told>
        {carried
          ? `${wordsOf(carried.circuit)} to space ${carried.over.space}: ${carried.byKey ? "arrows choose, Enter puts it there, Esc leaves it." : "let go to put it there."}`
          : "Drag a breaker to another space (a finger rests on it first), or press m on it; Enter opens its sheet."}
      </p>
      {schedule.along_bus.length > 0 ? (
        <p
          className="narrow mx-auto w-full max-w-3xl text-soft"
          data-along-bus={Math.max(...schedule.along_bus).toFixed(0)}
        >
          Worst current along the bus {Math.max(...schedule.along_bus).toFixed(0)} A
          {busRating === null ? "" : ` of ${busRating} A`}, for the breakers as they stand.
        </p>
      ) : null}
      {told ? (
        <p role="alert" className="mx-auto w-full max-w-3xl text-fix" data-refused>
          {told}
        </p>
      ) : null}
    </>
  );
}

const halfOf = (circuit: PanelCircuit) => (circuit.spots[0]?.half ?? null) as Spot["half"];

/** What stands in each space now and goes with the proposal; its space is free then, and to be closed. */
function takenOut(document: Document, schedule: Schedule): Map<number, string> {
  const found = new Map<number, string>();
  for (const device of document.devices ?? []) {
    if (device.bus_id !== schedule.bus_id || device.standing !== "removed" || typeof device.space !== "number")
      continue;
    const first = { space: device.space, half: device.half };
    for (const spot of spotsFrom(schedule, device.poles, first)) found.set(spot.space, device.name || "a breaker");
  }
  return found;
}

function spotUnder(x: number, y: number): number | null {
  const found = window.document.elementsFromPoint(x, y).find((item) => item.hasAttribute("data-space"));
  if (!found) return null;
  const first = Number(found.getAttribute("data-space"));
  const rows = Number(found.getAttribute("data-rows") ?? 1);
  if (rows === 1) return first;
  const box = found.getBoundingClientRect();
  const spaces = (found.getAttribute("data-spaces") ?? String(first)).split(" ").map(Number);
  return spaces[Math.min(rows - 1, Math.floor(((y - box.top) / box.height) * rows))] ?? first;
}
