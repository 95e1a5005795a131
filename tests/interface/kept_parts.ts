/** What of a value keeps its identity, told as paths: identity itself does not survive being written as JSON. */
import { apply, edit } from "../../ui/src/core/changes";
import { resolve, type Document, type ListName, type State } from "../../ui/src/core/document";
import { shared } from "../../ui/src/core/sharing";

function keptPaths(before: unknown, now: unknown, path = ""): string[] {
  if (typeof now !== "object" || now === null) return [];
  if (before === now) return [path];
  if (typeof before !== "object" || before === null) return [];
  const [one, other] = [before as Record<string, unknown>, now as Record<string, unknown>];
  return Object.keys(other).flatMap((key) => keptPaths(one[key], other[key], `${path}/${key}`));
}

export function sharedParts(before: unknown, now: unknown): { value: unknown; kept: string[] } {
  const value = shared(before, now);
  return { value, kept: keptPaths(before, value) };
}

export function listsKept(document: Document, state: State, list: ListName, id: string, field: string, value: unknown) {
  const before = resolve(document, state);
  const after = resolve(apply(document, edit(document, state, list, id, field, value)).document, state);
  return { after, kept: keptPaths(before, after) };
}
