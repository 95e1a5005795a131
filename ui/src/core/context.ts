/** What the parts of a job's page read of its store. */
import { createContext, useContext } from "react";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type { Document } from "./document";
import type { JobState, JobStore } from "./jobStore";

export const OpenJob = createContext<JobStore | null>(null);

/** The store itself, for what is read only at the moment of an act. */
export function useJobStore(): JobStore {
  const store = useContext(OpenJob);
  if (!store) throw new Error("used outside of a job");
  return store;
}

/** Read some entries of the store; the caller is drawn anew when one of these has changed, and for nothing else. */
export function useWork<Name extends keyof JobState>(...names: Name[]): Pick<JobState, Name> {
  return useDerived((work) => Object.fromEntries(names.map((name) => [name, work[name]])) as Pick<JobState, Name>);
}

/** Read some lists of the site that is shown; the caller is drawn anew when one of these has changed. */
export function useSite<Name extends keyof Document>(...names: Name[]): Pick<Document, Name> {
  return useDerived(({ site }) => Object.fromEntries(names.map((name) => [name, site[name]])) as Pick<Document, Name>);
}

/** Read what follows from the store; the caller is drawn anew when that has changed, though what it rests on changes often. */
export function useDerived<Value>(derive: (work: JobState) => Value): Value {
  return useStore(useJobStore(), useShallow(derive));
}
