/** What a new enclosure comes with, where its feed begins and lands, and which conductors it has. */
import { find, type Document } from "./document";
import type { Draft } from "./draft";
import { feedingRun } from "./feeds";

export type NewKind = "meter" | "disconnect" | "panel" | "transformer";

export const NEW_NAMES: Record<NewKind, string> = {
  meter: "Meter",
  disconnect: "Disconnect",
  panel: "Panel",
  transformer: "Transformer",
};

/** What a new transformer gives, by the system that feeds it; it can be changed. */
const SECONDARY_OF: Record<string, string> = { wye_480_277: "wye_208_120", wye_208_120: "wye_480_277" };
const THREE_PHASE = new Set(["wye_208_120", "wye_480_277", "delta_240", "delta_240_high_leg"]);

export const NEW_RUN: Record<NewKind, Record<string, unknown>> = {
  meter: { placement: "outdoors", method: "rmc", burial_location: null },
  disconnect: { placement: "outdoors", method: "rmc", burial_location: null },
  panel: { placement: "underground", method: "pvc40", burial_location: "general" },
  transformer: { placement: "indoors", method: "emt", burial_location: null },
};

/** Bars, bond and terminals of a new enclosure, and where its feed lands. */
export function fitOut(document: Document, draft: Draft, id: string, kind: NewKind, fromId: string) {
  const neutral = draft.add("bars", `${id}-n`, {
    enclosure_id: id,
    name: kind === "transformer" ? "Neutral point" : "Neutral bar",
    kind: "neutral",
    insulated: kind !== "meter",
  });
  if (kind === "meter") {
    const landing = draft.add("lugs", `${id}-line`, { enclosure_id: id, name: "Line lugs" });
    draft.add("lugs", `${id}-load`, { enclosure_id: id, name: "Load lugs" });
    return { neutral, ground: id, landing };
  }
  const ground = draft.add("bars", `${id}-g`, {
    enclosure_id: id,
    name: "Ground bar",
    kind: "ground",
    insulated: false,
  });
  const link = kind === "transformer" ? "wire" : "screw";
  draft.add("bonds", `${id}-bond`, { enclosure_id: id, kind: link, part_a: neutral, part_b: id, made: false });
  if (kind === "transformer") {
    const landing = draft.add("lugs", `${id}-primary`, { enclosure_id: id, name: "Primary terminals" });
    const secondary = draft.add("lugs", `${id}-secondary`, { enclosure_id: id, name: "Secondary terminals" });
    const system = hotsAt(document, fromId).includes("L3") ? systemOf(document) : "";
    draft.add("transformers", `${id}-windings`, {
      enclosure_id: id,
      primary_part: landing,
      secondary_part: secondary,
      kva: null,
      secondary_system: SECONDARY_OF[system] ?? "split_120_240",
    });
    return { neutral, ground, landing };
  }
  const landing = draft.add("devices", `${id}-main`, {
    enclosure_id: id,
    name: `${NEW_NAMES[kind]} main`,
    role: "main",
    rating_a: null,
  });
  return { neutral, ground, landing };
}

/** The hot conductors that a new run from here has: those of a transformer's secondary, or of what feeds this place. */
export function hotsAt(document: Document, fromId: string): string[] {
  const transformer = (document.transformers ?? []).find((item) => item.enclosure_id === fromId);
  const feeding = transformer ? undefined : feedingRun(document, fromId);
  const own = (document.conductors ?? [])
    .filter((item) => item.run_id === feeding?.id && item.role.startsWith("L"))
    .map((item) => String(item.role));
  if (own.length) return own.sort();
  const system = transformer?.secondary_system ?? systemOf(document);
  return THREE_PHASE.has(system) ? ["L1", "L2", "L3"] : ["L1", "L2"];
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

/** Where a new run begins: load lugs of a meter, the main of a disconnect, a new feeder device of a panel. */
export function startOf(document: Document, draft: Draft, fromId: string, name: string): Start {
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
  const main = (document.devices ?? []).find((item) => item.enclosure_id === fromId && item.role === "main");
  const transformer = (document.transformers ?? []).find((item) => item.enclosure_id === fromId);
  if (transformer) return { hot: transformer.secondary_part, neutral, ground, grounded: true };
  if (enclosure?.kind === "disconnect" && main) return { hot: main.id, neutral, ground, grounded: true };
  const device = draft.add("devices", `${fromId}-feeder`, {
    enclosure_id: fromId,
    name: `Feeder to ${name.toLowerCase()}`,
    role: "feeder",
    rating_a: null,
  });
  return { hot: device, neutral, ground, grounded: true };
}
