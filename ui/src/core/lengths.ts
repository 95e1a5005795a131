/** Reading and writing lengths as people on site do: 180, 60 ft 6 in, 60' 6", 12.5 m. */
const FEET_PER_METRE = 1 / 0.3048;
const FEET_AND_INCHES =
  /^(?:(\d+(?:\.\d+)?)\s*(?:ft|feet|foot|'|′)?)?\s*(?:(\d+(?:\.\d+)?)\s*(?:in|inch|inches|"|″))?$/i;
const METRES = /^(\d+(?:\.\d+)?)\s*m$/i;

/** Feet, or undefined when the text is no length. */
export function readFeet(text: string): number | undefined {
  const trimmed = text.trim();
  const metres = METRES.exec(trimmed);
  if (metres) return round(Number(metres[1]) * FEET_PER_METRE);
  const parts = FEET_AND_INCHES.exec(trimmed);
  if (!parts || (parts[1] === undefined && parts[2] === undefined)) return undefined;
  return round(Number(parts[1] ?? 0) + Number(parts[2] ?? 0) / 12);
}

function round(feet: number): number {
  return Math.round(feet * 10_000) / 10_000;
}

export function writeFeet(feet: number): string {
  return `${Math.round(feet * 100) / 100} ft`;
}

export function inMetres(feet: number): string {
  return `${(feet / FEET_PER_METRE).toFixed(1)} m`;
}
