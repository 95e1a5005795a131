/** What stayed the same keeps its identity, so that only what changed is drawn anew. */

/** Return ``now`` with every part that equals its part of ``before`` in place of the new one. Both are plain JSON. */
export function shared<T>(before: unknown, now: T): T {
  if (before === now) return now;
  if (Array.isArray(before) && Array.isArray(now)) {
    const parts = now.map((part, at) => shared(before[at], part) as unknown);
    const same = before.length === parts.length && parts.every((part, at) => part === before[at]);
    return (same ? before : parts) as T;
  }
  if (isRecord(before) && isRecord(now)) {
    const keys = Object.keys(now);
    const parts: Record<string, unknown> = {};
    for (const key of keys) parts[key] = shared(before[key], now[key]);
    const same =
      keys.length === Object.keys(before).length && keys.every((key) => key in before && parts[key] === before[key]);
    return (same ? before : parts) as T;
  }
  return now;
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
