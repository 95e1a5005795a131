/** A stateless question about the document as it stands: asked again whenever it changes, the newest answer is kept. */
import { useEffect, useRef, useState } from "react";
import { ApiFailure, type Issue, messageOf } from "../api/client";

export interface Asked<T> {
  answer: T | null;
  fault: string | null;
  issues: Issue[];
}

const PAUSE_MS = 80;

/** ``ask`` is called with what is asked about and a signal that ends the question. */
export function useAnswer<T, B>(body: B, ask: (body: B, signal: AbortSignal) => Promise<T>): Asked<T> {
  const [asked, setAsked] = useState<Asked<T>>({ answer: null, fault: null, issues: [] });
  const newest = useRef({ ask, body });
  useEffect(() => {
    newest.current = { ask, body };
  });
  const text = JSON.stringify(body);
  useEffect(() => {
    const abort = new AbortController();
    const timer = setTimeout(() => {
      newest.current
        .ask(newest.current.body, abort.signal)
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
  }, [text]);
  return asked;
}
