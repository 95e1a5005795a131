/** The one reducer of the edited document: edits, undo, redo, and what waits to be saved. */
import type { Document } from "./document";
import { apply, applyWhatFits, type Operation } from "./changes";

/** One undo step. Edits with the same key in a row (typing into one field) are one step. */
interface Step {
  label: string;
  key: string | null;
  operations: Operation[];
  inverse: Operation[];
}

/**
 * One revision that waits to be saved, as operations. Its id belongs to this content for ever: once it was sent it
 * does not grow. ``base`` is the revision that it was made from, null for whatever the one before it becomes.
 */
export interface Pending {
  save_id: string;
  summary: string;
  operations: Operation[];
  key: string | null;
  base: number | null;
  sent: boolean;
}

export interface Work {
  document: Document;
  /** The newest revision that the server holds of this work. */
  base: number;
  past: Step[];
  future: Step[];
  pending: Pending[];
  /** All that was done since a revision that the server knows whole: what a check has to be told. */
  since: { base: number; operations: Operation[] };
  touched: Set<string>;
  /** Edits that found their thing gone after a joined save: told, and to be taken down. */
  homeless: Operation[];
}

export type Action =
  | { type: "do"; label: string; operations: Operation[]; key?: string }
  | { type: "undo" }
  | { type: "redo" }
  | { type: "seal" }
  | { type: "sending"; save_id: string; base: number }
  | { type: "saved"; save_id: string; number: number; joined: Document | null }
  | { type: "combine" }
  | { type: "set-aside"; save_id: string }
  | { type: "settled"; save_id: string; document: Document; base: number; operations: Operation[]; summary: string }
  | { type: "told-homeless" };

const MOST_SINCE = 300;
/** In an outage later steps join the last one that waits, so that all are sent soon when the server is back. */
const MOST_WAITING = 20;

export function newSaveId(): string {
  return crypto.randomUUID();
}

/** Begin with the newest document and what an earlier visit could not save. */
export function begin(document: Document, base: number, pending: Pending[] = []): Work {
  const operations = pending.flatMap((item) => item.operations);
  const { document: edited, homeless } = applyWhatFits(document, operations);
  return {
    document: edited,
    base,
    past: [],
    future: [],
    pending: pending.map((item) => ({ ...item, key: null })),
    since: { base, operations },
    touched: new Set(),
    homeless,
  };
}

function waiting(work: Work, summary: string, operations: Operation[], key: string | null): Pending[] {
  const last = work.pending.at(-1);
  const many = work.pending.length >= MOST_WAITING;
  if (last && !last.sent && (many || (key !== null && last.key === key)))
    return [...work.pending.slice(0, -1), { ...last, summary, operations: shorter(last.operations, operations) }];
  const added = { save_id: newSaveId(), summary: summary.slice(0, 200), operations, key, base: null, sent: false };
  return [...work.pending, added];
}

/** Operations in a row, one put of the same property in place of several. */
function shorter(before: Operation[], added: Operation[]): Operation[] {
  const [only] = added;
  const last = before.at(-1);
  const same =
    added.length === 1 &&
    only?.op === "put" &&
    last?.op === "put" &&
    [only.list, only.id, only.field, only.proposed].join() === [last.list, last.id, last.field, last.proposed].join();
  return same ? [...before.slice(0, -1), ...added] : [...before, ...added];
}

function touchedBy(operations: Operation[]): Set<string> {
  return new Set(
    operations.map((operation) =>
      operation.op === "setting" ? "settings" : operation.op === "insert" ? String(operation.thing.id) : operation.id,
    ),
  );
}

/** The work after operations were carried out, whatever they were: an edit, an undo, a redo. */
function after(work: Work, summary: string, operations: Operation[], key: string | null): Work {
  return {
    ...work,
    document: apply(work.document, operations).document,
    pending: waiting(work, summary, operations, key),
    since: { ...work.since, operations: shorter(work.since.operations, operations) },
    touched: touchedBy(operations),
  };
}

function carryOut(work: Work, label: string, operations: Operation[], key: string | null): Work {
  const { inverse } = apply(work.document, operations);
  const last = work.past.at(-1);
  const grows = key !== null && last?.key === key;
  const step: Step = grows
    ? { ...last, operations: [...last.operations, ...operations], inverse: [...inverse, ...last.inverse] }
    : { label, key, operations, inverse };
  const past = grows ? [...work.past.slice(0, -1), step] : [...work.past, step];
  return { ...after(work, label, operations, key), past, future: [] };
}

function stepBack(work: Work): Work {
  const step = work.past.at(-1);
  if (!step) return work;
  const undone = after(work, `Undo: ${step.label}`, step.inverse, null);
  return { ...undone, past: work.past.slice(0, -1), future: [step, ...work.future] };
}

function stepForward(work: Work): Work {
  const [step, ...future] = work.future;
  if (!step) return work;
  return { ...after(work, `Redo: ${step.label}`, step.operations, null), past: [...work.past, step], future };
}

function sealed(past: Step[]): Step[] {
  return past.map((step, at) => (at === past.length - 1 ? { ...step, key: null } : step));
}

function saved(work: Work, action: Extract<Action, { type: "saved" }>): Work {
  const pending = work.pending.filter((item) => item.save_id !== action.save_id);
  const known = { ...work, base: action.number, pending };
  if (action.joined) return replayedOn(known, action.joined, action.number);
  const long = work.since.operations.length > MOST_SINCE && pending.length === 0;
  return long ? { ...known, since: { base: action.number, operations: [] } } : known;
}

/** What waits is done again on top of another document; undo steps go on as far as their things are there. */
function replayedOn(work: Work, document: Document, base: number): Work {
  const operations = work.pending.flatMap((item) => item.operations);
  const { document: edited, homeless } = applyWhatFits(document, operations);
  return {
    ...work,
    document: edited,
    base,
    since: { base, operations },
    homeless: [...work.homeless, ...homeless],
  };
}

function settled(work: Work, action: Extract<Action, { type: "settled" }>): Work {
  const rest = work.pending.filter((item) => item.save_id !== action.save_id);
  const { summary, operations, base } = action;
  const chosen = { save_id: newSaveId(), summary, operations, key: null, base, sent: false };
  const pending = operations.length > 0 ? [chosen, ...rest] : rest;
  return replayedOn({ ...work, pending, past: [], future: [] }, action.document, base);
}

/** The first save and all behind it as one, under a new id: a later edit may mend what made the first be refused. */
function combined(work: Work): Work {
  const [first, ...others] = work.pending;
  if (!first || others.length === 0) return work;
  const operations = work.pending.flatMap((item) => item.operations);
  const one = { ...first, save_id: newSaveId(), operations, key: null, sent: false };
  return { ...work, pending: [one] };
}

export function reduce(work: Work, action: Action): Work {
  switch (action.type) {
    case "do":
      return action.operations.length === 0
        ? work
        : carryOut(work, action.label, action.operations, action.key ?? null);
    case "undo":
      return stepBack(work);
    case "redo":
      return stepForward(work);
    case "seal":
      return { ...work, past: sealed(work.past) };
    case "sending":
      return {
        ...work,
        pending: work.pending.map((item) =>
          item.save_id === action.save_id ? { ...item, sent: true, base: action.base } : item,
        ),
        past: sealed(work.past),
      };
    case "saved":
      return saved(work, action);
    case "combine":
      return combined(work);
    case "set-aside":
      return { ...work, pending: work.pending.filter((item) => item.save_id !== action.save_id) };
    case "settled":
      return settled(work, action);
    case "told-homeless":
      return { ...work, homeless: [] };
  }
}
