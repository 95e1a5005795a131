/** A stateless question about the document as it stands: asked again whenever it changes, the newest answer is kept. */
import { useEffect, useState } from "react";
import { ApiFailure, call, type Issue, messageOf } from "../api/client";

export interface Asked<T> {
  answer: T | null;
  fault: string | null;
  issues: Issue[];
}

const PAUSE_MS = 80;

export function useAnswer<T>(path: string, body: unknown): Asked<T> {
  const [asked, setAsked] = useState<Asked<T>>({ answer: null, fault: null, issues: [] });
  const text = JSON.stringify(body);
  useEffect(() => {
    const abort = new AbortController();
    const timer = setTimeout(() => {
      call<T>("POST", path, text, abort.signal)
        .then((answer) => setAsked({ answer, fault: null, issues: [] }))
        .catch((failure: unknown) => {
          if (abort.signal.aborted) return;
          const issues = failure instanceof ApiFailure ? failure.issues : [];
          setAsked((before) => ({ ...before, fault: messageOf(failure), issues }));
        });
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [path, text]);
  return asked;
}
