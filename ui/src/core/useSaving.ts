/**
 * Autosave: one revision for each undo step, sent in order within a second of a pause. What does not go is tried again
 * with growing pauses; a save that is refused for what it holds waits for the user or for the edit that mends it.
 */
import { useEffect, useRef, useState, type Dispatch } from "react";
import { ApiFailure, answered, api, renewSession, type Conflict, type Schemas } from "../api/client";
import { keep } from "./keep";
import type { Action, Pending, Work } from "./reducer";

const PAUSE_MS = 700;
const FIRST_RETRY_MS = 1000;
const LONGEST_RETRY_MS = 30_000;
const REFUSED_FOR_GOOD = new Set([403, 404, 413, 422]);

export type Difference = Schemas["DifferenceOut"];

export type Trouble =
  | { kind: "away" }
  | { kind: "signed-out" }
  | { kind: "refused"; message: string; save: Pending }
  | { kind: "conflict"; conflict: Conflict; save: Pending };

export type Saving = { kind: "saved" } | { kind: "waiting" } | Trouble;

export interface SavingState {
  saving: Saving;
  /** Whether this browser keeps what waits, so that a reload loses nothing. */
  kept: boolean;
  /** What the newest joined save brought from others. */
  came: Difference[];
  settle: () => void;
  retry: () => void;
  forgetCame: () => void;
}

export function useSaving(jobId: string, work: Work, dispatch: Dispatch<Action>, mayWrite: boolean): SavingState {
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [kept, setKept] = useState(true);
  const [came, setCame] = useState<Difference[]>([]);
  const [attempt, setAttempt] = useState(0);
  const failures = useRef(0);
  const busy = useRef(false);
  const next = work.pending[0];
  const count = work.pending.length;
  const base = next?.base ?? work.base;
  const heldBy =
    trouble?.kind === "conflict" || (trouble?.kind === "refused" && trouble.save.save_id === next?.save_id);
  const held = heldBy && count === 1;

  useEffect(() => {
    keep(jobId, work.base, work.pending).then(
      () => setKept(true),
      () => setKept(false),
    );
  }, [jobId, work.base, work.pending]);

  useEffect(() => {
    if (!next || !mayWrite || trouble?.kind === "conflict" || held || busy.current) return;
    if (trouble?.kind === "refused" && heldBy) {
      dispatch({ type: "combine" });
      return;
    }
    const failed = failures.current;
    const pause = failed ? Math.min(FIRST_RETRY_MS * 2 ** (failed - 1), LONGEST_RETRY_MS) : count > 1 ? 0 : PAUSE_MS;
    const send = async () => {
      busy.current = true;
      dispatch({ type: "sending", save_id: next.save_id, base });
      const { save_id, summary, operations } = next;
      try {
        const body = { base, save_id, summary, operations };
        const answer = await answered(
          api.POST("/api/jobs/{job_id}/revisions", { params: { path: { job_id: jobId } }, body }),
        );
        failures.current = 0;
        setTrouble(null);
        if (answer.came?.length) setCame(answer.came);
        dispatch({ type: "saved", save_id, number: answer.number, joined: answer.document ?? null });
      } catch (failure) {
        failures.current += 1;
        setTrouble(await troubleOf(failure, next));
      } finally {
        busy.current = false;
        setAttempt((number) => number + 1);
      }
    };
    const timer = setTimeout(() => void send(), pause);
    return () => clearTimeout(timer);
  }, [next, base, jobId, mayWrite, held, heldBy, trouble, attempt, count, dispatch]);

  return {
    saving: trouble ?? (count ? { kind: "waiting" } : { kind: "saved" }),
    kept: kept || count === 0,
    came,
    settle: () => {
      failures.current = 0;
      setTrouble(null);
    },
    retry: () => {
      failures.current = 0;
      setTrouble(null);
      setAttempt((number) => number + 1);
    },
    forgetCame: () => setCame([]),
  };
}

async function troubleOf(failure: unknown, save: Pending): Promise<Trouble> {
  if (!(failure instanceof ApiFailure)) return { kind: "away" };
  if (failure.conflict) return { kind: "conflict", conflict: failure.conflict, save };
  if (failure.status === 401) return { kind: "signed-out" };
  if (failure.status === 400) await renewSession().catch(() => undefined);
  if (!REFUSED_FOR_GOOD.has(failure.status)) return { kind: "away" };
  const first = failure.issues[0];
  return { kind: "refused", save, message: first ? `${first.path}: ${first.reason} ${first.remedy}` : failure.message };
}
