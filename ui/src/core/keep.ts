/** Unsaved revisions kept in the browser, so that a reload or an outage loses nothing. */
import type { Pending } from "./reducer";

interface Kept {
  base: number;
  pending: Pending[];
}

const keyOf = (jobId: string) => `nelvor:unsaved:${jobId}`;

export function keep(jobId: string, base: number, pending: Pending[]): void {
  try {
    if (pending.length === 0) localStorage.removeItem(keyOf(jobId));
    else localStorage.setItem(keyOf(jobId), JSON.stringify({ base, pending } satisfies Kept));
  } catch {
    // Storage is full or closed: the edits still live in this page and are sent from it.
  }
}

export function kept(jobId: string): Kept | null {
  try {
    const text = localStorage.getItem(keyOf(jobId));
    return text ? (JSON.parse(text) as Kept) : null;
  } catch {
    return null;
  }
}
