/** What the parts of a job's page read of its store. */
import { createContext, useContext } from "react";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type { JobState, JobStore } from "./jobStore";

export const OpenJob = createContext<JobStore | null>(null);

/** Read some entries of the store; the caller is drawn anew when one of these has changed, and for nothing else. */
export function useWork<Name extends keyof JobState>(...names: Name[]): Pick<JobState, Name> {
  const store = useContext(OpenJob);
  if (!store) throw new Error("useWork outside of a job");
  return useStore(
    store,
    useShallow((work) => Object.fromEntries(names.map((name) => [name, work[name]])) as Pick<JobState, Name>),
  );
}
