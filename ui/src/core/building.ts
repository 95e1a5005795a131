/** Operations that feed something new, tap a run, or feed a thing from elsewhere. No judgement is made here. */
import {
  find,
  freshId,
  listOf,
  owners,
  resolve,
  type Document,
  type ListName,
  type Run,
  type State,
  type Thing,
} from "./document";
import { Draft, standingIn } from "./draft";
import { fitOut, hotsAt, NEW_ENCLOSURES, startOf, type NewKind, type Start } from "./fitOut";
import { edit, insert, type Operation } from "./changes";

/** The first operations of an empty job: a utility source with a meter. */
export function beginAtUtility(
  document: Document,
  state: State,
  system: string,
): { operations: Operation[]; id: string } {
  const draft = new Draft(document, standingIn(state));
  const source = draft.add("sources", "utility", { name: "Utility", kind: "utility", system });
  const sub = feed({ ...document, ...afterInserts(document, draft.operations) }, state, source, "meter");
  return { operations: [...draft.operations, ...sub.operations], id: sub.id };
}

function afterInserts(document: Document, operations: Operation[]): Partial<Document> {
  const lists: Record<string, Thing[]> = {};
  for (const operation of operations)
    if (operation.op === "insert") {
      const list = operation.list as ListName;
      lists[list] = [...(lists[list] ?? listOf(document, list)), operation.thing as unknown as Thing];
    }
  return lists;
}

/** Where something new stands: in the building of what feeds it, in a new one, or in none. */
export type Where = "within" | "another" | "none";

/** Feed a new enclosure from a source or an enclosure. */
export function feed(
  document: Document,
  state: State,
  fromId: string,
  kind: NewKind,
  where: Where = NEW_ENCLOSURES[kind].joins_building ? "within" : "none",
  from?: Start,
): { operations: Operation[]; id: string } {
  const draft = new Draft(document, standingIn(state));
  const site = resolve(document, state);
  const upstream = find(site.enclosures, fromId);
  const entry = NEW_ENCLOSURES[kind];
  const building =
    where === "another"
      ? draft.add("buildings", "other building", {
          name: freshName(document.buildings, "Other building"),
          use: "other",
        })
      : where === "within"
        ? (upstream?.building_id ?? null)
        : null;
  const id = draft.add("enclosures", entry.name, {
    name: freshName(document.enclosures, entry.name),
    kind: entry.kind || kind,
    placement: entry.placement,
    building_id: building,
  });
  const { neutral, ground, landing } = fitOut(site, draft, id, kind, fromId, state === "existing");
  const start = from ?? startOf(site, draft, fromId, entry.name, kind === "section");
  const run = draft.add("runs", `${fromId}-${id}`, {
    name: "",
    from_part: start.hot,
    to_part: landing,
    ...entry.run,
    ...(where === "within" ? entry.run_within : {}),
  });
  for (const role of hotsAt(site, fromId))
    draft.add("conductors", `${run}-${role}`, { run_id: run, role, from_part: start.hot, to_part: landing });
  if (kind !== "transformer")
    draft.add("conductors", `${run}-n`, { run_id: run, role: "neutral", from_part: start.neutral, to_part: neutral });
  if (start.grounded)
    draft.add("conductors", `${run}-g`, { run_id: run, role: "ground", from_part: start.ground, to_part: ground });
  return { operations: draft.operations, id };
}

/** Tap a run halfway: a new panel whose conductors begin at the device of the run. */
export function tapRun(document: Document, state: State, run: Run): { operations: Operation[]; id: string } {
  const site = resolve(document, state);
  const of = (role: string) =>
    (site.conductors ?? []).find((item) => item.run_id === run.id && item.role === role)?.from_part;
  const neutral = of("neutral") ?? run.from_part;
  const ground = of("ground");
  const start = { hot: run.from_part, neutral, ground: ground ?? neutral, grounded: ground !== undefined };
  const fromId = owners(site).get(run.from_part) ?? run.from_part;
  const made = feed(document, state, fromId, "panel", "none", start);
  const added = made.operations.find((item) => item.op === "insert" && item.list === "runs");
  const tapRunId = added?.op === "insert" ? String(added.thing.id) : "";
  const tap = {
    id: freshId(document, `tap ${run.id}`),
    standing: standingIn(state),
    run_id: run.id,
    tap_run_id: tapRunId,
    at_ft: run.length_ft ? Math.round(run.length_ft / 2) : null,
  };
  return { operations: [...made.operations, insert("taps", tap)], id: tapRunId };
}

function freshName(things: readonly { name?: string }[] | undefined, wish: string): string {
  const taken = new Set((things ?? []).map((item) => item.name));
  if (!taken.has(wish)) return wish;
  let number = 2;
  while (taken.has(`${wish} ${number}`)) number += 1;
  return `${wish} ${number}`;
}

/** Feed an enclosure from another one: its run and conductors leave from there. */
export function feedFrom(document: Document, state: State, runId: string, fromId: string): Operation[] {
  const draft = new Draft(document, standingIn(state));
  const start = startOf(resolve(document, state), draft, fromId, "panel");
  const operations = [...draft.operations, ...edit(document, state, "runs", runId, "from_part", start.hot)];
  for (const conductor of (document.conductors ?? []).filter((item) => item.run_id === runId)) {
    const part = conductor.role === "neutral" ? start.neutral : conductor.role === "ground" ? start.ground : start.hot;
    operations.push(...edit(document, state, "conductors", conductor.id, "from_part", part));
  }
  return operations;
}
