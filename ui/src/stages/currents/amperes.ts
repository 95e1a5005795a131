/** How amperes of a study are written. */
export const TELLING = 0.005;

export function amperes(value: number | undefined): string {
  if (value === undefined) return "";
  if (value < TELLING) return "0";
  return value < 10 ? value.toFixed(2) : value.toFixed(value < 100 ? 1 : 0);
}
