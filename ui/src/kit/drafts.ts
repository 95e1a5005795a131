/** Texts that could not be taken, kept for the visit so that leaving a sheet or reloading loses none of them. */
interface Draft<T> {
  text: string;
  belongsTo: T;
}

const keyOf = (place: string) => `nelvor:draft:${location.pathname.split("/")[2] ?? ""}:${place}`;

export function keepDraft<T>(place: string | null, draft: Draft<T> | null): void {
  if (place === null) return;
  try {
    if (draft === null) sessionStorage.removeItem(keyOf(place));
    else sessionStorage.setItem(keyOf(place), JSON.stringify(draft));
  } catch {
    // Without storage the text lives as long as the field itself.
  }
}

export function keptDraft<T>(place: string | null): Draft<T> | null {
  if (place === null) return null;
  try {
    const text = sessionStorage.getItem(keyOf(place));
    return text ? (JSON.parse(text) as Draft<T>) : null;
  } catch {
    return null;
  }
}
