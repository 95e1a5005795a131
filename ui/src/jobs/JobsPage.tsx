import { Description, Label, Radio, RadioGroup } from "@headlessui/react";
import { useEffect, useRef, useState, type SyntheticEvent } from "react";
import { Link, useNavigate } from "react-router";
import type { Session } from "../api/client";
import { ApiFailure, answered, api, ofFile, type Issue, type Schemas, messageOf } from "../api/client";
import { Button } from "../kit/Button";
import { DeleteJob } from "./DeleteJob";
import { JobTable, type JobActs } from "./JobTable";

type Loaded = { kind: "loading" } | { kind: "failed"; message: string } | { kind: "ready"; jobs: Schemas["JobLine"][] };

/** The jobs of the shop: open one, begin one, read one from a file. */
export function JobsPage({
  member,
  onSignedOut,
}: {
  member: Schemas["MemberOut"];
  onSignedOut: (session: Session) => void;
}) {
  const [loaded, setLoaded] = useState<Loaded>({ kind: "loading" });
  const [choices, setChoices] = useState<Schemas["EditionsOut"] | null>(null);
  const [fault, setFault] = useState<{ message: string; issues: Issue[] } | null>(null);
  const [doomed, setDoomed] = useState<Schemas["JobLine"] | null>(null);
  const jobs = loaded.kind === "ready" ? loaded.jobs : [];
  const navigate = useNavigate();

  useEffect(() => {
    answered(api.GET("/api/jobs"))
      .then((answer) => setLoaded({ kind: "ready", jobs: answer.jobs }))
      .catch((failure: unknown) => setLoaded({ kind: "failed", message: messageOf(failure) }));
    answered(api.GET("/api/editions"))
      .then(setChoices)
      .catch(() => setChoices(null));
  }, []);

  const open = (promise: Promise<Schemas["JobOut"]>) =>
    promise
      .then((job) => navigate(`/jobs/${job.id}/path`))
      .catch((failure: unknown) =>
        setFault({ message: messageOf(failure), issues: failure instanceof ApiFailure ? failure.issues : [] }),
      );

  const acts: JobActs = {
    copy: (job) => void open(answered(api.POST("/api/jobs/{job_id}/copy", { params: { path: { job_id: job.id } } }))),
    archive: (job, archived) =>
      void answered(
        api.POST("/api/jobs/{job_id}/archive", { params: { path: { job_id: job.id } }, body: { archived } }),
      )
        .then((answer) => setLoaded({ kind: "ready", jobs: answer.jobs }))
        .catch((failure: unknown) => setFault({ message: messageOf(failure), issues: [] })),
    remove: member.may_delete_jobs ? setDoomed : null,
  };

  return (
    <main className="mx-auto max-w-3xl p-4 sm:p-8">
      <header className="mb-6 flex flex-wrap items-baseline justify-between gap-2 border-b-2 border-ink pb-2">
        <h1 className="wide text-2xl font-extrabold tracking-tight">NELVOR</h1>
        <Link to="/figures" className="font-semibold text-copper hover:underline">
          Quick figures
        </Link>
        <Link to="/shop" className="font-semibold text-copper hover:underline">
          The shop
        </Link>
        <p className="ml-auto text-soft">
          {member.name} ·{" "}
          <Button kind="quiet" onClick={() => void answered(api.DELETE("/api/session")).then(onSignedOut)}>
            Sign out
          </Button>
        </p>
      </header>
      {loaded.kind === "loading" ? <p>Reading the jobs…</p> : null}
      {loaded.kind === "failed" ? <p role="alert">{loaded.message}</p> : null}
      {loaded.kind === "ready" ? <JobTable jobs={loaded.jobs} acts={member.may_write ? acts : null} /> : null}
      {member.may_write ? (
        <div className="grid gap-6 sm:grid-cols-[minmax(0,2fr)_minmax(0,1fr)]">
          <NewJob choices={choices} onBegin={(body) => void open(answered(api.POST("/api/jobs", { body })))} />
          <ReadJob onRead={(file) => open(read(file))} />
        </div>
      ) : null}
      {doomed ? (
        <DeleteJob
          job={doomed}
          onClose={() => setDoomed(null)}
          onDeleted={() => {
            setDoomed(null);
            setLoaded({ kind: "ready", jobs: jobs.filter((job) => job.id !== doomed.id) });
          }}
        />
      ) : null}
      {fault ? <Faults message={fault.message} issues={fault.issues} /> : null}
    </main>
  );
}

type NewJobBody = Schemas["NewJobBody"];

function NewJob(props: { choices: Schemas["EditionsOut"] | null; onBegin: (body: NewJobBody) => void }) {
  const { choices, onBegin } = props;
  const [name, setName] = useState("");
  const [edition, setEdition] = useState("");
  const [starter, setStarter] = useState("");
  useEffect(() => {
    answered(api.GET("/api/shop/defaults")).then(
      ({ defaults }) => setEdition((chosen) => chosen || defaults.edition),
      () => undefined, // then it is chosen here
    );
  }, []);
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    onBegin({ name: name.trim(), edition, starter });
  };
  const starters = [EMPTY, ...(choices?.starters ?? [])];
  return (
    <form onSubmit={submit} className="space-y-2">
      <h2 className="wide font-bold">Begin a job</h2>
      <label className="block">
        Name
        <input
          className="mt-0.5 block min-h-11 w-full rounded-sm border border-rule bg-sheet px-2"
          required
          maxLength={200}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label className="block">
        Code edition in force
        <select
          className="mt-0.5 block min-h-11 w-full rounded-sm border border-rule bg-sheet px-2"
          required
          value={edition}
          onChange={(event) => setEdition(event.target.value)}
        >
          <option value="">choose</option>
          {choices?.editions.map((item) => (
            <option key={item}>{item}</option>
          ))}
        </select>
      </label>
      <RadioGroup value={starter} onChange={setStarter} aria-label="Begin from" className="grid gap-1.5 sm:grid-cols-2">
        {starters.map((item) => (
          <Radio
            key={item.key}
            value={item.key}
            className="cursor-pointer rounded-sm border border-rule bg-sheet px-2.5 py-1.5 data-checked:border-copper data-checked:bg-touched data-hover:border-copper"
          >
            <Label className="block cursor-pointer font-semibold">{item.title}</Label>
            <Description className="narrow text-soft">{item.words}</Description>
          </Radio>
        ))}
      </RadioGroup>
      <Button kind="main" type="submit" className="min-h-11">
        Begin
      </Button>
    </form>
  );
}

const EMPTY = { key: "", title: "Empty", words: "Begin at the utility and feed one box from another." };

/** Begin a job from a file: a document, or one with its pictures. */
async function read(file: File): Promise<Schemas["JobOut"]> {
  return (await isZip(file))
    ? answered(api.POST("/api/jobs/import.zip", ofFile(file)))
    : answered(api.POST("/api/jobs/import", ofFile(file)));
}

const isZip = async (file: File) => (await file.slice(0, 2).text()) === "PK";

function ReadJob({ onRead }: { onRead: (file: File) => Promise<unknown> }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <section className="space-y-2">
      <h2 className="wide font-bold">Read a job from a file</h2>
      <p className="text-soft">A job in JSON, or a ZIP with its pictures, as the Packet stage writes them.</p>
      <input
        ref={input}
        type="file"
        accept=".json,.zip,application/json,application/zip"
        aria-label="Job file"
        className="block min-h-11 w-full file:mr-2 file:min-h-11 file:cursor-pointer file:rounded-sm file:border file:border-solid file:border-copper file:bg-transparent file:px-2.5 file:font-semibold file:text-copper"
        onChange={(event) => {
          const file = event.target.files?.[0];
          const clear = () => {
            if (input.current) input.current.value = "";
          };
          if (file) void onRead(file).finally(clear);
        }}
      />
    </section>
  );
}

function Faults({ message, issues }: { message: string; issues: Issue[] }) {
  return (
    <div role="alert" className="mt-4 border-l-4 border-fix bg-sheet p-3">
      <p className="font-semibold">{issues.length ? "The job could not be read; nothing was changed." : message}</p>
      <ul>
        {issues.map((issue, at) => (
          <li key={at}>
            <code>{issue.path || "file"}</code>: {issue.reason} {issue.remedy}
          </li>
        ))}
      </ul>
    </div>
  );
}
