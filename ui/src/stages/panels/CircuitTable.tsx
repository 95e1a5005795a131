/** The schedule as a table: the same as the drawing, for screen readers, keys and a phone. */
import type { PanelCircuit, Schedule } from "../../core/panel";

export function CircuitTable({ schedule, onChoose }: { schedule: Schedule; onChoose: (id: string) => void }) {
  return (
    <details className="mt-2">
      <summary className="narrow cursor-pointer text-soft">The same as a table</summary>
      <table aria-label="Circuits" className="mt-1 w-full text-left">
        <thead>
          <tr className="border-b border-ink">
            {["Space", "Serves", "Poles", "A", "Legs", "Load, A", "Wire", ""].map((title) => (
              <th key={title} scope="col" className="pr-2 font-semibold">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {schedule.circuits.map((item) => (
            <tr key={item.device_id} className="border-b border-rule" data-row={item.device_id}>
              <td className="pr-2">{spacesOf(item)}</td>
              <th scope="row" dir="auto" className="pr-2 font-normal">
                <button type="button" className="text-left hover:text-copper" onClick={() => onChoose(item.device_id)}>
                  {item.name || "–"}
                </button>
              </th>
              <td className="pr-2">{item.poles}</td>
              <td className="pr-2">{item.rating_a ?? "?"}</td>
              <td className="pr-2">{item.legs.join(" ")}</td>
              <td className="pr-2">{item.poles_a.length > 0 ? item.poles_a.join(" / ") : item.gap ? "?" : ""}</td>
              <td className="pr-2">{item.wire}</td>
              <td>{standingWord(item)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

export function spacesOf(item: PanelCircuit): string {
  return (
    item.spots.map((spot) => `${spot.space}${spot.half ? (spot.half === "first" ? "a" : "b") : ""}`).join(", ") || "?"
  );
}

export function standingWord(item: PanelCircuit): string {
  if (item.role === "spare") return "spare";
  return item.state === "added" ? "new" : "";
}
