/** The main view: the path in the middle, the sheet of what is selected at its side. */
import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent as KeyPress } from "react";
import { focusPlace } from "../../core/focus";
import { Button } from "../../kit/Button";
import { beginAtUtility, feed, feedFrom, type Where } from "../../core/building";
import { feedingRun } from "../../core/feeds";
import type { NewKind } from "../../core/fitOut";
import { useWork } from "../../core/context";
import type { DrawingActions } from "./actions";
import { PathDrawing } from "./PathDrawing";
import { PathTable } from "./PathTable";
import { PositionBar } from "../PositionBar";
import { Sheet } from "../../sheets/Sheet";

export function PathStage() {
  const { document, site, report, selected, select, act, put, seal, remove, state, mayWrite } = useWork(
    "document",
    "site",
    "report",
    "selected",
    "select",
    "act",
    "put",
    "seal",
    "remove",
    "state",
    "mayWrite",
  );
  const sheet = useRef<HTMLElement>(null);
  const [playing, play] = useState<string | null>(null);
  const played = report?.positions.find((item) => item.name === playing) ?? null;

  const focusIn = useCallback((selector: string) => {
    // The second frame comes after a menu has given the focus back to its button.
    requestAnimationFrame(() =>
      requestAnimationFrame(() => {
        const field = sheet.current?.querySelector<HTMLElement>(selector);
        field?.focus();
        if (field instanceof HTMLInputElement) field.select();
      }),
    );
  }, []);
  const addFrom = useCallback(
    (kind: NewKind, where?: Where) => {
      if (!selected) return;
      const { operations, id } = feed(document, state, selected, kind, where);
      act(`Feed a new ${kind}`, operations);
      select(id);
      focusIn("input, select");
    },
    [act, document, focusIn, selected, select, state],
  );
  const removeSelected = useCallback(() => {
    if (!selected) return;
    const list = (["enclosures", "sources", "runs"] as const).find((name) =>
      (document[name] ?? []).some((item) => item.id === selected),
    );
    if (list) remove("Remove", list, selected);
  }, [remove, document, selected]);
  const actions: DrawingActions = useMemo(
    () => ({
      onOpen: () => focusIn("input, select"),
      onOpenRun: () => {
        const run = selected ? feedingRun(site, selected) : undefined;
        if (!run) return;
        select(run.id);
        focusIn("input, select");
      },
      onAdd: () => {
        const menu = sheet.current?.querySelector<HTMLElement>("[data-mark=add]");
        menu?.focus();
        menu?.dispatchEvent(new KeyboardEvent("keydown", { key: "ArrowDown", bubbles: true, cancelable: true }));
      },
      onRefeed: () => focusIn("[data-feed] select"),
      onRemove: () => mayWrite && removeSelected(),
      onLengthen: (feet) => {
        const run = selected ? feedingRun(site, selected) : undefined;
        if (run) put("runs", run.id, "length_ft", Math.max(1, (run.length_ft ?? 0) + feet), "Change length");
      },
      onLength: (runId, feet) => {
        put("runs", runId, "length_ft", feet, "Move");
        seal();
      },
      onFeedFrom: (runId, fromId) => act("Feed from elsewhere", feedFrom(document, state, runId, fromId)),
    }),
    [act, document, focusIn, mayWrite, put, removeSelected, seal, select, selected, site, state],
  );

  const backToDrawing = (event: KeyPress) => {
    if (event.key !== "Escape" || event.defaultPrevented || !selected) return;
    const run = report?.runs[selected];
    if (run) select(run.to_id);
    focusPlace(run ? run.to_id : selected);
  };

  if ((site.sources ?? []).length === 0) return <EmptyPath />;
  return (
    <div className="grid min-h-0 min-w-0 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <div className="flex min-h-0 min-w-0 flex-col">
        <PositionBar positions={report?.positions ?? []} played={played} onPlay={play} />
        {report ? (
          <PathDrawing report={report} played={played} actions={actions} />
        ) : (
          <p className="p-4">Working it out…</p>
        )}
        {report ? <PathTable report={report} played={played} /> : null}
      </div>
      <aside
        ref={sheet}
        aria-label="Sheet"
        data-testid="sheet"
        onKeyDown={backToDrawing}
        className="flex min-h-0 flex-col overflow-y-auto border-l border-rule bg-sheet px-3 pt-2 max-lg:border-t max-lg:border-l-0"
      >
        <Sheet onAdd={addFrom} onRemove={removeSelected} onFeedFrom={actions.onFeedFrom} />
      </aside>
    </div>
  );
}

const SYSTEMS = [
  { value: "split_120_240", label: "120/240 V one-phase" },
  { value: "wye_208_120", label: "208Y/120 V three-phase" },
];

/** Nothing is drawn yet: begin where the power comes from. */
function EmptyPath() {
  const { document, state, act, select, mayWrite } = useWork("document", "state", "act", "select", "mayWrite");
  const choices = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (window.document.activeElement === window.document.body) choices.current?.querySelector("button")?.focus();
  }, []);
  return (
    <div className="p-8">
      <h2 className="wide text-lg font-bold">Begin where the power comes from</h2>
      <p className="mb-4 max-w-md text-soft">
        The drawing follows the power: utility, meter, disconnect, panels. Choose the system at the service; the rest is
        fed from there.
      </p>
      <div ref={choices} className="flex flex-wrap gap-2">
        {SYSTEMS.map((system) => (
          <Button
            key={system.value}
            kind="main"
            disabled={!mayWrite}
            className="min-h-11"
            onClick={() => {
              const { operations, id } = beginAtUtility(document, state, system.value);
              act("Begin at the utility", operations);
              select(id);
              focusPlace(id);
            }}
          >
            Utility at {system.label}
          </Button>
        ))}
      </div>
    </div>
  );
}
