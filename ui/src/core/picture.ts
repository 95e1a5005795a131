/** A drawing of the page as an SVG file of its own: what the page's styles say of it is written into it. */
/** Properties that an element has from the one around it unless it says otherwise. */
const STYLES = [
  "fill",
  "fill-opacity",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "stroke-dashoffset",
  "stroke-linecap",
  "stroke-linejoin",
  "stroke-opacity",
  "paint-order",
  "font-size",
  "font-weight",
  "font-stretch",
  "text-anchor",
  "visibility",
];
const PAINT = ["fill", "stroke"];
const MOVING = "flow-";
const FACE = "'Roboto Flex Variable', 'Helvetica', 'Arial', sans-serif";
const SVG = "http://www.w3.org/2000/svg";
const MARGIN = 16;
const LINE_PX = 17;
const LETTER_PX = 6.6;

/** Return the text of the file: the drawing with words beneath it; what moves on the page moves in it. */
export function pictureOf(drawing: SVGSVGElement, title: string, words: string[]): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  dress(drawing, copy);
  const width = Math.max(drawing.width.baseVal.value, 480);
  const height = drawing.height.baseVal.value;
  const lines = words.flatMap((text) => broken(text, Math.floor(width / LETTER_PX)));
  const whole = document.createElementNS(SVG, "svg");
  const size = [width + 2 * MARGIN, height + 2 * MARGIN + LINE_PX * (lines.length + 2)] as const;
  whole.setAttribute("xmlns", SVG);
  whole.setAttribute("width", String(size[0]));
  whole.setAttribute("height", String(size[1]));
  whole.setAttribute("viewBox", `0 0 ${size[0]} ${size[1]}`);
  whole.setAttribute("font-family", FACE);
  const page = getComputedStyle(document.body);
  whole.append(
    made("title", {}, title),
    made("style", {}, motion()),
    made("rect", { width: size[0], height: size[1], fill: page.backgroundColor }),
    made("text", { x: MARGIN, y: MARGIN + 8, "font-size": 15, "font-weight": 700, fill: page.color }, title),
  );
  copy.setAttribute("x", String(MARGIN));
  copy.setAttribute("y", String(MARGIN + LINE_PX));
  whole.append(copy);
  lines.forEach((line, at) => {
    const y = height + 2 * MARGIN + LINE_PX * (at + 1.5);
    whole.append(made("text", { x: MARGIN, y, "font-size": 12.5, fill: page.color }, line));
  });
  return new XMLSerializer().serializeToString(whole);
}

/** Write into each element of a copy what the page's styles say of the original, and take the page's own marks away. */
function dress(original: Element, copy: Element): void {
  const said = getComputedStyle(original);
  if (said.display === "none") {
    copy.remove();
    return;
  }
  const around = original.parentElement instanceof SVGElement ? getComputedStyle(original.parentElement) : null;
  const own = STYLES.filter((name) => said.getPropertyValue(name) !== around?.getPropertyValue(name));
  const style = own.map((name) => `${name}:${said.getPropertyValue(name)}`);
  if (said.opacity !== "1") style.push(`opacity:${said.opacity}`);
  const moves = [...original.classList].filter((name) => name.startsWith(MOVING));
  for (const { name } of [...copy.attributes])
    if (["class", "tabindex", "role", ...PAINT].includes(name) || /^(data|aria)-/.test(name))
      copy.removeAttribute(name);
  if (moves.length > 0) copy.setAttribute("class", moves.join(" "));
  if (style.length > 0) copy.setAttribute("style", style.join(";"));
  const inner = [...copy.children];
  [...original.children].forEach((child, at) => {
    const twin = inner[at];
    if (twin) dress(child, twin);
  });
}

/** What the page's styles say of marks that move, and that nothing moves where that is asked for. */
function motion(): string {
  const found = [...document.styleSheets].flatMap((sheet) => [...sheet.cssRules]).flatMap(moving);
  return `${found.join(" ")} @media (prefers-reduced-motion: reduce) { * { animation: none !important; } }`;
}

function moving(rule: CSSRule): string[] {
  if (rule instanceof CSSKeyframesRule && rule.name.startsWith("flow")) return [rule.cssText];
  if (rule instanceof CSSStyleRule) return rule.selectorText.startsWith(`.${MOVING}`) ? [rule.cssText] : [];
  return rule instanceof CSSGroupingRule ? [...rule.cssRules].flatMap(moving) : [];
}

function made(tag: string, attributes: Record<string, string | number>, text = ""): SVGElement {
  const element = document.createElementNS(SVG, tag);
  for (const [name, value] of Object.entries(attributes)) element.setAttribute(name, String(value));
  element.textContent = text;
  return element;
}

function broken(text: string, most: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + word.length < most) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}
