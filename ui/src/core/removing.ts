/**
 * Taking a thing out: what goes along because it cannot be without it, and what is only set loose. The same as the
 * server's; shared fixtures hold the two together.
 */
import facts from "../api/model.json";
import type { Operation } from "./changes";
import { listOf, type Document, type ListName, type State, type Thing } from "./document";

interface Reference {
  lists: string[];
  kind: string;
}
const REFERENCES = facts.references as Record<string, Record<string, Reference>>;
const LISTS = facts.lists as ListName[];

type Side = "existing" | "proposed";
type Record_ = Thing & Record<string, unknown>;

interface Naming {
  list: ListName;
  thing: Record_;
  field: string;
  side: Side;
}

interface Going {
  list: ListName;
  thing: Record_;
  deleted: boolean;
}

export interface Removal {
  /** The things that go, itself first. */
  gone: { list: ListName; id: string }[];
  /** Properties that no longer name what is taken out. */
  loose: { list: ListName; id: string; field: string }[];
  operations: Operation[];
}

/** What is to be taken out, under which words, and all that this does. */
export interface Removing {
  label: string;
  list: ListName;
  id: string;
  removal: Removal;
}

/** What belongs to one thing alone and goes with it without a word. */
const GO_QUIETLY = new Set<ListName>(["conductors", "pulls", "stretches"]);

/** Whether more goes along than a person expects, or something is set loose. */
export function worthAsking({ gone, loose }: Removal): boolean {
  return loose.length > 0 || gone.slice(1).some(({ list }) => !GO_QUIETLY.has(list));
}

/** What it means to take a thing out of a state of a job. */
export function removal(document: Document, state: State, list: ListName, id: string): Removal {
  const naming = namingOf(document, state);
  const gone = new Map<string, Going>();
  const standing = new Set<string>();
  for (const [name, thing] of things(document)) {
    if (state === "existing" || thing.standing !== "removed") standing.add(thing.id);
    if (name === list && thing.id === id) gone.set(id, going(name, thing, state));
  }
  for (const first of gone.keys()) standing.delete(first);
  for (let grew = gone.size > 0; grew;) {
    const falling = [...gone.keys()]
      .flatMap((item) => naming.get(item) ?? [])
      .filter((item) => !gone.has(item.thing.id) && falls(item, standing));
    for (const item of falling) gone.set(item.thing.id, going(item.list, item.thing, state));
    for (const item of falling) standing.delete(item.thing.id);
    grew = falling.length > 0;
  }
  deleteWhatRestsOnDeleted(naming, gone);
  const { loose, operations } = loosened(naming, gone);
  const taking = [...gone.values()].reverse().map(operationOf);
  return {
    gone: [...gone].map(([item, { list: name }]) => ({ list: name, id: item })),
    loose,
    operations: [...operations, ...taking],
  };
}

function things(document: Document): [ListName, Record_][] {
  return LISTS.flatMap((name) => listOf(document, name).map((thing): [ListName, Record_] => [name, thing as Record_]));
}

function going(list: ListName, thing: Record_, state: State): Going {
  return { list, thing, deleted: state === "existing" || thing.standing === "added" };
}

function namingOf(document: Document, state: State): Map<string, Naming[]> {
  const found = new Map<string, Naming[]>();
  const note = (target: unknown, entry: Naming) => {
    if (typeof target === "string") found.set(target, [...(found.get(target) ?? []), entry]);
  };
  for (const [list, thing] of things(document))
    for (const field of Object.keys(REFERENCES[list] ?? {})) {
      const proposed = thing.proposed ?? {};
      note(proposed[field], { list, thing, field, side: "proposed" });
      if (state === "existing" || !(field in proposed)) note(thing[field], { list, thing, field, side: "existing" });
    }
  return found;
}

/** Whether a thing goes with what it names; with a proposed value it goes back to the existing one if it can. */
function falls({ list, thing, field, side }: Naming, standing: Set<string>): boolean {
  if (REFERENCES[list]?.[field]?.kind !== "owning") return false;
  return side === "existing" || !standing.has(String(thing[field]));
}

/** What cannot be without a deleted thing is deleted too: a mark alone would leave it naming nothing. */
function deleteWhatRestsOnDeleted(naming: Map<string, Naming[]>, gone: Map<string, Going>): void {
  const waiting = [...gone].filter(([, item]) => item.deleted).map(([id]) => id);
  for (let id = waiting.pop(); id !== undefined; id = waiting.pop())
    for (const { list, thing, field, side } of naming.get(id) ?? []) {
      const rests = side === "existing" && REFERENCES[list]?.[field]?.kind === "owning";
      const item = gone.get(thing.id);
      if (!rests || !item || item.deleted) continue;
      item.deleted = true;
      waiting.push(thing.id);
    }
}

function operationOf({ list, thing, deleted }: Going): Operation {
  return deleted
    ? { op: "delete", list, id: thing.id }
    : { op: "put", list, id: thing.id, field: "standing", value: "removed", proposed: false };
}

function loosened(naming: Map<string, Naming[]>, gone: Map<string, Going>) {
  const loose: Removal["loose"] = [];
  const operations: Operation[] = [];
  const deleted = (id: unknown) => gone.get(String(id))?.deleted === true;
  for (const [id, { deleted: away }] of gone)
    for (const { list, thing, field, side } of naming.get(id) ?? []) {
      if (!gone.has(thing.id)) loose.push({ list, id: thing.id, field });
      else if (!away || deleted(thing.id)) continue;
      if (side === "proposed" && !deleted(thing[field])) operations.push({ op: "drop", list, id: thing.id, field });
      else {
        const beside = side === "proposed" || (!away && thing.standing !== "added");
        operations.push({ op: "put", list, id: thing.id, field, value: null, proposed: beside });
      }
    }
  return { loose, operations };
}
