/** How many checks ended in each way; each count opens its list. */
import { Popover, PopoverButton, PopoverPanel } from "@headlessui/react";
import { memo, useEffect, useState } from "react";
import { answered, api, messageOf, type Schemas } from "../api/client";
import { useDerived, useWork } from "../core/context";
import { shownOn } from "../core/document";
import { OUTCOMES, OUTCOME_WORDS } from "../core/words";
import { Glyph } from "../kit/Glyph";

type Outcome = (typeof OUTCOMES)[number];
type Line = Schemas["HeldOut"];

export const Counts = memo(function Counts({ onLeave }: { onLeave: () => void }) {
  const answered = useDerived(({ report }) => report !== null);
  if (!answered) return <span className="narrow ml-auto">working…</span>;
  return (
    <ul className="ml-auto flex gap-3 max-sm:gap-1.5" aria-label="Verdicts">
      {OUTCOMES.map((outcome) => (
        <li key={outcome} data-count={outcome}>
          <Count outcome={outcome} onLeave={onLeave} />
        </li>
      ))}
    </ul>
  );
});

function Count({ outcome, onLeave }: { outcome: Outcome; onLeave: () => void }) {
  const count = useDerived(({ report }) => report?.counts[outcome]);
  return (
    <Popover>
      <PopoverButton className="flex items-center gap-1 whitespace-nowrap">
        <span className="rounded-full bg-[var(--sheet)] p-0.5 leading-none">
          <Glyph outcome={outcome} />
        </span>
        <strong>{count}</strong>
        <span className="max-sm:sr-only">{OUTCOME_WORDS[outcome]}</span>
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: "bottom end", gap: 6, padding: 8 }}
        className="z-30 max-h-96! w-96 max-w-[calc(100vw-1rem)] rounded-sm border border-rule bg-sheet p-2 text-ink shadow-lg"
      >
        {({ close }) => (
          <Lines
            outcome={outcome}
            onChosen={() => {
              close();
              onLeave();
            }}
          />
        )}
      </PopoverPanel>
    </Popover>
  );
}

function Lines({ outcome, onChosen }: { outcome: Outcome; onChosen: () => void }) {
  const { document, state, report, site, select } = useWork("document", "state", "report", "site", "select");
  const [held, setHeld] = useState<Line[] | null>(null);
  const [fault, setFault] = useState("");
  useEffect(() => {
    if (outcome !== "holds") return;
    answered(api.POST("/api/held", { body: { document, state } }))
      .then((answer) => setHeld(answer.held))
      .catch((failure: unknown) => setFault(messageOf(failure)));
  }, [outcome, document, state]);
  const lines = outcome === "holds" ? held : report?.findings.filter((item) => item.outcome === outcome);
  if (fault) return <p role="alert">{fault}</p>;
  if (!lines) return <p>Reading…</p>;
  if (lines.length === 0) return <p>None.</p>;
  return (
    <ul className="space-y-1">
      {lines.map((line, at) => (
        <li key={at}>
          <button
            type="button"
            className="narrow w-full rounded-sm px-1 py-0.5 text-left hover:bg-touched pointer-coarse:min-h-11"
            onClick={() => {
              select(shownOn(site, line.id));
              onChosen();
            }}
          >
            <strong dir="auto">{line.name}</strong> {line.text} <span className="text-soft">{line.section}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
