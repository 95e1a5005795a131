import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { Glyph } from "../kit/Glyph";
import type { State } from "../core/document";
import { OUTCOMES, OUTCOME_WORDS } from "../core/words";
import { useWork } from "../core/context";
import type { Saving } from "../core/useSaving";
import { STAGES } from "../stages/registry";

export type WindowName = "keys" | "changes" | "revisions";

interface HeaderProps {
  stage: string;
  saving: Saving;
  fault: string | null;
  canUndo: boolean;
  canRedo: boolean;
  onUndo: () => void;
  onRedo: () => void;
  onStage: (stage: string) => void;
  onState: (state: State) => void;
  onWindow: (name: WindowName) => void;
  then: JobThen | null;
}
type JobThen = NonNullable<Schemas["JobOut"]["then"]>;

export function Header(props: HeaderProps) {
  return (
    <header>
      <TitleBar saving={props.saving} fault={props.fault} then={props.then} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule bg-sheet px-3">
        <nav aria-label="Stages" className="flex">
          {STAGES.map((item, at) => (
            <button
              key={item.name}
              type="button"
              aria-current={item.name === props.stage ? "page" : undefined}
              title={`Key ${at + 1}`}
              className="wide border-b-[3px] border-transparent px-3 py-1 font-semibold text-soft hover:text-ink aria-[current]:border-copper aria-[current]:text-ink pointer-coarse:min-h-11"
              onClick={() => props.onStage(item.name)}
            >
              {item.title}
            </button>
          ))}
        </nav>
        <StateSwitch onState={props.onState} />
        <div className="ml-auto flex items-center gap-1">
          <HeaderButton label="Undo" disabled={!props.canUndo} onClick={props.onUndo} />
          <HeaderButton label="Redo" disabled={!props.canRedo} onClick={props.onRedo} />
          <HeaderButton label="Changes" onClick={() => props.onWindow("changes")} />
          <HeaderButton label="Revisions" onClick={() => props.onWindow("revisions")} />
          <HeaderButton label="Keys ?" onClick={() => props.onWindow("keys")} />
        </div>
      </div>
    </header>
  );
}

function HeaderButton({ label, ...rest }: { label: string; disabled?: boolean; onClick: () => void }) {
  return (
    <button
      type="button"
      className="narrow rounded-sm px-1.5 py-0.5 text-copper hover:bg-touched disabled:text-soft disabled:opacity-60 pointer-coarse:min-h-11"
      {...rest}
    >
      {label}
    </button>
  );
}

function TitleBar({ saving, fault, then }: { saving: Saving; fault: string | null; then: JobThen | null }) {
  const { document, site, report } = useWork();
  const amendments = site.amendments?.length ?? 0;
  return (
    <div className="flex flex-wrap items-center gap-x-4 bg-[var(--band)] px-3 py-1.5 text-[var(--band-ink)]">
      <Link to="/" className="wide font-extrabold tracking-tight" aria-label="Nelvor, all jobs">
        NELVOR
      </Link>
      <h1 dir="auto" className="max-w-[26rem] truncate text-[15px] font-semibold">
        {document.name}
      </h1>
      <span className="narrow opacity-80">
        {document.settings.edition} rules
        {amendments ? ` · ${amendments} local amendment${amendments > 1 ? "s" : ""}` : ""}
      </span>
      {then ? <ThenAndNow then={then} /> : null}
      <Counts report={report} />
      <SavingWords saving={saving} fault={fault} />
    </div>
  );
}

function ThenAndNow({ then }: { then: JobThen }) {
  const signature = then.signature as Record<string, string>;
  const counts = then.counts as Record<string, number>;
  return (
    <span className="narrow opacity-80">
      saved with rulebook {signature.rulebook}: {counts.must_fix} must fix then
    </span>
  );
}

function Counts({ report }: { report: Schemas["ReportOut"] | null }) {
  if (!report) return <span className="ml-auto narrow">working…</span>;
  return (
    <ul className="ml-auto flex gap-3" aria-label="Verdicts">
      {OUTCOMES.map((outcome) => (
        <li key={outcome} className="flex items-center gap-1 whitespace-nowrap" data-count={outcome}>
          <span className="rounded-full bg-[var(--sheet)] p-0.5 leading-none">
            <Glyph outcome={outcome} />
          </span>
          <strong>{report.counts[outcome]}</strong> {OUTCOME_WORDS[outcome]}
        </li>
      ))}
    </ul>
  );
}

function SavingWords({ saving, fault }: { saving: Saving; fault: string | null }) {
  const words = {
    saved: "saved",
    waiting: "saving…",
    away: "not saved: the server is away; your edits are kept in this browser",
    refused: "not saved",
    conflict: "somebody changed the same",
    "signed-out": "not saved: you are signed out; sign in again in another tab, your edits are kept here",
  }[saving.kind];
  const detail = saving.kind === "saved" || saving.kind === "waiting" ? fault : null;
  return (
    <span role="status" data-saving={saving.kind} className="narrow max-w-[24rem]">
      {words}
      {detail ? <strong className="ml-1"> {detail}</strong> : null}
    </span>
  );
}

function StateSwitch({ onState }: { onState: (state: State) => void }) {
  const { state } = useWork();
  return (
    <div role="group" aria-label="Shown and edited" className="flex overflow-hidden rounded-sm border border-rule">
      {(["existing", "proposed"] as const).map((item) => (
        <button
          key={item}
          type="button"
          aria-pressed={item === state}
          className="px-2 py-0.5 text-soft aria-pressed:bg-ink aria-pressed:text-paper pointer-coarse:min-h-11"
          onClick={() => onState(item)}
        >
          {item === "existing" ? "Existing" : "Proposed"}
        </button>
      ))}
    </div>
  );
}
