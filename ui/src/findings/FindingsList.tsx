/** What is wrong comes first: by severity, in walking order within, each with its section and its mend. */
import { memo } from "react";
import { Glyph } from "../kit/Glyph";
import { useNear } from "../kit/useNear";
import type { Schemas } from "../api/client";
import { find, shownOn, type Document } from "../core/document";
import { OUTCOME_WORDS } from "../core/words";
import { useDerived, useWork } from "../core/context";
import { Asked } from "./Asked";
import { Mends } from "./Mends";

type Finding = Schemas["FindingOut"];

/** The list by the mark that it bears. */
const LIST = "[data-findings]";

const EDGE = { must_fix: "border-l-fix", advice: "border-l-advice", cannot_tell: "border-l-tell" } as const;

/** Where a finding is looked at: on a stage, with the thing whose sheet opens there. */
export type GoTo = (stage: "path" | "panels") => void;

/** Give the focus to the first finding, or to the one after that which has it. */
export function focusNextFinding(): void {
  const items = [...document.querySelectorAll<HTMLElement>("[data-finding]")];
  const at = items.findIndex((item) => item.contains(document.activeElement));
  items[(at + 1) % items.length]?.querySelector("button")?.focus();
}

export function FindingsList({ onGo }: { onGo: GoTo }) {
  const { report } = useWork("report");
  return (
    <section
      aria-label="Findings"
      data-findings
      className="relative min-h-0 overflow-y-auto border-r border-rule bg-sheet px-2 py-2 max-lg:max-h-[38vh] max-lg:border-r-0 max-lg:border-b"
    >
      {report?.findings.length === 0 ? (
        <p className="p-2 text-soft">
          <Glyph outcome="holds" /> Nothing to mend: {report.counts.holds} checks hold.
        </p>
      ) : null}
      <ol className="space-y-1.5">
        {keyed(askedOnce(report?.findings ?? [])).map(([key, finding]) => (
          <FindingItem key={key} finding={finding} onGo={onGo} />
        ))}
      </ol>
    </section>
  );
}

/** Each finding with what tells it from the others, wherever in the list it stands: what is typed in one stays in it. */
function keyed(findings: Finding[]): [string, Finding][] {
  const times = new Map<string, number>();
  return findings.map((finding) => {
    const name = `${finding.id}:${finding.code}`;
    const time = times.get(name) ?? 0;
    times.set(name, time + 1);
    return [`${name}:${time}`, finding];
  });
}

/** The findings with each field asked for by the first that needs it alone. */
function askedOnce(findings: Finding[]): Finding[] {
  const asked = new Set<string>();
  return findings.map((finding) => ({
    ...finding,
    asks: finding.asks.filter(({ id, field }) => {
      const key = `${id} ${field}`;
      return !asked.has(key) && asked.add(key);
    }),
  }));
}

function placeOf(site: Document, { id }: Finding): { stage: "path" | "panels"; id: string } {
  const bus = find(site.buses, id);
  if (bus && typeof bus.spaces === "number") return { stage: "panels", id: bus.enclosure_id };
  const device = find(site.devices, find(site.circuits, id)?.device_id ?? id);
  const inPanel = device !== undefined && typeof device.space === "number";
  return inPanel ? { stage: "panels", id: device.id } : { stage: "path", id: shownOn(site, id) };
}

interface ItemProps {
  finding: Finding;
  onGo: GoTo;
}

/** Each report brings all findings anew: one that says the same as before is not drawn again. */
const FindingItem = memo(Item, (one, other) => one.onGo === other.onGo && same(one.finding, other.finding));

const same = (one: Finding, other: Finding) => JSON.stringify(one) === JSON.stringify(other);

function Item({ finding, onGo }: ItemProps) {
  const { select, state, mayWrite } = useWork("select", "state", "mayWrite");
  const { stage, id: place } = useDerived(({ site }) => placeOf(site, finding));
  const shown = useDerived(({ selected }) => selected === place);
  const { item, near } = useNear<HTMLLIElement>(LIST);
  const show = () => {
    select(place);
    onGo(stage);
  };
  return (
    <li
      ref={item}
      className={`border-l-4 [contain-intrinsic-size:auto_6rem] [content-visibility:auto] py-1 pr-1 pl-2 ${EDGE[finding.outcome]} ${shown ? "bg-touched" : ""}`}
      data-finding={finding.code}
      data-outcome={finding.outcome}
    >
      <button
        type="button"
        className="flex w-full items-baseline gap-1.5 text-left font-semibold hover:text-copper pointer-coarse:min-h-11"
        onClick={show}
      >
        <Glyph outcome={finding.outcome} />
        <span className="sr-only">{OUTCOME_WORDS[finding.outcome]}: </span>
        <span dir="auto" className="min-w-0 flex-1 truncate">
          {finding.name}
        </span>
      </button>
      <p className="narrow cursor-pointer break-words" onClick={show}>
        {finding.text} <span className="whitespace-nowrap text-soft">{finding.section}</span>
      </p>
      {mayWrite && finding.asks.length > 0 ? <Asked asks={finding.asks} near={near} /> : null}
      {mayWrite && state === "proposed" && finding.mends.length > 0 ? <Mends mends={finding.mends} /> : null}
    </li>
  );
}
