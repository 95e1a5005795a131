/**
 * All that a job's page works with, in one store: the edited document, what is shown of it, its report, and the acts
 * that change it. A part of the page is drawn anew when what it reads of the store has changed.
 */
import { createStore, type StoreApi } from "zustand";
import type { Schemas } from "../api/client";
import { edit, type Operation } from "./changes";
import { owners, resolve, type Document, type ListName, type State } from "./document";
import { feedingRun } from "./feeds";
import { begin, reduce, type Action, type Pending, type Work } from "./reducer";
import { removeAndJoin } from "./refitting";
import { shared } from "./sharing";
import { removal, worthAsking, type Removing } from "./removing";

export type Report = Schemas["ReportOut"];

export interface JobState {
  work: Work;
  document: Document;
  /** The document resolved to the state that is shown and edited. */
  site: Document;
  state: State;
  report: Report | null;
  /** Whether the report belongs to the document as it stands now, in the state that is shown. */
  fresh: boolean;
  /** Why there is no newer report. */
  fault: string | null;
  mayWrite: boolean;
  /** Whether the log of what is done and found on site may be added to. */
  mayWriteOnSite: boolean;
  selected: string | null;
  touched: Set<string>;
  /** The workings that are open, counted, since a figure may stand in two places. */
  workings: ReadonlyMap<string, number>;
  /** What is about to be taken out, where more goes with it than a person expects. */
  removing: Removing | null;

  dispatch: (action: Action) => void;
  show: (state: State) => void;
  /** Take in the report of the document as it stood when it was asked for. */
  take: (report: Report, of: JobState) => void;
  tellFault: (fault: string | null) => void;
  select: (id: string | null) => void;
  /** Keep the working of a figure with each report until the returned function is called. */
  openWorking: (key: string) => () => void;
  act: (label: string, operations: Operation[], key?: string) => void;
  put: (list: ListName, id: string, field: string, value: unknown, label?: string) => void;
  /** Take a thing out; where more goes with it, that is said first. */
  remove: (label: string, list: ListName, id: string) => void;
  carryOut: (removing: Removing) => void;
  /** Take an enclosure out as asked, and feed what it fed from what fed it. */
  carryOutJoining: (removing: Removing) => void;
  keep: () => void;
  seal: () => void;
}

export type JobStore = StoreApi<JobState>;

interface Job {
  document: Document;
  head: number;
  may_write: boolean;
  may_write_on_site: boolean;
}

export function createJobStore(job: Job, unsaved: Pending[]): JobStore {
  return createStore<JobState>()((set, get) => {
    const dispatch = (action: Action) => {
      const { work: before, state } = get();
      const work = reduce(before, action);
      const edited = work.document !== before.document;
      if (!edited) set({ work });
      else {
        const { document, touched } = work;
        set({ work, document, touched, site: resolve(document, state), fresh: false });
      }
    };
    const count = (key: string, by: number) => {
      const workings = new Map(get().workings);
      const times = (workings.get(key) ?? 0) + by;
      if (times > 0) workings.set(key, times);
      else workings.delete(key);
      set({ workings });
    };
    const work = begin(job.document, job.head, unsaved);
    return {
      work,
      document: work.document,
      site: resolve(work.document, "proposed"),
      state: "proposed",
      report: null,
      fresh: false,
      fault: null,
      mayWrite: job.may_write,
      mayWriteOnSite: job.may_write_on_site,
      selected: null,
      touched: work.touched,
      workings: new Map(),
      removing: null,
      dispatch,
      show: (state) => set({ state, site: resolve(get().document, state), fresh: false }),
      take: (report, of) => {
        const { document, state, report: before } = get();
        set({ report: shared(before, report), fault: null, fresh: of.document === document && of.state === state });
      },
      tellFault: (fault) => set({ fault }),
      select: (selected) => set({ selected }),
      openWorking: (key) => {
        count(key, 1);
        return () => count(key, -1);
      },
      act: (label, operations, key) => {
        if (get().mayWrite) dispatch({ type: "do", label, operations, key });
      },
      put: (list, id, field, value, label) => {
        const { document, state, act } = get();
        const operations = edit(document, state, list, id, field, value);
        act(label ?? `Change ${field.replaceAll("_", " ")}`, operations, `${list}.${id}.${field}`);
      },
      remove: (label, list, id) => {
        const { document, state, mayWrite, carryOut } = get();
        if (!mayWrite) return;
        const found = { label, list, id, removal: removal(document, state, list, id) };
        if (worthAsking(found.removal)) set({ removing: found });
        else carryOut(found);
      },
      carryOut: ({ label, id, removal: { operations } }) => {
        const { site, selected, act } = get();
        const feeding = feedingRun(site, id)?.from_part;
        const ahead = feeding === undefined ? undefined : owners(site).get(feeding);
        act(label, operations);
        set({ removing: null, selected: selected === id ? (ahead ?? null) : selected });
      },
      carryOutJoining: ({ label, list, id, removal: found }) => {
        const { document, state, carryOut } = get();
        const operations = removeAndJoin(document, state, id);
        carryOut({ label: `${label}, and feed on what is behind`, list, id, removal: { ...found, operations } });
      },
      keep: () => set({ removing: null }),
      seal: () => dispatch({ type: "seal" }),
    };
  });
}
