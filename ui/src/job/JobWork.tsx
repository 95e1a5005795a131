/** The work surface of a job: edits, answers, saving, keys; the stages are drawn inside it. */
import { TabGroup, TabPanel, TabPanels } from "@headlessui/react";
import { Fragment, memo, useCallback, useEffect, useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { focusSoon } from "../core/focus";
import { FindingsList, focusNextFinding, type GoTo } from "../findings/FindingsList";
import { OpenJob, useDerived, useWork } from "../core/context";
import { keepChecked } from "../core/checking";
import { createJobStore } from "../core/jobStore";
import type { Pending } from "../core/reducer";
import { useFocusKept } from "../core/useFocusKept";
import { useSaving, type SavingState } from "../core/useSaving";
import { ConflictWindow } from "./ConflictWindow";
import { STAGES, stageNamed } from "../stages/registry";
import { Header, type WindowName } from "./Header";
import { ChangesWindow } from "./ChangesWindow";
import { KeysWindow } from "./KeysWindow";
import { RemovingWindow } from "./RemovingWindow";
import { SavingNotes } from "./SavingNotes";
import { RemarksWindow } from "./RemarksWindow";
import { RevisionsWindow } from "./RevisionsWindow";
import { ShareWindow } from "./ShareWindow";
import { useKeys } from "./useKeys";

interface JobWorkProps {
  job: Schemas["JobOut"];
  /** What an earlier visit could not save. */
  unsaved: Pending[];
  stage: string;
  reload: () => void;
}

export function JobWork({ job, unsaved, stage, reload }: JobWorkProps) {
  const [store] = useState(() => createJobStore(job, unsaved));
  useEffect(() => keepChecked(job.id, store), [job.id, store]);
  return (
    <OpenJob.Provider value={store}>
      <Desk job={job} stage={stage} reload={reload} />
    </OpenJob.Provider>
  );
}

function Desk({ job, stage, reload }: Omit<JobWorkProps, "unsaved">) {
  const { work, state, mayWrite } = useWork("work", "state", "mayWrite");
  const { dispatch, show, select } = useWork("dispatch", "show", "select");
  const [window_, setWindow] = useState<WindowName | null>(null);
  const close = useCallback(() => setWindow(null), []);
  const navigate = useNavigate();
  const savingState = useSaving(job.id, work, dispatch, mayWrite);
  const goTo = useCallback(
    (name: string) => void navigate(`/jobs/${job.id}/${name}`, { replace: true }),
    [navigate, job.id],
  );
  const toPath = useCallback(() => goTo("path"), [goTo]);
  const toJob = useCallback(() => {
    select(null);
    goTo("path");
    requestAnimationFrame(() => window.document.getElementById("job-sheet")?.focus());
  }, [goTo, select]);
  useFocusKept();
  useKeys({
    undo: () => dispatch({ type: "undo" }),
    redo: () => dispatch({ type: "redo" }),
    help: () => setWindow("keys"),
    stage: (number) => {
      const stage = STAGES[number];
      if (!stage) return;
      goTo(stage.name);
      focusSoon(`[data-stage=${stage.name}]`); // Tab goes on in it
    },
    finding: focusNextFinding,
    state: () => show(state === "existing" ? "proposed" : "existing"),
  });
  useEffect(() => {
    window.document.title = `${work.document.name} · Nelvor`;
  }, [work.document.name]);

  return (
    <>
      <TabGroup
        manual
        selectedIndex={STAGES.indexOf(stageNamed(stage))}
        onChange={(at) => STAGES[at] && goTo(STAGES[at].name)}
        className="flex h-full flex-col max-lg:h-auto"
      >
        <Fresh />
        <Header
          saving={savingState.saving}
          onJobSheet={toJob}
          onLeave={toPath}
          onWindow={setWindow}
          then={job.then ?? null}
          may={job}
        />
        <SavingNotes
          state={savingState}
          homeless={work.homeless}
          onSetAside={(save) => dispatch({ type: "set-aside", save_id: save.save_id })}
          onToldHomeless={() => dispatch({ type: "told-homeless" })}
        />
        <Surface stage={stage} jobId={job.id} saved={savingState.saving.kind === "saved"} onGo={goTo} />
      </TabGroup>
      <RemovingWindow />
      <KeysWindow open={window_ === "keys"} onClose={close} />
      <ChangesWindow open={window_ === "changes"} onClose={close} />
      <RevisionsWindow jobId={job.id} open={window_ === "revisions"} onClose={close} onRestored={reload} />
      <ShareWindow jobId={job.id} open={window_ === "share"} onClose={close} />
      <RemarksWindow jobId={job.id} mayRemark={job.may_remark} open={window_ === "remarks"} onClose={close} />
      <Settling saving={savingState} />
    </>
  );
}

/** Marks whether what is shown answers to the document as it stands: for those who wait for it from outside. */
function Fresh() {
  return <span hidden data-fresh={useDerived(({ fresh }) => fresh)} />;
}

interface SurfaceProps {
  stage: string;
  jobId: string;
  saved: boolean;
  onGo: GoTo;
}

/** The stage that is shown, beside what is found; drawn anew by what its parts read of the store. */
const Surface = memo(function Surface({ stage, jobId, saved, onGo }: SurfaceProps) {
  const { name: shown } = stageNamed(stage);
  return (
    <div className="grid min-h-0 flex-1 lg:grid-cols-[15rem_minmax(0,1fr)]">
      <FindingsList onGo={onGo} />
      <TabPanels as={Fragment}>
        {STAGES.map(({ name, view: View }) => (
          <TabPanel
            key={name}
            data-stage={name}
            tabIndex={-1}
            className={name === shown ? "grid min-h-0 min-w-0 outline-none" : ""}
          >
            <View jobId={jobId} saved={saved} />
          </TabPanel>
        ))}
      </TabPanels>
    </div>
  );
});

function Settling({ saving: { saving, settle } }: { saving: SavingState }) {
  const { dispatch } = useWork("dispatch");
  if (saving.kind !== "conflict") return null;
  return (
    <ConflictWindow
      conflict={saving.conflict}
      onSettled={(settlement) => {
        dispatch({ type: "settled", save_id: saving.save.save_id, ...settlement });
        settle();
      }}
    />
  );
}
