/** Reading a JSON Schema, as far as a form needs it. */
export interface Property {
  title?: string;
  type?: string;
  enum?: unknown[];
  const?: unknown;
  unit?: string;
  /** What an empty field stands for. */
  empty?: string;
  default?: unknown;
  anyOf?: Property[];
  items?: Property;
  $ref?: string;
  properties?: Record<string, Property>;
}

export interface ObjectSchema extends Property {
  properties: Record<string, Property>;
  $defs?: Record<string, ObjectSchema>;
}

export type Control =
  | { kind: "choice"; options: unknown[]; nullable: boolean; empty?: string }
  | { kind: "yes_no"; nullable: boolean; empty?: string }
  | { kind: "number"; unit: string; nullable: boolean; empty?: string }
  | { kind: "text" }
  | { kind: "rows"; item: ObjectSchema };

function followed(schema: ObjectSchema, property: Property): Property {
  const name = property.$ref?.replace("#/$defs/", "");
  return name ? { ...schema.$defs?.[name], ...property } : property;
}

/** Which control edits a property. */
export function controlOf(schema: ObjectSchema, property: Property): Control {
  const nullable = property.anyOf?.some((part) => part.type === "null") ?? false;
  const inner = property.anyOf?.find((part) => part.type !== "null") ?? property;
  const found = followed(schema, inner);
  if (found.type === "array" && found.items)
    return { kind: "rows", item: { ...followed(schema, found.items), $defs: schema.$defs } as ObjectSchema };
  if (found.enum) return { kind: "choice", options: found.enum, nullable, empty: property.empty };
  if (found.const !== undefined) return { kind: "choice", options: [found.const], nullable };
  if (found.type === "boolean") return { kind: "yes_no", nullable };
  if (found.type === "number" || found.type === "integer")
    return { kind: "number", unit: property.unit ?? "", nullable, empty: property.empty };
  return { kind: "text" };
}

/** Inputs to begin a row with: the defaults of its properties. */
export function defaultsOf(schema: ObjectSchema): Record<string, unknown> {
  return Object.fromEntries(Object.entries(schema.properties).map(([name, property]) => [name, property.default]));
}

export type Inputs = Record<string, unknown>;

/** Inputs as a query: texts as they are, everything else as JSON. */
export function toQuery(inputs: Inputs): URLSearchParams {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(inputs))
    if (value !== undefined) query.set(name, typeof value === "string" ? value : JSON.stringify(value));
  return query;
}

/** The inputs of a link; a text that should be a number stays a text, so that the answer can name the field. */
export function fromQuery(schema: ObjectSchema, query: URLSearchParams): Inputs {
  const inputs: Inputs = {};
  for (const [name, text] of query) {
    const property = schema.properties[name];
    const control = property && controlOf(schema, property);
    const asText = control?.kind === "text" || (control?.kind === "choice" && typeof control.options[0] === "string");
    const empty = text === "null" && control?.kind === "choice" && control.nullable;
    inputs[name] = asText && !empty ? text : parsed(text);
  }
  return inputs;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return text;
  }
}
