/** Where a space of a panel is drawn: its side of the bus, and its cell in the grid, two half rows to a space. */
import type { Schedule } from "../../core/panel";

export function side(column: number, schedule: Schedule): "left" | "right" {
  return schedule.columns > 1 && column === 0 ? "left" : "right";
}

export function cell(schedule: Schedule, column: number, halfRow: number, span: number) {
  const gridColumn = schedule.columns === 1 ? 2 : column === 0 ? 1 : 3;
  return { gridColumn, gridRow: `${halfRow + 1} / span ${span}` };
}
