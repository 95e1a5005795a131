/** A stateless question about the document as it stands: asked again whenever it changes, the newest answer is kept. */
import { useEffect, useRef, useState } from "react";
import { ApiFailure, type Issue, messageOf } from "../api/client";

export interface Asked<T> {
  answer: T | null;
  fault: string | null;
  issues: Issue[];
  /** Whether that is about what is asked now: while a newer question is under way it is not. */
  fresh: boolean;
}

const PAUSE_MS = 80;

/** ``ask`` is called with what is asked about and a signal that ends the question. */
export function useAnswer<T, B>(body: B, ask: (body: B, signal: AbortSignal) => Promise<T>): Asked<T> {
  const [asked, setAsked] = useState<Omit<Asked<T>, "fresh"> & { of: string }>({
    answer: null,
    fault: null,
    issues: [],
    of: "",
  });
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
        .then((answer) => setAsked({ answer, fault: null, issues: [], of: text }))
        .catch((failure: unknown) => {
          if (abort.signal.aborted) return;
          const issues = failure instanceof ApiFailure ? failure.issues : [];
          setAsked((before) => ({ ...before, fault: messageOf(failure), issues, of: text }));
        });
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [text]);
  const { of, ...told } = asked;
  return { ...told, fresh: of === text };
}
