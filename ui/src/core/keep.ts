/**
 * What waits to be saved, kept in the browser's database as operations, a record for each open page. A page that is gone
 * leaves its record to the next one that opens the job; pages that are open do not touch each other's.
 */
import type { Pending } from "./reducer";

export interface Kept {
  jobId: string;
  page: string;
  /** The revision that the page's newest saved work rested on. */
  base: number;
  pending: Pending[];
}

const DATABASE = "nelvor";
const STORE = "waiting";
const PAGE = crypto.randomUUID();

let opening: Promise<IDBDatabase> | null = null;

function database(): Promise<IDBDatabase> {
  opening ??= new Promise((resolve, reject) => {
    const request = indexedDB.open(DATABASE, 1);
    request.onupgradeneeded = () => request.result.createObjectStore(STORE, { keyPath: ["jobId", "page"] });
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(new Error(request.error?.message ?? "no database"));
  });
  opening.catch(() => (opening = null));
  return opening;
}

async function carryOut<T>(mode: IDBTransactionMode, work: (store: IDBObjectStore) => IDBRequest<T>): Promise<T> {
  const transaction = (await database()).transaction(STORE, mode);
  const request = work(transaction.objectStore(STORE));
  return new Promise((resolve, reject) => {
    transaction.oncomplete = () => resolve(request.result);
    transaction.onabort = () => reject(new Error(transaction.error?.message ?? "not kept"));
    transaction.onerror = () => reject(new Error(transaction.error?.message ?? "not kept"));
  });
}

/** Keep what waits; rejects when the browser does not keep it. */
export async function keep(jobId: string, base: number, pending: Pending[]): Promise<void> {
  if (pending.length === 0) await carryOut("readwrite", (store) => store.delete([jobId, PAGE]));
  else await carryOut("readwrite", (store) => store.put({ jobId, page: PAGE, base, pending } satisfies Kept));
}

/** Take over what pages that are gone could not save of a job, the oldest first. */
export async function takeOver(jobId: string): Promise<Pending[]> {
  holdPage();
  const all = (await carryOut("readonly", (store) => store.getAll())) as Kept[];
  const left: Pending[] = [];
  const gone: string[] = [];
  for (const record of all.filter((item) => item.jobId === jobId && item.page !== PAGE)) {
    if (await isOpen(record.page)) continue;
    gone.push(record.page);
    left.push(...record.pending.map((item, at) => (at === 0 ? { ...item, base: item.base ?? record.base } : item)));
  }
  if (left.length > 0) await keep(jobId, left[0]?.base ?? 0, left);
  for (const page of gone) await carryOut("readwrite", (store) => store.delete([jobId, page]));
  return left;
}

const lockOf = (page: string) => `nelvor:page:${page}`;
let held = false;

/** A lock tells other pages that this one is open, for as long as it is. */
function holdPage(): void {
  if (held) return;
  held = true;
  void navigator.locks.request(lockOf(PAGE), () => new Promise(() => undefined));
}

async function isOpen(page: string): Promise<boolean> {
  const { held: locks = [] } = await navigator.locks.query();
  return locks.some((lock) => lock.name === lockOf(page));
}
