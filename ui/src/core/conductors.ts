/** Conductors of a run, brought in and taken out. */
import { owners, resolve, type Conductor, type Document, type Run, type State } from "./document";
import { Draft, standingIn } from "./draft";
import type { Operation } from "./changes";
import { removal } from "./removing";

/** Add a conductor to a run, between the bars or terminals that it belongs on; or take it out. */
export function toggleConductor(document: Document, state: State, run: Run, role: Conductor["role"]): Operation[] {
  const site = resolve(document, state);
  const there = (site.conductors ?? []).find((item) => item.run_id === run.id && item.role === role);
  if (there) return removal(document, state, "conductors", there.id).operations;
  const taken = (document.conductors ?? []).find((item) => item.run_id === run.id && item.role === role);
  if (taken?.standing === "removed")
    return [{ op: "put", list: "conductors", id: taken.id, field: "standing", value: "existing", proposed: false }];
  const owner = owners(site);
  const end = (part: string) => {
    if (role !== "neutral" && role !== "ground") return part;
    const place = owner.get(part) ?? part;
    return (site.bars ?? []).find((item) => item.enclosure_id === place && item.kind === role)?.id ?? place;
  };
  const draft = new Draft(document, standingIn(state));
  const ends = { from_part: end(run.from_part), to_part: end(run.to_part) };
  draft.add("conductors", `${run.id}-${role}`, { run_id: run.id, role, ...ends });
  return draft.operations;
}
