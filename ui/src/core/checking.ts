/**
 * Answers while one types: the edits since a stored revision go to a check as soon as they are made, one request at a
 * time, the newest edit next. What is looked at closely (open workings, the run whose sheet is open) comes along.
 */
import { ApiFailure, answered, api } from "../api/client";
import type { JobState, JobStore, Report } from "./jobStore";

const RETRY_MS = 3000;
const BUSY_RETRY_MS = 400;

/** What a report is asked about; another question is asked where one of these is another. */
const ASKED_ABOUT = ["document", "state", "selected", "workings"] as const;

function asksTheSame(one: JobState, other: JobState): boolean {
  return ASKED_ABOUT.every((name) => one[name] === other[name]) && one.work.since === other.work.since;
}

/** Keep the store's report true to its document until the returned function is called. */
export function keepChecked(jobId: string, store: JobStore): () => void {
  let asking = false;
  let stopped = false;
  const ask = async () => {
    asking = true;
    for (let next = true; next && !stopped;) {
      const now = store.getState();
      const pause = await askOnce(jobId, now).then(
        (report) => {
          if (!stopped) now.take(report, now);
          return null;
        },
        (failure: unknown) => {
          now.tellFault(faultOf(failure));
          return pauseAfter(failure);
        },
      );
      if (pause) await new Promise((resolve) => setTimeout(resolve, pause));
      next = pause !== null || !asksTheSame(now, store.getState());
    }
    asking = false;
  };
  const leave = store.subscribe((now, before) => {
    if (!asking && !asksTheSame(now, before)) void ask();
  });
  void ask();
  return () => {
    stopped = true;
    leave();
  };
}

function askOnce(jobId: string, { work, state, selected, workings }: JobState): Promise<Report> {
  const { base, operations } = work.since;
  const looked_at = selected ? [selected] : [];
  const body = { base, operations, state, looked_at, workings: [...workings.keys()].sort() };
  return answered(api.POST("/api/jobs/{job_id}/check", { params: { path: { job_id: jobId } }, body }));
}

/** How long to wait before asking again; null where asking the same again is of no use. */
function pauseAfter(failure: unknown): number | null {
  if (!(failure instanceof ApiFailure)) return RETRY_MS;
  if (failure.code === "busy") return BUSY_RETRY_MS;
  return failure.away ? RETRY_MS : null;
}

function faultOf(failure: unknown): string | null {
  if (!(failure instanceof ApiFailure)) return "The check did not work.";
  if (failure.code === "busy") return null;
  const first = failure.issues[0];
  return first ? `${first.path}: ${first.reason} ${first.remedy}` : failure.message;
}
