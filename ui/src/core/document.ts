/** Shapes of the job document and small look-ups for drawing and editing. */
import type { Schemas } from "../api/client";

export type Document = Schemas["Document"];
export type Source = Schemas["Source"];
export type Building = Schemas["Building"];
export type Enclosure = Schemas["Enclosure"];
export type Bus = Schemas["Bus"];
export type Transfer = Schemas["Transfer"];
export type Device = Schemas["Device"];
export type Bar = Schemas["Bar"];
export type Bond = Schemas["Bond"];
export type Run = Schemas["Run"];
export type Conductor = Schemas["Conductor"];
export type Electrode = Schemas["Electrode"];
export type Load = Schemas["Load"];
export type Transformer = Schemas["Transformer"];
export type Stretch = Schemas["Stretch"];
export type Box = Schemas["Box"];
export type Pull = Schemas["Pull"];
export type State = "existing" | "proposed";

export type ListName = {
  [Key in keyof Document]-?: NonNullable<Document[Key]> extends { id: string }[] ? Key : never;
}[keyof Document];

/** What all things share. */
export interface Thing {
  id: string;
  standing?: "existing" | "added" | "removed";
  proposed?: Record<string, unknown>;
  name?: string;
}

export function listOf(document: Document, list: ListName): Thing[] {
  return document[list] ?? [];
}

export function find<T>(things: T[] | undefined, id: string | null | undefined): T | undefined {
  return things && id ? (byIds(things as (T & Thing)[]).get(id) as T | undefined) : undefined;
}

/** The document as it is in one state: things of the other state gone, proposed properties in place. */
export function resolve(document: Document, state: State): Document {
  const resolved = { ...document } as Record<string, unknown>;
  for (const [key, value] of Object.entries(document)) if (Array.isArray(value)) resolved[key] = RESOLVED[state](value);
  return resolved as unknown as Document;
}

/** An edit leaves most lists and things as they were, and so their resolved form is the same object as before. */
const RESOLVED: Record<State, (things: Thing[]) => Thing[]> = {
  existing: once((things) => things.filter((thing) => thing.standing !== "added")),
  proposed: once((things) => things.filter((thing) => thing.standing !== "removed").map(asProposed)),
};

const withProposal = once((thing: Thing): Thing => ({ ...thing, ...thing.proposed }));

function asProposed(thing: Thing): Thing {
  return thing.proposed ? withProposal(thing) : thing;
}

/** A function of something that never changes, worked out once for each. */
function once<Key extends object, Value>(work: (key: Key) => Value): (key: Key) => Value {
  const known = new WeakMap<Key, Value>();
  return (key) => {
    const found = known.get(key) ?? work(key);
    known.set(key, found);
    return found;
  };
}

/** The things of a list by their ids. */
const byIds = once((things: Thing[]) => new Map(things.map((thing) => [thing.id, thing])));

/** Which enclosure or source each part belongs to. */
export const owners = once((document: Document): Map<string, string> => {
  const found = new Map<string, string>();
  for (const list of ["devices", "lugs", "buses", "bars"] as const)
    for (const part of document[list] ?? []) found.set(part.id, part.enclosure_id);
  for (const thing of document.enclosures ?? []) found.set(thing.id, thing.id);
  for (const source of document.sources ?? []) found.set(source.id, source.enclosure_id ?? source.id);
  return found;
});

/** An id that no thing of the document has yet. */
export function freshId(document: Document, wish: string): string {
  const taken = new Set<string>();
  for (const value of Object.values(document))
    if (Array.isArray(value)) for (const thing of value as Thing[]) taken.add(thing.id);
  const base =
    wish
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 24) || "thing";
  if (!taken.has(base)) return base;
  let number = 2;
  while (taken.has(`${base}-${number}`)) number += 1;
  return `${base}-${number}`;
}

/** The run or enclosure on whose sheet a thing is shown: its own id, or that of what it lies on. */
export function shownOn(document: Document, id: string): string {
  const box = find(document.boxes, id);
  const pull = find(document.pulls, id) ?? (box && (document.pulls ?? []).find((item) => item.box_id === box.id));
  return (
    pull?.run_id ??
    find(document.stretches, id)?.run_id ??
    find(document.taps, id)?.tap_run_id ??
    find(document.measurements, id)?.enclosure_id ??
    find(document.transformers, id)?.enclosure_id ??
    find(document.transfers, id)?.enclosure_id ??
    find(document.buses, id)?.enclosure_id ??
    find(document.devices, id)?.enclosure_id ??
    find(document.devices, find(document.circuits, id)?.device_id)?.enclosure_id ??
    find(document.bonds, id)?.enclosure_id ??
    owners(document).get(find(document.electrodes, id)?.connects_to ?? "") ??
    id
  );
}
