/** The same small operations as the server's mends: applied here, undone by their inverse. */
import type { Schemas } from "../api/client";
import facts from "../api/model.json";
import { find, listOf, type Document, type ListName, type State, type Thing } from "./document";

export type Operation =
  Schemas["Put"] | Schemas["Drop"] | Schemas["Insert"] | Schemas["Delete"] | Schemas["PutSetting"];

const DEFAULTS = facts.defaults as Record<string, Record<string, unknown>>;

/** The operation that adds a thing, whole with the defaults of the model, at the end of its list or at a place of it. */
export function insert(list: string, thing: object, at: number | null = null): Operation {
  return { op: "insert", list, thing: { ...DEFAULTS[list], ...thing }, at };
}

function changed(document: Document, list: string, things: Thing[]): Document {
  return { ...document, [list]: things };
}

function withThing(document: Document, list: string, id: string, change: (thing: Thing) => Thing): Document {
  const things = listOf(document, list as ListName);
  return changed(
    document,
    list,
    things.map((thing) => (thing.id === id ? change(thing) : thing)),
  );
}

function withoutKey(record: Record<string, unknown>, key: string): Record<string, unknown> {
  return Object.fromEntries(Object.entries(record).filter(([name]) => name !== key));
}

function applyOne(document: Document, operation: Operation): Document {
  switch (operation.op) {
    case "setting":
      return operation.field === "name" || operation.field === "note"
        ? { ...document, [operation.field]: operation.value }
        : { ...document, settings: { ...document.settings, [operation.field]: operation.value } };
    case "insert": {
      const things = [...listOf(document, operation.list as ListName)];
      things.splice(operation.at ?? things.length, 0, operation.thing as unknown as Thing);
      return changed(document, operation.list, things);
    }
    case "delete":
      return changed(
        document,
        operation.list,
        listOf(document, operation.list as ListName).filter((thing) => thing.id !== operation.id),
      );
    case "drop":
      return withThing(document, operation.list, operation.id, (thing) => ({
        ...thing,
        proposed: withoutKey(thing.proposed ?? {}, operation.field),
      }));
    default:
      return withThing(document, operation.list, operation.id, (thing) =>
        operation.proposed
          ? { ...thing, proposed: { ...thing.proposed, [operation.field]: operation.value } }
          : { ...thing, [operation.field]: operation.value },
      );
  }
}

/** What a property holds: of a thing that came without it, its default, which goes over the wire where nothing would not. */
function valueBefore(list: string, thing: Record<string, unknown>, field: string): unknown {
  return field in thing ? thing[field] : (DEFAULTS[list]?.[field] ?? null);
}

function inverseOf(document: Document, operation: Operation): Operation {
  if (operation.op === "setting") {
    const from: Record<string, unknown> = { ...document.settings, name: document.name, note: document.note };
    return { op: "setting", field: operation.field, value: from[operation.field] };
  }
  if (operation.op === "insert") return { op: "delete", list: operation.list, id: String(operation.thing.id) };
  const things = listOf(document, operation.list as ListName);
  const at = things.findIndex((thing) => thing.id === operation.id);
  const thing = things[at] as unknown as Record<string, unknown> | undefined;
  if (thing === undefined) return operation;
  if (operation.op === "delete") return insert(operation.list, thing, at);
  const { list, id, field } = operation;
  const proposed = (thing.proposed ?? {}) as Record<string, unknown>;
  if (operation.op === "put" && !operation.proposed)
    return { op: "put", list, id, field, value: valueBefore(list, thing, field), proposed: false };
  return field in proposed
    ? { op: "put", list, id, field, value: proposed[field], proposed: true }
    : { op: "drop", list, id, field };
}

/** Apply operations in order; the inverse undoes them all. */
export function apply(document: Document, operations: Operation[]): { document: Document; inverse: Operation[] } {
  let current = document;
  const inverse: Operation[] = [];
  for (const operation of operations) {
    inverse.unshift(inverseOf(current, operation));
    current = applyOne(current, operation);
  }
  return { document: current, inverse };
}

/** Apply what finds its thing; tell what does not, since somebody took it away meanwhile. */
export function applyWhatFits(
  document: Document,
  operations: Operation[],
): { document: Document; homeless: Operation[] } {
  let current = document;
  const homeless: Operation[] = [];
  for (const operation of operations) {
    if (fits(current, operation)) current = applyOne(current, operation);
    else homeless.push(operation);
  }
  return { document: current, homeless };
}

function fits(document: Document, operation: Operation): boolean {
  if (operation.op === "setting") return true;
  const id = operation.op === "insert" ? String(operation.thing.id) : operation.id;
  const there = listOf(document, operation.list as ListName).some((thing) => thing.id === id);
  return operation.op === "insert" ? !there : there;
}

/**
 * Change one property in the state being edited. A thing that came with the proposal is changed itself; one that
 * stands keeps its existing value, and the proposal's value is taken back when both are the same.
 */
export function edit(
  document: Document,
  state: State,
  list: ListName,
  id: string,
  field: string,
  value: unknown,
): Operation[] {
  const thing = find(listOf(document, list), id) as unknown as Record<string, unknown> | undefined;
  if (!thing) return [];
  if (state === "existing" || thing.standing === "added")
    return [{ op: "put", list, id, field, value, proposed: false }];
  if (thing[field] === value) return [{ op: "drop", list, id, field }];
  return [{ op: "put", list, id, field, value, proposed: true }];
}
