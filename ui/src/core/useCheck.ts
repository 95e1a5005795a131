/**
 * Answers while one types: the edits since a stored revision go to a check, one request at a time, the newest edit
 * next. What is looked at closely (open workings, the run whose sheet is open) comes along.
 */
import { useEffect, useRef, useState } from "react";
import { ApiFailure, answered, api, type Schemas } from "../api/client";
import type { Document, State } from "./document";
import type { Work } from "./reducer";

export type Report = Schemas["ReportOut"];

const RETRY_MS = 3000;
const BUSY_RETRY_MS = 400;

/** ``fresh`` tells whether the report belongs to the document as it stands now. */
export interface Checked {
  fresh: boolean;
  fault: string | null;
}

interface Wanted {
  document: Document;
  state: State;
  since: Work["since"];
  lookedAt: string[];
  workings: string[];
}

interface Answered {
  document: Document;
  state: State;
}

export function useCheck(
  jobId: string,
  work: Work,
  state: State,
  lookedAt: string[],
  workings: string[],
  take: (report: Report) => void,
): Checked {
  const [answered, setAnswered] = useState<Answered | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const wanted = useRef<Wanted | null>(null);
  const asking = useRef(false);
  const lookedAtKey = lookedAt.join();
  const workingsKey = workings.join("\n");

  useEffect(() => {
    wanted.current = { document: work.document, state, since: work.since, lookedAt, workings };
    if (asking.current) return;
    asking.current = true;
    let stopped = false;
    const ask = async () => {
      while (wanted.current && !stopped) {
        const now = wanted.current;
        const pause = await askOnce(jobId, now, (report) => {
          take(report);
          setAnswered({ document: now.document, state: now.state });
          setFault(null);
        }).catch((failure: unknown) => {
          setFault(faultOf(failure));
          return pauseAfter(failure);
        });
        if (wanted.current === now && pause === null) wanted.current = null;
        else if (pause) await new Promise((resolve) => setTimeout(resolve, pause));
      }
      asking.current = false;
    };
    void ask();
    return () => {
      if (!asking.current) stopped = true;
    };
    // The lists are compared by what they hold.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [jobId, work.document, work.since, state, lookedAtKey, workingsKey, take]);

  return { fresh: answered?.document === work.document && answered.state === state, fault };
}

/** Ask for a report; null when it came. */
async function askOnce(jobId: string, wanted: Wanted, take: (report: Report) => void): Promise<null> {
  const { base, operations } = wanted.since;
  const body = { base, operations, state: wanted.state, looked_at: wanted.lookedAt, workings: wanted.workings };
  take(await answered(api.POST("/api/jobs/{job_id}/check", { params: { path: { job_id: jobId } }, body })));
  return null;
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
