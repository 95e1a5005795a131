/** Refitting what stands: an enclosure taken out with those behind it fed on, a main in place of lugs and back. */
import { feedFrom } from "./building";
import { apply, edit, type Operation } from "./changes";
import { find, owners, resolve, type Document, type ListName, type State } from "./document";
import { Draft, standingIn } from "./draft";
import { feedingRun } from "./feeds";
import { removal } from "./removing";

/** Collects operations, each on the document as those before it leave it. */
class Sequence {
  readonly operations: Operation[] = [];

  constructor(public document: Document) {}

  take(operations: Operation[]): void {
    this.operations.push(...operations);
    this.document = apply(this.document, operations).document;
  }
}

/** Where what an enclosure feeds could be fed from if it goes; null where nothing feeds it or it feeds nothing. */
export function aheadOf(document: Document, state: State, enclosureId: string): string | null {
  const site = resolve(document, state);
  const owner = owners(site);
  const feeding = feedingRun(site, enclosureId);
  const behind = (site.runs ?? []).some((run) => owner.get(run.from_part) === enclosureId);
  return behind && feeding ? (owner.get(feeding.from_part) ?? null) : null;
}

/** Take an enclosure out, and feed what it fed from what fed it. */
export function removeAndJoin(document: Document, state: State, enclosureId: string): Operation[] {
  const ahead = aheadOf(document, state, enclosureId);
  const sequence = new Sequence(document);
  if (ahead !== null) {
    const site = resolve(document, state);
    const owner = owners(site);
    for (const run of site.runs ?? [])
      if (owner.get(run.from_part) === enclosureId) sequence.take(feedFrom(sequence.document, state, run.id, ahead));
  }
  sequence.take(removal(sequence.document, state, "enclosures", enclosureId).operations);
  return sequence.operations;
}

/** Whether the feed of a panel lands on a main or on lugs; null where nothing lands on either. */
export function landsOn(document: Document, state: State, enclosureId: string): "main" | "lugs" | null {
  const site = resolve(document, state);
  const landing = feedingRun(site, enclosureId)?.to_part;
  if (find(site.devices, landing)) return "main";
  return find(site.lugs, landing) ? "lugs" : null;
}

/** Let the feed of a panel land on main lugs in place of its main, or on a main in place of its lugs. */
export function landOn(document: Document, state: State, enclosureId: string, wanted: "main" | "lugs"): Operation[] {
  const site = resolve(document, state);
  const run = feedingRun(site, enclosureId);
  if (!run || landsOn(document, state, enclosureId) === wanted) return [];
  const old = run.to_part;
  const bus = (site.buses ?? []).find((item) => item.enclosure_id === enclosureId);
  const draft = new Draft(document, standingIn(state));
  const hots = (site.conductors ?? []).filter((item) => item.run_id === run.id && item.to_part === old);
  const part =
    wanted === "lugs"
      ? draft.add("lugs", `${enclosureId}-lugs`, { enclosure_id: enclosureId, name: "Main lugs" })
      : draft.add("devices", `${enclosureId}-main`, {
          enclosure_id: enclosureId,
          name: "Main",
          role: "main",
          rating_a: null,
          poles: Math.max(2, hots.length),
        });
  const sequence = new Sequence(document);
  sequence.take(draft.operations);
  const put = (list: ListName, id: string, field: string, value: unknown) =>
    sequence.take(edit(sequence.document, state, list, id, field, value));
  put("runs", run.id, "to_part", part);
  for (const conductor of hots) put("conductors", conductor.id, "to_part", part);
  if (bus) put("buses", bus.id, "fed_by", part);
  sequence.take(removal(sequence.document, state, wanted === "lugs" ? "devices" : "lugs", old).operations);
  return sequence.operations;
}
