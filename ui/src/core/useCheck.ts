/** Answers while one types: the whole document goes to a stateless check, the newest answer is kept. */
import { useEffect, useState } from "react";
import { ApiFailure, call, type Schemas } from "../api/client";
import type { Document, State } from "./document";

export type Report = Schemas["ReportOut"];

const DEBOUNCE_MS = 60;
const RETRY_MS = 3000;

/** ``fresh`` tells whether the report belongs to the document as it stands now. */
export interface Checked {
  report: Report | null;
  fresh: boolean;
  fault: string | null;
}

export function useCheck(document: Document, state: State): Checked {
  const [checked, setChecked] = useState<{ report: Report; document: Document; state: State } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [attempt, setAttempt] = useState(0);

  useEffect(() => {
    const abort = new AbortController();
    let retry: ReturnType<typeof setTimeout> | undefined;
    const timer = setTimeout(async () => {
      try {
        const report = await call<Report>("POST", "/check", { document, state }, abort.signal);
        setChecked({ report, document, state });
        setFault(null);
      } catch (failure) {
        if (abort.signal.aborted) return;
        setFault(faultOf(failure));
        if (failure instanceof ApiFailure && failure.away)
          retry = setTimeout(() => setAttempt((count) => count + 1), RETRY_MS);
      }
    }, DEBOUNCE_MS);
    return () => {
      clearTimeout(timer);
      clearTimeout(retry);
      abort.abort();
    };
  }, [document, state, attempt]);

  return { report: checked?.report ?? null, fresh: checked?.document === document && checked.state === state, fault };
}

function faultOf(failure: unknown): string {
  if (!(failure instanceof ApiFailure)) return "The check did not work.";
  const first = failure.issues[0];
  return first ? `${first.path}: ${first.reason} ${first.remedy}` : failure.message;
}
