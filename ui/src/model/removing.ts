/** Taking a thing out with all that cannot be without it. */
import { find, listOf, type Document, type ListName, type State, type Thing } from "./document";
import type { Operation } from "./operations";

const REFERRING: [ListName, string[]][] = [
  ["devices", ["enclosure_id"]],
  ["lugs", ["enclosure_id"]],
  ["bars", ["enclosure_id"]],
  ["bonds", ["enclosure_id", "part_a", "part_b"]],
  ["runs", ["from_part", "to_part"]],
  ["conductors", ["run_id", "from_part", "to_part"]],
  ["electrodes", ["connects_to"]],
  ["loads", ["enclosure_id", "dwelling_unit_id"]],
  ["transfers", ["enclosure_id", "normal_part", "standby_part", "load_part"]],
  ["transformers", ["enclosure_id", "primary_part", "secondary_part"]],
  ["taps", ["run_id", "tap_run_id"]],
  ["stretches", ["run_id"]],
  ["pulls", ["box_id", "run_id"]],
  ["measurements", ["enclosure_id"]],
  ["field_records", ["thing_id"]],
];

/** Remove a thing and what cannot be without it. What stands is marked as removed; what was only proposed is deleted. */
export function remove(document: Document, state: State, list: ListName, id: string): Operation[] {
  const gone = new Set([id]);
  const found: [ListName, Thing][] = [];
  const first = find(listOf(document, list), id);
  if (first) found.push([list, first]);
  for (let grew = true; grew;) {
    grew = false;
    for (const [name, fields] of REFERRING)
      for (const thing of listOf(document, name)) {
        const record = thing as unknown as Record<string, unknown>;
        if (gone.has(thing.id) || !fields.some((field) => gone.has(String(record[field])))) continue;
        gone.add(thing.id);
        found.push([name, thing]);
        grew = true;
      }
  }
  return found
    .reverse()
    .map(([name, thing]) =>
      thing.standing === "added" || state === "existing"
        ? { op: "delete", list: name, id: thing.id }
        : { op: "put", list: name, id: thing.id, field: "standing", value: "removed", proposed: false },
    );
}
