/** The work surface of a job: edits, answers, saving, keys; the stages are drawn inside it. */
import { useCallback, useEffect, useMemo, useReducer, useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { FindingsList } from "../findings/FindingsList";
import { resolve, type ListName, type State } from "../core/document";
import { edit, type Operation } from "../core/changes";
import { removal } from "../core/removing";
import { Work, type WorkContext } from "../core/context";
import { begin, reduce, type Pending } from "../core/reducer";
import { useCheck } from "../core/useCheck";
import { useLooking } from "../core/useLooking";
import { useSaving } from "../core/useSaving";
import { ConflictWindow } from "./ConflictWindow";
import { STAGES, stageNamed } from "../stages/registry";
import { Header, type WindowName } from "./Header";
import { ChangesWindow } from "./ChangesWindow";
import { KeysWindow } from "./KeysWindow";
import { RemovingWindow, worthAsking, type Removing } from "./RemovingWindow";
import { SavingNotes } from "./SavingNotes";
import { RevisionsWindow } from "./RevisionsWindow";
import { useKeys } from "./useKeys";

interface JobWorkProps {
  job: Schemas["JobOut"];
  /** What an earlier visit could not save. */
  unsaved: Pending[];
  stage: string;
  reload: () => void;
}

export function JobWork({ job, unsaved, stage, reload }: JobWorkProps) {
  const [work, dispatch] = useReducer(reduce, null, () => begin(job.document, job.head, unsaved));
  const [state, setState] = useState<State>("proposed");
  const [selected, select] = useState<string | null>(null);
  const [window_, setWindow] = useState<WindowName | null>(null);
  const navigate = useNavigate();
  const mayWrite = job.may_write;
  const savingState = useSaving(job.id, work, dispatch, mayWrite);
  const { saving } = savingState;
  const { workings, openWorking } = useLooking();
  const checked = useCheck(job.id, work, state, selected ? [selected] : [], workings);
  const site = useMemo(() => resolve(work.document, state), [work.document, state]);

  const act = useCallback(
    (label: string, operations: Operation[], key?: string) => {
      if (mayWrite) dispatch({ type: "do", label, operations, key });
    },
    [mayWrite],
  );
  const put = useCallback(
    (list: ListName, id: string, field: string, value: unknown, label?: string) =>
      act(
        label ?? `Change ${field.replaceAll("_", " ")}`,
        edit(work.document, state, list, id, field, value),
        `${list}.${id}.${field}`,
      ),
    [act, work.document, state],
  );
  const [removing, setRemoving] = useState<Removing | null>(null);
  const carryOut = useCallback(
    ({ label, id, removal: { operations } }: Removing) => {
      act(label, operations);
      if (selected === id) select(null);
      setRemoving(null);
    },
    [act, selected],
  );
  const remove = useCallback(
    (label: string, list: ListName, id: string) => {
      if (!mayWrite) return;
      const found = { label, list, id, removal: removal(work.document, state, list, id) };
      if (worthAsking(found.removal)) setRemoving(found);
      else carryOut(found);
    },
    [carryOut, mayWrite, state, work.document],
  );
  const seal = useCallback(() => dispatch({ type: "seal" }), []);
  const context: WorkContext = useMemo(
    () => ({
      document: work.document,
      site,
      state,
      report: checked.report,
      mayWrite,
      selected,
      touched: work.touched,
      select,
      openWorking,
      act,
      put,
      remove,
      seal,
    }),
    [work.document, work.touched, site, state, checked.report, mayWrite, selected, openWorking, act, put, remove, seal],
  );
  const goTo = useCallback(
    (name: string) => void navigate(`/jobs/${job.id}/${name}`, { replace: true }),
    [navigate, job.id],
  );
  useKeys({
    undo: () => dispatch({ type: "undo" }),
    redo: () => dispatch({ type: "redo" }),
    help: () => setWindow("keys"),
    stage: (number) => STAGES[number] && goTo(STAGES[number].name),
    state: () => setState(state === "existing" ? "proposed" : "existing"),
  });
  useEffect(() => {
    window.document.title = `${work.document.name} · Nelvor`;
  }, [work.document.name]);

  const { name: shown, view: View } = stageNamed(stage);

  return (
    <Work.Provider value={context}>
      <div className="flex h-full flex-col max-lg:h-auto" data-fresh={checked.fresh}>
        <Header
          stage={shown}
          saving={saving}
          fault={checked.fault}
          canUndo={work.past.length > 0}
          canRedo={work.future.length > 0}
          onUndo={() => dispatch({ type: "undo" })}
          onRedo={() => dispatch({ type: "redo" })}
          onStage={goTo}
          onState={setState}
          onWindow={setWindow}
          then={job.then ?? null}
        />
        <SavingNotes
          state={savingState}
          homeless={work.homeless}
          onSetAside={(save) => dispatch({ type: "set-aside", save_id: save.save_id })}
          onToldHomeless={() => dispatch({ type: "told-homeless" })}
        />
        <div className="grid min-h-0 flex-1 lg:grid-cols-[15rem_minmax(0,1fr)]">
          <FindingsList onLeave={() => goTo("path")} />
          <View jobId={job.id} saved={saving.kind === "saved"} />
        </div>
      </div>
      <RemovingWindow
        document={site}
        removing={removing}
        onRemove={() => removing && carryOut(removing)}
        onClose={() => setRemoving(null)}
      />
      <KeysWindow open={window_ === "keys"} onClose={() => setWindow(null)} />
      <ChangesWindow open={window_ === "changes"} onClose={() => setWindow(null)} />
      <RevisionsWindow
        jobId={job.id}
        open={window_ === "revisions"}
        onClose={() => setWindow(null)}
        onRestored={reload}
      />
      {saving.kind === "conflict" ? (
        <ConflictWindow
          conflict={saving.conflict}
          onSettled={(settlement) => {
            dispatch({ type: "settled", save_id: saving.save.save_id, ...settlement });
            savingState.settle();
          }}
        />
      ) : null}
    </Work.Provider>
  );
}
