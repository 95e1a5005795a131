import { Tab, TabList } from "@headlessui/react";
import { memo } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { Menu } from "../kit/Menu";
import { useDerived, useWork } from "../core/context";
import { Counts } from "./Counts";
import type { Saving } from "../core/useSaving";
import { STAGES } from "../stages/registry";

export type WindowName = "keys" | "changes" | "revisions" | "share" | "remarks";
export type MayDo = Pick<Schemas["JobOut"], "may_write" | "may_share" | "may_remark" | "may_see_revisions">;

interface HeaderProps {
  saving: Saving;
  onJobSheet: () => void;
  /** Go where what was chosen is shown. */
  onLeave: () => void;
  onWindow: (name: WindowName) => void;
  then: JobThen | null;
  may: MayDo;
}
type JobThen = NonNullable<Schemas["JobOut"]["then"]>;

export function Header(props: HeaderProps) {
  return (
    <header>
      <TitleBar saving={props.saving} then={props.then} onLeave={props.onLeave} reading={!props.may.may_write} />
      <div className="flex items-center gap-x-4 border-b border-rule bg-sheet px-3 max-sm:gap-x-1 max-sm:px-1">
        <StageTabs />
        <StateSwitch />
        <Acts may={props.may} onJobSheet={props.onJobSheet} onWindow={props.onWindow} />
      </div>
    </header>
  );
}

const StageTabs = memo(function StageTabs() {
  return (
    <TabList className="flex min-w-0 gap-1 overflow-x-auto max-sm:gap-0">
      {STAGES.map((item, at) => (
        <Tab
          key={item.name}
          title={`Key ${at + 1}`}
          className="wide border-b-[3px] border-transparent px-3 py-1 font-semibold text-soft hover:text-ink data-selected:border-copper data-selected:text-ink max-sm:px-1 pointer-coarse:min-h-11"
        >
          {item.title}
        </Tab>
      ))}
    </TabList>
  );
});

const QUIET =
  "narrow rounded-sm px-1.5 py-0.5 text-copper hover:bg-touched disabled:text-soft disabled:opacity-60 pointer-coarse:min-h-11";

/** Undo at hand; all that is done now and then in a menu. */
const Acts = memo(function Acts({ onWindow, onJobSheet, may }: Pick<HeaderProps, "onWindow" | "onJobSheet" | "may">) {
  const { dispatch, state, show } = useWork("dispatch", "state", "show");
  const mayUndo = useDerived(({ work }) => work.past.length > 0);
  const mayRedo = useDerived(({ work }) => work.future.length > 0);
  const undo = () => dispatch({ type: "undo" });
  const redo = () => dispatch({ type: "redo" });
  const other = state === "existing" ? "proposed" : "existing";
  return (
    <div className="ml-auto flex shrink-0 items-center gap-1 max-sm:gap-0">
      <button type="button" className={QUIET} disabled={!mayUndo} onClick={undo}>
        Undo
      </button>
      <button type="button" className={`${QUIET} max-sm:hidden`} disabled={!mayRedo} onClick={redo}>
        Redo
      </button>
      <button type="button" className={`${QUIET} max-sm:hidden`} onClick={onJobSheet}>
        The job
      </button>
      <Menu
        button="More"
        className={QUIET}
        acts={[
          { label: `Show ${other}`, hint: "X", onAct: () => show(other) },
          { label: "Redo", hint: "Ctrl Shift Z", disabled: !mayRedo, onAct: redo },
          { label: "The job", onAct: onJobSheet },
          { label: "Changes", onAct: () => onWindow("changes") },
          ...(may.may_see_revisions ? [{ label: "Revisions", onAct: () => onWindow("revisions") }] : []),
          { label: "Remarks", onAct: () => onWindow("remarks") },
          ...(may.may_share ? [{ label: "Share", onAct: () => onWindow("share") }] : []),
          { label: "Keys", hint: "?", onAct: () => onWindow("keys") },
        ]}
      />
    </div>
  );
});

function TitleBar({
  saving,
  then,
  onLeave,
  reading,
}: {
  saving: Saving;
  then: JobThen | null;
  onLeave: () => void;
  reading: boolean;
}) {
  const { document, site, fault } = useWork("document", "site", "fault");
  const amendments = site.amendments?.length ?? 0;
  return (
    <div className="flex flex-wrap items-center gap-x-4 bg-[var(--band)] px-3 py-1.5 text-[var(--band-ink)] max-sm:gap-x-2 max-sm:px-2">
      <Link to="/" className="wide font-extrabold tracking-tight" aria-label="Nelvor, all jobs">
        NELVOR
      </Link>
      <h1 dir="auto" className="max-w-[26rem] min-w-0 truncate text-[15px] font-semibold max-sm:flex-1">
        {document.name}
      </h1>
      <span className="narrow opacity-80 max-sm:hidden">
        {document.settings.edition} rules
        {amendments ? ` · ${amendments} local amendment${amendments > 1 ? "s" : ""}` : ""}
      </span>
      {then ? <ThenAndNow then={then} /> : null}
      <Counts onLeave={onLeave} />
      {reading ? (
        <span className="narrow">for reading{fault ? `: ${fault}` : ""}</span>
      ) : (
        <SavingWords saving={saving} fault={fault} />
      )}
    </div>
  );
}

function ThenAndNow({ then }: { then: JobThen }) {
  const signature = then.signature as Record<string, string>;
  const counts = then.counts as Record<string, number>;
  return (
    <span className="narrow opacity-80 max-sm:hidden">
      saved with rulebook {signature.rulebook}: {counts.must_fix} must fix then
    </span>
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
    <span
      role="status"
      data-saving={saving.kind}
      className="narrow max-w-[24rem] max-sm:w-full max-sm:data-[saving=saved]:sr-only max-sm:data-[saving=waiting]:sr-only"
    >
      {words}
      {detail ? <strong className="ml-1"> {detail}</strong> : null}
    </span>
  );
}

const StateSwitch = memo(function StateSwitch() {
  const { state, show } = useWork("state", "show");
  return (
    <div
      role="group"
      aria-label="Shown and edited"
      className="flex overflow-hidden rounded-sm border border-rule max-sm:hidden"
    >
      {(["existing", "proposed"] as const).map((item) => (
        <button
          key={item}
          type="button"
          aria-pressed={item === state}
          className="px-2 py-0.5 text-soft aria-pressed:bg-ink aria-pressed:text-paper pointer-coarse:min-h-11"
          onClick={() => show(item)}
        >
          {item === "existing" ? "Existing" : "Proposed"}
        </button>
      ))}
    </div>
  );
});
