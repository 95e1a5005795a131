/** What a new enclosure comes with, where its feed begins and lands, and which conductors it has; by the model's data. */
import facts from "../api/model.json";
import { find, type Document, type ListName, type Transformer } from "./document";
import type { Draft } from "./draft";
import { feedingRun } from "./feeds";

export type NewKind = keyof typeof facts.new_enclosures;

interface NewPart {
  list: string;
  key: string;
  ending: string;
  values: Record<string, unknown>;
}

export interface NewEnclosure {
  name: string;
  placement: string;
  joins_building: boolean;
  parts: NewPart[];
  landing: string;
  neutral: string;
  ground: string;
  run: Record<string, unknown>;
  run_within: Record<string, unknown>;
  kind: string;
}

export const NEW_ENCLOSURES = facts.new_enclosures as Record<NewKind, NewEnclosure>;

/** What a new transformer gives, by the system that feeds it; it can be changed. */
const SECONDARY_OF: Record<string, string> = { wye_480_277: "wye_208_120", wye_208_120: "wye_480_277" };
const THREE_PHASE = new Set(facts.three_phase);

/** Add the parts of a new enclosure; tell where its feed and the other conductors land. */
export function fitOut(document: Document, draft: Draft, id: string, kind: NewKind, fromId: string, stands: boolean) {
  const entry = NEW_ENCLOSURES[kind];
  const made: Record<string, string> = { box: id };
  for (const part of entry.parts) {
    const values: Record<string, unknown> = {};
    for (const [name, value] of Object.entries(part.values)) values[name] = filledIn(value, made);
    const own = values.isolating === true ? { secondary_system: secondarySystem(document, fromId) } : {};
    if (stands && values.made === true) values.made = null; // what stands already is looked at, not assumed
    made[part.key] = draft.add(part.list as ListName, `${id}-${part.ending}`, {
      ...values,
      ...own,
    });
  }
  const at = (key: string) => made[key] ?? id;
  return { neutral: at(entry.neutral), ground: at(entry.ground), landing: at(entry.landing) };
}

function filledIn(value: unknown, made: Record<string, string>): unknown {
  return typeof value === "string" && value.startsWith("@") ? made[value.slice(1)] : value;
}

function secondarySystem(document: Document, fromId: string): string {
  const system = hotsAt(document, fromId).includes("L3") ? systemOf(document) : "";
  return SECONDARY_OF[system] ?? "split_120_240";
}

/** The hot conductors that a new run from here has: those of a transformer's secondary, or of what feeds this place. */
export function hotsAt(document: Document, fromId: string): string[] {
  const transformer = (document.transformers ?? []).find(
    (item) => item.enclosure_id === fromId && !formsNeutral(document, item),
  );
  const feeding = transformer ? undefined : feedingRun(document, fromId);
  const own = (document.conductors ?? [])
    .filter((item) => item.run_id === feeding?.id && item.role.startsWith("L"))
    .map((item) => item.role);
  if (own.length) return own.sort();
  const system = transformer?.secondary_system ?? systemOf(document);
  return THREE_PHASE.has(system) ? ["L1", "L2", "L3"] : ["L1", "L2"];
}

/** Whether a transformer makes nothing but a neutral between two lines: its secondary is a neutral bar. */
export function formsNeutral(document: Pick<Document, "bars">, { secondary_part }: Transformer): boolean {
  return find(document.bars, secondary_part) !== undefined;
}

function systemOf(document: Document): string {
  return document.sources?.[0]?.system ?? "";
}

export interface Start {
  hot: string;
  neutral: string;
  ground: string;
  grounded: boolean;
}

/** The feed-through lugs of a panel that nothing leaves yet, or new ones on its bus. */
function throughLugs(document: Document, draft: Draft, panelId: string): string {
  const free = (document.lugs ?? []).find(
    (item) =>
      item.enclosure_id === panelId &&
      item.feed_through &&
      !(document.runs ?? []).some((run) => run.from_part === item.id),
  );
  if (free) return free.id;
  const bus = (document.buses ?? []).find((item) => item.enclosure_id === panelId)?.id ?? null;
  const values = { enclosure_id: panelId, bus_id: bus, name: "Feed-through lugs", feed_through: true };
  return draft.add("lugs", `${panelId}-through`, values);
}

/**
 * Where a new run begins: load lugs of a meter, the main of a disconnect, a new feeder device of a panel, or the lugs
 * ``through`` which its bus is fed on.
 */
export function startOf(document: Document, draft: Draft, fromId: string, name: string, through = false): Start {
  if (find(document.sources, fromId)) return { hot: fromId, neutral: fromId, ground: fromId, grounded: false };
  const enclosure = find(document.enclosures, fromId);
  const bar = (kind: string) =>
    (document.bars ?? []).find((item) => item.enclosure_id === fromId && item.kind === kind)?.id;
  const neutral = bar("neutral") ?? fromId;
  const ground = bar("ground") ?? neutral;
  if (enclosure?.kind === "meter") {
    const lugs = (document.lugs ?? []).filter((item) => item.enclosure_id === fromId);
    return { hot: lugs.at(-1)?.id ?? fromId, neutral, ground, grounded: false };
  }
  if (through) return { hot: throughLugs(document, draft, fromId), neutral, ground, grounded: true };
  const main = (document.devices ?? []).find((item) => item.enclosure_id === fromId && item.role === "main");
  const transformer = (document.transformers ?? []).find((item) => item.enclosure_id === fromId);
  if (transformer) {
    const hot = formsNeutral(document, transformer) ? transformer.primary_part : transformer.secondary_part;
    return { hot, neutral, ground, grounded: true };
  }
  if (enclosure?.kind === "disconnect" && main) return { hot: main.id, neutral, ground, grounded: true };
  const device = draft.add("devices", `${fromId}-feeder`, {
    enclosure_id: fromId,
    bus_id: (document.buses ?? []).find((item) => item.enclosure_id === fromId)?.id ?? null,
    name: `Feeder to ${name.toLowerCase()}`,
    role: "feeder",
    rating_a: null,
  });
  return { hot: device, neutral, ground, grounded: true };
}
