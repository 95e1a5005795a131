/** The one reducer of the edited document: edits, undo, redo, and what waits to be saved. */
import type { Document } from "./document";
import { apply, type Operation } from "./changes";

/** One undo step. Edits with the same key in a row (typing into one field) are one step. */
interface Step {
  label: string;
  key: string | null;
  operations: Operation[];
  inverse: Operation[];
}

/** One revision that waits to be saved: the whole document as it was after a step. */
export interface Pending {
  save_id: string;
  summary: string;
  document: Document;
  key: string | null;
  sending: boolean;
}

export interface Work {
  document: Document;
  base: number;
  past: Step[];
  future: Step[];
  pending: Pending[];
  touched: Set<string>;
}

export type Action =
  | { type: "do"; label: string; operations: Operation[]; key?: string }
  | { type: "undo" }
  | { type: "redo" }
  | { type: "seal" }
  | { type: "sending"; save_id: string }
  | { type: "not-sent" }
  | { type: "saved"; save_id: string; number: number }
  | { type: "replaced"; document: Document; base: number; summary: string | null };

const MOST_WAITING = 20;

export function begin(document: Document, base: number, pending: Pending[] = []): Work {
  const waiting = pending.map((item) => ({ ...item, sending: false, key: null }));
  return {
    document: waiting.at(-1)?.document ?? document,
    base,
    past: [],
    future: [],
    pending: waiting,
    touched: new Set(),
  };
}

function waiting(work: Work, summary: string, document: Document, key: string | null): Pending[] {
  const last = work.pending.at(-1);
  const mayGrow = last && !last.sending && ((key !== null && last.key === key) || work.pending.length >= MOST_WAITING);
  if (last && mayGrow) return [...work.pending.slice(0, -1), { ...last, summary, document }];
  return [
    ...work.pending,
    { save_id: crypto.randomUUID(), summary: summary.slice(0, 200), document, key, sending: false },
  ];
}

function touchedBy(operations: Operation[]): Set<string> {
  return new Set(
    operations.map((operation) =>
      operation.op === "setting" ? "settings" : operation.op === "insert" ? String(operation.thing.id) : operation.id,
    ),
  );
}

function carryOut(work: Work, label: string, operations: Operation[], key: string | null): Work {
  const { document, inverse } = apply(work.document, operations);
  const last = work.past.at(-1);
  const grows = key !== null && last?.key === key;
  const step: Step = grows
    ? { ...last, operations: [...last.operations, ...operations], inverse: [...inverse, ...last.inverse] }
    : { label, key, operations, inverse };
  return {
    ...work,
    document,
    past: grows ? [...work.past.slice(0, -1), step] : [...work.past, step],
    future: [],
    pending: waiting(work, label, document, key),
    touched: touchedBy(operations),
  };
}

function stepBack(work: Work): Work {
  const step = work.past.at(-1);
  if (!step) return work;
  const { document } = apply(work.document, step.inverse);
  return {
    ...work,
    document,
    past: work.past.slice(0, -1),
    future: [step, ...work.future],
    pending: waiting(work, `Undo: ${step.label}`, document, null),
    touched: touchedBy(step.operations),
  };
}

function stepForward(work: Work): Work {
  const [step, ...future] = work.future;
  if (!step) return work;
  const { document } = apply(work.document, step.operations);
  return {
    ...work,
    document,
    past: [...work.past, step],
    future,
    pending: waiting(work, `Redo: ${step.label}`, document, null),
    touched: touchedBy(step.operations),
  };
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
      return {
        ...work,
        past: work.past.map((step, at) => (at === work.past.length - 1 ? { ...step, key: null } : step)),
      };
    case "sending":
      return {
        ...work,
        pending: work.pending.map((item) => (item.save_id === action.save_id ? { ...item, sending: true } : item)),
        past: work.past.map((step, at) => (at === work.past.length - 1 ? { ...step, key: null } : step)),
      };
    case "not-sent":
      return { ...work, pending: work.pending.map((item) => ({ ...item, sending: false })) };
    case "saved":
      return { ...work, base: action.number, pending: work.pending.filter((item) => item.save_id !== action.save_id) };
    case "replaced": {
      const clean = { ...begin(action.document, action.base), touched: new Set<string>() };
      if (action.summary === null) return clean;
      return { ...clean, pending: waiting(clean, action.summary, action.document, null) };
    }
  }
}
