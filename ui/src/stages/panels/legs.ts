/** The colour of a leg, the same as on the path, the first one lighter where the ground is dark. */
import type { Schedule } from "../../core/panel";

const COLOURS = ["var(--leg-1)", "var(--hot-2)", "var(--hot-3)"];

export function legColour(schedule: Schedule, leg: string | null): string {
  return COLOURS[leg === null ? -1 : schedule.legs.indexOf(leg)] ?? "var(--rule)";
}
