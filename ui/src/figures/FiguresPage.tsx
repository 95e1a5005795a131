/** Quick figures: one-off questions without a job. The address holds every input, so a link can be shared. */
import { CAUTIONS } from "../core/words";
import { useEffect, useState } from "react";
import { Link, Navigate, NavLink, useParams, useSearchParams } from "react-router";
import { ApiFailure, answered, api, type Issue, type Schemas, messageOf } from "../api/client";
import { Cautions } from "../kit/Cautions";
import { SchemaForm } from "../kit/SchemaForm";
import { FigureSheet } from "./FigureSheet";
import { fromQuery, toQuery, type Inputs, type ObjectSchema } from "../kit/schema";

type Line = Schemas["FigureLine"];
type Answer = Schemas["FigureAnswer"];
type Loaded = { kind: "loading" } | { kind: "failed"; message: string } | { kind: "ready"; figures: Line[] };

const PAUSE_MS = 200;

export function FiguresPage() {
  const { name } = useParams();
  const [loaded, setLoaded] = useState<Loaded>({ kind: "loading" });
  useEffect(() => {
    answered(api.GET("/api/figures"))
      .then((answer) => setLoaded({ kind: "ready", figures: answer.figures }))
      .catch((failure: unknown) => setLoaded({ kind: "failed", message: messageOf(failure) }));
  }, []);
  if (loaded.kind === "loading") return <p className="p-6">Reading the figures…</p>;
  if (loaded.kind === "failed") return <p className="p-6">{loaded.message}</p>;
  const figure = loaded.figures.find((item) => item.name === name);
  const first = loaded.figures[0];
  if (!figure) return first ? <Navigate to={`/figures/${first.name}`} replace /> : null;
  return (
    <div className="flex h-full flex-col max-lg:h-auto">
      <header className="flex flex-wrap items-center gap-x-4 bg-[var(--band)] px-3 py-1.5 text-[var(--band-ink)]">
        <Link to="/" className="wide font-extrabold tracking-tight" aria-label="Nelvor, all jobs">
          NELVOR
        </Link>
        <h1 className="text-[15px] font-semibold">Quick figures</h1>
      </header>
      <div className="grid min-h-0 flex-1 lg:grid-cols-[13rem_minmax(0,1fr)]">
        <FigureNames figures={loaded.figures} />
        <OneFigure key={figure.name} figure={figure} />
      </div>
    </div>
  );
}

function FigureNames({ figures }: { figures: Line[] }) {
  const groups = [...new Set(figures.map((item) => item.group))];
  return (
    <nav aria-label="Quick figures" className="min-h-0 overflow-y-auto border-r border-rule px-3 py-2 max-lg:max-h-40">
      {groups.map((group) => (
        <section key={group} className="mb-3">
          <h2 className="wide border-b border-ink text-xs font-bold uppercase">{group}</h2>
          {figures
            .filter((item) => item.group === group)
            .map((item) => (
              <NavLink
                key={item.name}
                to={`/figures/${item.name}`}
                className="block border-b border-rule px-1 py-0.5 hover:bg-touched pointer-coarse:flex pointer-coarse:items-center aria-[current]:bg-touched aria-[current]:font-semibold pointer-coarse:min-h-11"
              >
                {item.title}
              </NavLink>
            ))}
        </section>
      ))}
    </nav>
  );
}

type Told =
  { kind: "working" } | { kind: "answer"; answer: Answer } | { kind: "refused"; message: string; issues: Issue[] };

function OneFigure({ figure }: { figure: Line }) {
  const schema = figure.input_schema as unknown as ObjectSchema;
  const [query, setQuery] = useSearchParams();
  const [inputs, setInputs] = useState<Inputs>(() => (query.size ? fromQuery(schema, query) : { ...figure.example }));
  const [told, setTold] = useState<Told>({ kind: "working" });
  const [last, setLast] = useState<Answer | null>(null);
  const change = (next: Inputs) => {
    setInputs(next);
    setQuery(toQuery(next), { replace: true });
  };
  useEffect(() => {
    const abort = new AbortController();
    const entered = Object.fromEntries(Object.entries(inputs).filter(([, value]) => value !== undefined));
    const timer = setTimeout(() => {
      answered(
        api.POST("/api/figures/{name}", {
          params: { path: { name: figure.name } },
          body: { inputs: entered },
          signal: abort.signal,
        }),
      )
        .then((answer) => {
          setTold({ kind: "answer", answer });
          setLast(answer);
        })
        .catch((failure: unknown) => {
          if (abort.signal.aborted) return;
          const issues = failure instanceof ApiFailure ? failure.issues : [];
          setTold({ kind: "refused", message: messageOf(failure), issues });
        });
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [figure.name, inputs]);
  const issues = told.kind === "refused" ? told.issues : [];
  return (
    <main className="grid min-h-0 lg:grid-cols-[minmax(0,26rem)_minmax(0,1fr)]">
      <section aria-label="Inputs" className="min-h-0 overflow-y-auto px-4 py-3">
        <h2 className="text-lg font-bold">{figure.title}</h2>
        <p className="mb-3 text-soft">{figure.question}</p>
        <SchemaForm schema={schema} inputs={inputs} issues={issues} onChange={change} />
      </section>
      <section
        aria-label="Answer"
        aria-live="polite"
        tabIndex={0}
        className="min-h-0 overflow-y-auto border-l border-rule bg-sheet px-4 py-3 max-lg:border-t max-lg:border-l-0"
      >
        {told.kind === "refused" ? (
          <p role="alert" className="mb-3 font-semibold text-fix">
            {told.issues.length ? "Some inputs cannot be taken; they are marked." : told.message}
          </p>
        ) : null}
        {last ? <FigureSheet answer={last} stale={told.kind === "refused"} /> : null}
        <Cautions cautions={CAUTIONS} />
      </section>
    </main>
  );
}
