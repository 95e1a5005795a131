/** One job: loads it, then hands it to the work surface. */
import { useCallback, useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import { ApiFailure, answered, api, type Schemas, messageOf } from "../api/client";
import { takeOver } from "../core/keep";
import type { Pending } from "../core/reducer";
import { JobWork } from "./JobWork";

type Loaded =
  | { kind: "loading" }
  | { kind: "failed"; message: string; away: boolean }
  | { kind: "ready"; job: Schemas["JobOut"]; unsaved: Pending[] };

const RETRY_MS = 2500;

export function JobPage() {
  const { jobId = "", stage = "path" } = useParams();
  const [loaded, setLoaded] = useState<Loaded>({ kind: "loading" });
  const load = useCallback(() => {
    Promise.all([
      answered(api.GET("/api/jobs/{job_id}", { params: { path: { job_id: jobId } } })),
      takeOver(jobId).catch(() => []),
    ])
      .then(([job, unsaved]) => setLoaded({ kind: "ready", job, unsaved }))
      .catch((failure: unknown) =>
        setLoaded({ kind: "failed", message: messageOf(failure), away: failure instanceof ApiFailure && failure.away }),
      );
  }, [jobId]);
  useEffect(load, [load]);
  const away = loaded.kind === "failed" && loaded.away;
  useEffect(() => {
    if (!away) return;
    const timer = setInterval(load, RETRY_MS);
    return () => clearInterval(timer);
  }, [away, load]);

  if (loaded.kind === "loading") return <p className="p-6">Opening the job…</p>;
  if (loaded.kind === "failed")
    return (
      <p className="p-6">
        {loaded.message} {loaded.away ? "Trying again…" : <Link to="/">Back to the jobs</Link>}
      </p>
    );
  return (
    <JobWork
      key={`${jobId}:${loaded.job.head}`}
      job={loaded.job}
      unsaved={loaded.unsaved}
      stage={stage}
      reload={load}
    />
  );
}
