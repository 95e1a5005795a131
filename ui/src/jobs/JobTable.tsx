/** The jobs of the shop: found by name, place, customer or status; copied, put away and fetched back. */
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { word } from "../core/words";
import { Glyph, type Outcome } from "../kit/Glyph";
import { Menu } from "../kit/Menu";

type JobLine = Schemas["JobLine"];

export interface JobActs {
  copy: (job: JobLine) => void;
  archive: (job: JobLine, archived: boolean) => void;
  /** Ask whether a job is to be deleted; null for whoever may not. */
  remove: ((job: JobLine) => void) | null;
}

const COUNTED: Outcome[] = ["must_fix", "advice", "cannot_tell", "holds"];

export function JobTable({ jobs, acts }: { jobs: JobLine[]; acts: JobActs | null }) {
  const [wanted, setWanted] = useState("");
  const [away, setAway] = useState(false);
  if (jobs.length === 0) return <p className="mb-8 text-soft">No job yet. Begin one below, or read one from a file.</p>;
  const putAway = jobs.filter((job) => job.archived).length;
  const shown = jobs.filter((job) => job.archived === away && matches(job, wanted));
  return (
    <section className="mb-8" aria-label="Jobs">
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <input
          type="search"
          aria-label="Find a job"
          placeholder="Find by name, address, customer, status"
          className="min-h-11 min-w-0 flex-1 rounded-sm border border-rule bg-sheet px-2"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
        {putAway > 0 || away ? (
          <label className="flex min-h-11 items-center gap-2">
            <input type="checkbox" checked={away} onChange={(event) => setAway(event.target.checked)} />
            archived ({putAway})
          </label>
        ) : null}
      </div>
      {shown.length === 0 ? <p className="text-soft">No job here answers to that.</p> : null}
      <ul className="border-b border-rule">
        {shown.map((job) => (
          <JobRow key={job.id} job={job} acts={acts} />
        ))}
      </ul>
    </section>
  );
}

/** Every word that is typed has to stand somewhere in what is shown of the job. */
function matches(job: JobLine, wanted: string): boolean {
  const told = [job.name, job.address, job.customer, job.edition, word(job.status), job.author].join(" ").toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((part) => told.includes(part));
}

function JobRow({ job, acts }: { job: JobLine; acts: JobActs | null }) {
  const where = [job.address, job.customer].filter(Boolean).join(" · ");
  return (
    <li className="flex items-stretch border-t border-rule hover:bg-touched" data-job={job.name}>
      <Link
        to={`/jobs/${job.id}/path`}
        className="grid min-h-11 min-w-0 flex-1 gap-x-4 px-1 py-1.5 sm:grid-cols-[minmax(0,1fr)_auto]"
      >
        <span dir="auto" className="truncate text-base font-semibold">
          {job.name}
        </span>
        <Counts counts={job.counts} />
        <span dir="auto" className="narrow truncate text-soft">
          {where || "no address or customer entered"}
        </span>
        <span className="narrow text-soft sm:text-right">
          {word(job.status)} · {job.edition} · {job.author}, {new Date(job.updated_at).toLocaleString()}
        </span>
      </Link>
      {acts ? (
        <Menu
          button="More"
          label={`More for ${job.name}`}
          className="min-h-11 px-2 text-copper"
          acts={[
            { label: "Copy", onAct: () => acts.copy(job) },
            { label: job.archived ? "Fetch back" : "Archive", onAct: () => acts.archive(job, !job.archived) },
            ...(acts.remove && job.archived ? [{ label: "Delete…", onAct: () => acts.remove?.(job) }] : []),
          ]}
        />
      ) : null}
    </li>
  );
}

function Counts({ counts }: { counts: Schemas["JobCounts"] | null }) {
  if (!counts) return <span className="narrow text-soft sm:text-right">not judged yet</span>;
  return (
    <span className="flex items-center gap-3 sm:justify-end">
      {COUNTED.map((outcome) => (
        <span key={outcome} className="flex items-center gap-1" data-outcome={outcome}>
          <Glyph outcome={outcome} />
          <span className="sr-only">{word(outcome)}: </span>
          {counts[outcome]}
        </span>
      ))}
    </span>
  );
}
