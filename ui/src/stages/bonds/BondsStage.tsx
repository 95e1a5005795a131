/** Neutral and ground at every enclosure: the decision with its reason, and what is found part by part, to edit. */
import { useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { FigureLine } from "../../sheets/FigureLine";
import { find } from "../../core/document";
import { CAUTIONS, DECISION_WORDS, FOUND_WORDS } from "../../core/words";
import { useWork } from "../../core/context";
import { PositionBar, type Position } from "../PositionBar";
import { BondRails } from "./BondRails";
import { Electrodes } from "./Electrodes";
import { FoundParts } from "./FoundParts";

export function BondsStage() {
  const { report, site, selected, select } = useWork("report", "site", "selected", "select");
  const [playing, play] = useState<string | null>(null);
  const cards = useRef<HTMLOListElement>(null);
  const order = (report?.walking_order ?? []).filter((id) => find(site.enclosures, id));
  const played = report?.positions.find((item) => item.name === playing) ?? null;
  const open = (id: string) => {
    select(id);
    cards.current?.querySelector(`[data-bond-enclosure="${id}"]`)?.scrollIntoView({ block: "nearest" });
  };
  return (
    <section aria-label="Bonds" className="min-h-0 min-w-0 overflow-auto">
      <PositionBar positions={report?.positions ?? []} played={played} onPlay={play} />
      {report && order.length > 0 ? (
        <BondRails site={site} report={report} played={played} selected={selected} onSelect={open} />
      ) : null}
      {played ? <Systems position={played} report={report} /> : null}
      <div className="px-4 py-3">
        <p className="mb-3 border-l-4 border-advice bg-sheet px-3 py-1.5">{CAUTIONS.join(" ")}</p>
        {order.length === 0 ? <p className="text-soft">Draw the path first: every enclosure is decided here.</p> : null}
        <ol ref={cards} className="grid gap-3 xl:grid-cols-2">
          {order.map((id) => {
            const answer = report?.enclosures[id];
            return answer ? <EnclosureBonds key={id} answer={answer} /> : null;
          })}
        </ol>
      </div>
    </section>
  );
}

/** Which system is live in the position played, and where its neutral meets the metal. */
function Systems({ position, report }: { position: Position; report: Schemas["ReportOut"] | null }) {
  const words = (id: string) => {
    const box = report?.enclosures[id];
    const ahead = box?.decision === "supply_side" ? " (ahead of the service)" : "";
    return `${box?.name ?? id}${ahead}`;
  };
  return (
    <ul className="border-b border-rule bg-sheet px-4 py-1.5" data-testid="systems">
      {position.systems.map((system) => (
        <li key={system.sources.join(" ")}>
          <strong>{system.sources.join(" and ")}:</strong>{" "}
          {system.places.length > 0
            ? `its neutral meets the metal at ${system.places.map(words).join(", ")}.`
            : "its neutral meets the metal nowhere."}
        </li>
      ))}
    </ul>
  );
}

function EnclosureBonds({ answer }: { answer: Schemas["EnclosureOut"] }) {
  const { selected, select } = useWork("selected", "select");
  return (
    <li
      className={`border border-rule bg-sheet px-3 py-2 ${selected === answer.id ? "outline-2 outline-copper" : ""}`}
      data-bond-enclosure={answer.id}
    >
      <div className="flex items-baseline justify-between gap-2">
        <h2 dir="auto" className="font-bold">
          <button type="button" className="hover:text-copper" onClick={() => select(answer.id)}>
            {answer.name}
          </button>
        </h2>
        <strong className="whitespace-nowrap" data-decision={answer.decision}>
          {DECISION_WORDS[answer.decision]}
        </strong>
      </div>
      <p>
        {answer.reason} <span className="narrow text-soft">{answer.section}</span>
      </p>
      {answer.parts.length ? (
        <p>
          <span className="text-soft">Parts: </span>
          {answer.parts.join("; ")}.
        </p>
      ) : null}
      {answer.conductors.length ? (
        <p>
          <span className="text-soft">Must be present: </span>
          {answer.conductors.join(", ")}.
        </p>
      ) : null}
      {answer.figures.main_bonding_jumper ? (
        <FigureLine
          label="Bonding jumper"
          figure={answer.figures.main_bonding_jumper}
          note="Cu, where a wire is used"
        />
      ) : null}
      {answer.figures.system_bonding_jumper ? (
        <FigureLine
          label="System bonding jumper"
          figure={answer.figures.system_bonding_jumper}
          note="Cu, where a wire is used"
        />
      ) : null}
      {answer.figures.electrode_conductor ? (
        <FigureLine label="Electrode wire" figure={answer.figures.electrode_conductor} note="Cu" />
      ) : null}
      {answer.figures.electrode_conductor_rods ? (
        <FigureLine label="to rods alone" figure={answer.figures.electrode_conductor_rods} note="Cu" />
      ) : null}
      <h3 className="wide mt-2 text-xs font-bold uppercase">Found: {FOUND_WORDS[answer.found] ?? answer.found}</h3>
      {answer.further_neutrals.map((neutral) => (
        <p key={neutral.part} data-further-neutral={neutral.part}>
          <span dir="auto">{neutral.name}</span>: <strong>{DECISION_WORDS[neutral.decision]}</strong>, found{" "}
          {FOUND_WORDS[neutral.found] ?? neutral.found}. {neutral.reason}{" "}
          <span className="narrow text-soft">{neutral.section}</span>
        </p>
      ))}
      <FoundParts enclosureId={answer.id} />
      <Electrodes enclosureId={answer.id} />
    </li>
  );
}
