/** Limits of fields as the published schema states them; the server checks them again. */
import limits from "../api/limits.json";

interface Limit {
  type?: string;
  minimum?: number;
  exclusiveMinimum?: number;
  maximum?: number;
  maxLength?: number;
  enum?: (string | number)[];
  nullable?: boolean;
}

export function limitOf(list: string, field: string): Limit {
  return ((limits as Record<string, Record<string, Limit>>)[list] ?? {})[field] ?? {};
}

/** What is wrong with a number for a field, with the remedy; undefined when nothing is. */
export function numberFault(list: string, field: string, value: number): string | undefined {
  const limit = limitOf(list, field);
  if (!Number.isFinite(value)) return "This is not a number. Enter digits.";
  if (limit.type === "integer" && !Number.isInteger(value)) return "Enter a whole number.";
  if (limit.exclusiveMinimum !== undefined && value <= limit.exclusiveMinimum)
    return `Enter more than ${limit.exclusiveMinimum}.`;
  if (limit.minimum !== undefined && value < limit.minimum) return `Enter at least ${limit.minimum}.`;
  if (limit.maximum !== undefined && value > limit.maximum) return `Enter at most ${limit.maximum}.`;
  return undefined;
}
