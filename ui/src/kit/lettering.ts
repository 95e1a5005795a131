/** Letters of a drawing: how wide a text is, and how it is broken into lines. */
let measuring: CanvasRenderingContext2D | null | undefined;
let measured = new Map<string, number>();
const MOST_KEPT = 20_000;
// What was measured before its face was there is measured again.
document.fonts.addEventListener("loadingdone", () => (measured = new Map()));

/** Width of a text in the drawing's label face, in pixels. */
export function textWidth(text: string, size: number, bold = false): number {
  const face = `${bold ? 700 : 400} ${size}px "Roboto Flex Variable", sans-serif`;
  const key = `${face} ${text}`;
  const known = measured.get(key);
  if (known !== undefined) return known;
  measuring ??= document.createElement("canvas").getContext("2d");
  if (!measuring) return text.length * size * 0.55;
  measuring.font = face;
  const width = measuring.measureText(text).width * 0.92;
  if (measured.size >= MOST_KEPT) measured.clear();
  measured.set(key, width);
  return width;
}

/** Break a text into at most ``most`` lines of a width; what does not fit ends in an ellipsis. */
export function wrap(text: string, width: number, size: number, bold: boolean, most: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const last = lines.at(-1);
    if (last !== undefined && textWidth(`${last} ${word}`, size, bold) <= width)
      lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  const kept = lines.slice(0, most);
  if (lines.length > most && kept.length) kept[kept.length - 1] = `${kept.at(-1) ?? ""}…`;
  return kept.map((line) => shortened(line, width, size, bold));
}

function shortened(line: string, width: number, size: number, bold: boolean): string {
  if (textWidth(line, size, bold) <= width) return line;
  let letters = Array.from(line.replace(/…$/, ""));
  while (letters.length > 1 && textWidth(`${letters.join("")}…`, size, bold) > width) letters = letters.slice(0, -1);
  return `${letters.join("")}…`;
}
