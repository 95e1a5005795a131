/** Autosave: one revision for each undo step, sent in order within a second of a pause, retried while the server is away. */
import { useEffect, useRef, useState, type Dispatch } from "react";
import { ApiFailure, call, type Conflict, type Schemas } from "../api/client";
import { keep } from "./keep";
import type { Action, Work } from "./reducer";

const PAUSE_MS = 700;
const RETRY_MS = 2500;

export type Saving =
  | { kind: "saved" }
  | { kind: "waiting" }
  | { kind: "away" }
  | { kind: "refused"; message: string }
  | { kind: "conflict"; conflict: Conflict };

export function useSaving(jobId: string, work: Work, dispatch: Dispatch<Action>, mayWrite: boolean) {
  const [trouble, setTrouble] = useState<Exclude<Saving, { kind: "saved" | "waiting" }> | null>(null);
  const [attempt, setAttempt] = useState(0);
  const busy = useRef(false);
  const next = work.pending[0];
  const others = work.pending.length > 1;
  const held = trouble?.kind === "conflict" || trouble?.kind === "refused";

  useEffect(() => keep(jobId, work.base, work.pending), [jobId, work.base, work.pending]);

  useEffect(() => {
    if (!next || !mayWrite || held || busy.current) return;
    const timer = setTimeout(
      async () => {
        busy.current = true;
        dispatch({ type: "sending", save_id: next.save_id });
        const { save_id, summary, document } = next;
        try {
          const saved = await call<Schemas["SavedOut"]>("POST", `/jobs/${jobId}/revisions`, {
            base: work.base,
            save_id,
            summary,
            document,
          });
          setTrouble(null);
          dispatch({ type: "saved", save_id, number: saved.number });
        } catch (failure) {
          dispatch({ type: "not-sent" });
          setTrouble(troubleOf(failure));
        } finally {
          busy.current = false;
          setAttempt((count) => count + 1);
        }
      },
      trouble?.kind === "away" ? RETRY_MS : others ? 0 : PAUSE_MS,
    );
    return () => clearTimeout(timer);
  }, [next, work.base, jobId, mayWrite, held, trouble, attempt, others, dispatch]);

  const saving: Saving = trouble ?? (work.pending.length ? { kind: "waiting" } : { kind: "saved" });
  return { saving, settle: () => setTrouble(null) };
}

function troubleOf(failure: unknown): Exclude<Saving, { kind: "saved" | "waiting" }> {
  if (failure instanceof ApiFailure) {
    if (failure.conflict) return { kind: "conflict", conflict: failure.conflict };
    if (failure.away) return { kind: "away" };
    const first = failure.issues[0];
    return { kind: "refused", message: first ? `${first.path}: ${first.reason} ${first.remedy}` : failure.message };
  }
  return { kind: "away" };
}
