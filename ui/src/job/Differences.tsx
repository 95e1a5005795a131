/** Differences between two documents, one line per property, named as a person knows the thing. */
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { word } from "../core/words";

export type Difference = Schemas["DifferenceOut"];

export function valueWords(value: unknown, field = ""): string {
  if (value === null || value === undefined) return "not known";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "string") return value === "" ? "empty" : word(value, field);
  if (typeof value === "object") {
    const entries = Object.entries(value);
    return entries.length
      ? entries.map(([key, inner]) => `${key.replaceAll("_", " ")} ${valueWords(inner, key)}`).join(", ")
      : "none";
  }
  return typeof value === "number" ? String(value) : "";
}

export function differenceWords(difference: Difference): string {
  const kind = difference.list.replaceAll("_", " ").replace(/s$/, "");
  if (difference.field === "") return difference.before === null ? `${kind} added` : `${kind} taken away`;
  return `${difference.field.replaceAll("_", " ")}: ${valueWords(difference.before, difference.field)} → ${valueWords(difference.after, difference.field)}`;
}

export function DifferenceLines({
  differences,
  control,
}: {
  differences: Difference[];
  control?: (at: number) => ReactNode;
}) {
  return (
    <ul>
      {differences.map((difference, at) => (
        <li key={at} className="flex items-baseline gap-3 border-b border-rule py-1">
          <span className="w-40 shrink-0 truncate font-semibold">{difference.name}</span>
          <span className="min-w-0 flex-1 break-words">{differenceWords(difference)}</span>
          {control?.(at)}
        </li>
      ))}
    </ul>
  );
}
