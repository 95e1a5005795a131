/** Templates: what is inserted when something new is fed, moved to another feed, or removed. No judgement is made here. */
import {
  find,
  freshId,
  listOf,
  owners,
  type Document,
  type Enclosure,
  type ListName,
  type Run,
  type State,
  type Thing,
} from "./document";
import { edit, insert, type Operation } from "./operations";

export type NewKind = "meter" | "disconnect" | "panel";

const NEW_NAMES: Record<NewKind, string> = { meter: "Meter", disconnect: "Disconnect", panel: "Panel" };
const THREE_PHASE = new Set(["wye_208_120", "wye_480_277", "delta_240", "delta_240_high_leg"]);

class Draft {
  readonly operations: Operation[] = [];
  constructor(
    private document: Document,
    private readonly standing: "existing" | "added",
  ) {}

  add(list: ListName, wish: string, thing: Record<string, unknown>): string {
    const id = freshId(this.document, wish);
    const whole = { ...thing, id, standing: this.standing };
    this.operations.push(insert(list, whole));
    this.document = {
      ...this.document,
      [list]: [...listOf(this.document, list), whole as unknown as Thing],
    } as Document;
    return id;
  }
}

function standingIn(state: State): "existing" | "added" {
  return state === "existing" ? "existing" : "added";
}

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
  return lists as Partial<Document>;
}

/** Feed a new enclosure from a source or an enclosure. */
export function feed(
  document: Document,
  state: State,
  fromId: string,
  kind: NewKind,
  from?: Start,
): { operations: Operation[]; id: string } {
  const draft = new Draft(document, standingIn(state));
  const upstream = find(document.enclosures, fromId);
  const id = draft.add("enclosures", NEW_NAMES[kind], {
    name: freshName(document, NEW_NAMES[kind]),
    kind,
    placement: kind === "panel" ? "indoors" : "outdoors",
    building_id: kind === "panel" ? null : (upstream?.building_id ?? null),
  });
  const neutral = draft.add("bars", `${id}-n`, {
    enclosure_id: id,
    name: "Neutral bar",
    kind: "neutral",
    insulated: kind !== "meter",
  });
  let ground: string = id;
  let landing: string;
  if (kind === "meter") {
    landing = draft.add("lugs", `${id}-line`, { enclosure_id: id, name: "Line lugs" });
    draft.add("lugs", `${id}-load`, { enclosure_id: id, name: "Load lugs" });
  } else {
    ground = draft.add("bars", `${id}-g`, { enclosure_id: id, name: "Ground bar", kind: "ground", insulated: false });
    draft.add("bonds", `${id}-bond`, { enclosure_id: id, kind: "screw", part_a: neutral, part_b: id, made: false });
    landing = draft.add("devices", `${id}-main`, {
      enclosure_id: id,
      name: `${NEW_NAMES[kind]} main`,
      role: "main",
      rating_a: null,
    });
  }
  const start = from ?? startOf(document, draft, fromId, NEW_NAMES[kind]);
  const run = draft.add("runs", `${fromId}-${id}`, {
    name: "",
    from_part: start.hot,
    to_part: landing,
    placement: kind === "panel" ? "underground" : "outdoors",
    method: kind === "panel" ? "pvc40" : "rmc",
    insulation: "XHHW-2",
    material: "aluminium",
    burial_location: kind === "panel" ? "general" : null,
  });
  const roles = THREE_PHASE.has(systemOf(document)) ? ["L1", "L2", "L3"] : ["L1", "L2"];
  for (const role of roles)
    draft.add("conductors", `${run}-${role}`, { run_id: run, role, from_part: start.hot, to_part: landing });
  draft.add("conductors", `${run}-n`, { run_id: run, role: "neutral", from_part: start.neutral, to_part: neutral });
  if (start.grounded)
    draft.add("conductors", `${run}-g`, { run_id: run, role: "ground", from_part: start.ground, to_part: ground });
  return { operations: draft.operations, id };
}

/** Tap a run halfway: a new panel whose conductors begin at the device of the run. */
export function tapRun(document: Document, state: State, run: Run): { operations: Operation[]; id: string } {
  const of = (role: string) =>
    (document.conductors ?? []).find((item) => item.run_id === run.id && item.role === role)?.from_part;
  const neutral = of("neutral") ?? run.from_part;
  const ground = of("ground");
  const start = { hot: run.from_part, neutral, ground: ground ?? neutral, grounded: ground !== undefined };
  const fromId = owners(document).get(run.from_part) ?? run.from_part;
  const made = feed(document, state, fromId, "panel", start);
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

function systemOf(document: Document): string {
  return document.sources?.[0]?.system ?? "";
}

function freshName(document: Document, wish: string): string {
  const taken = new Set((document.enclosures ?? []).map((item) => item.name));
  if (!taken.has(wish)) return wish;
  let number = 2;
  while (taken.has(`${wish} ${number}`)) number += 1;
  return `${wish} ${number}`;
}

interface Start {
  hot: string;
  neutral: string;
  ground: string;
  grounded: boolean;
}

/** Where a new run begins: load lugs of a meter, the main of a disconnect, a new feeder device of a panel. */
function startOf(document: Document, draft: Draft, fromId: string, name: string): Start {
  if (find(document.sources, fromId)) return { hot: fromId, neutral: fromId, ground: fromId, grounded: false };
  const enclosure = find(document.enclosures, fromId);
  const bar = (kind: string) =>
    (document.bars ?? []).find((item) => item.enclosure_id === fromId && item.kind === kind)?.id;
  const neutral = bar("neutral") ?? fromId;
  const ground = bar("ground") ?? neutral;
  if (enclosure?.kind === "meter") {
    const lugs = (document.lugs ?? []).filter((item) => item.enclosure_id === fromId);
    return { hot: lugs.at(-1)?.id ?? fromId, neutral, ground, grounded: false };
  }
  const main = (document.devices ?? []).find((item) => item.enclosure_id === fromId && item.role === "main");
  if (enclosure?.kind === "disconnect" && main) return { hot: main.id, neutral, ground, grounded: true };
  const device = draft.add("devices", `${fromId}-feeder`, {
    enclosure_id: fromId,
    name: `Feeder to ${name.toLowerCase()}`,
    role: "feeder",
    rating_a: null,
  });
  return { hot: device, neutral, ground, grounded: true };
}

/** Feed an enclosure from another one: its run and conductors leave from there. */
export function feedFrom(document: Document, state: State, runId: string, fromId: string): Operation[] {
  const draft = new Draft(document, standingIn(state));
  const start = startOf(document, draft, fromId, "panel");
  const operations = [...draft.operations, ...edit(document, state, "runs", runId, "from_part", start.hot)];
  for (const conductor of (document.conductors ?? []).filter((item) => item.run_id === runId)) {
    const part = conductor.role === "neutral" ? start.neutral : conductor.role === "ground" ? start.ground : start.hot;
    operations.push(...edit(document, state, "conductors", conductor.id, "from_part", part));
  }
  return operations;
}

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

/** The run that feeds an enclosure in the resolved site. */
export function feedingRun(site: Document, enclosureId: string) {
  const owner = owners(site);
  return (site.runs ?? []).find((run) => owner.get(run.to_part) === enclosureId);
}

/** Enclosures and sources that may feed this one: all that it does not feed itself. */
export function possibleFeeds(site: Document, enclosureId: string): { id: string; name: string }[] {
  const owner = owners(site);
  const beneath = new Set([enclosureId]);
  for (let grew = true; grew;) {
    grew = false;
    for (const run of site.runs ?? []) {
      const from = owner.get(run.from_part);
      const to = owner.get(run.to_part);
      if (from && to && beneath.has(from) && !beneath.has(to)) {
        beneath.add(to);
        grew = true;
      }
    }
  }
  const candidates: (Enclosure | { id: string; name?: string })[] = [
    ...(site.sources ?? []),
    ...(site.enclosures ?? []),
  ];
  return candidates
    .filter((item) => !beneath.has(item.id))
    .map((item) => ({ id: item.id, name: item.name || item.id }));
}
