/** The shop: what its new jobs begin with, the local rules that it keeps for its jobs, its members, and one's own password. */
import { useCallback, useEffect, useState } from "react";
import { Link } from "react-router";
import { ApiFailure, answered, api, type Issue, type Schemas, messageOf } from "../api/client";
import { Button } from "../kit/Button";
import { Issues } from "../kit/Issues";
import { numberFault } from "../core/limits";
import { Defaults } from "./Defaults";
import { History } from "./History";
import { Members, OwnPassword } from "./Members";
import { Sources } from "./Sources";
import { LOCAL_RULES, ruleWords } from "./rules";

type Rules = Schemas["LocalRulesOut"];
type Rule = Schemas["Amendment"];
type Loaded = { kind: "loading" } | { kind: "failed"; message: string } | { kind: "ready"; kept: Rules };

export function ShopPage({ mayReadHistory }: { mayReadHistory: boolean }) {
  const [loaded, setLoaded] = useState<Loaded>({ kind: "loading" });
  const read = useCallback(() => {
    answered(api.GET("/api/shop/rules"))
      .then((kept) => setLoaded({ kind: "ready", kept }))
      .catch((failure: unknown) => setLoaded({ kind: "failed", message: messageOf(failure) }));
  }, []);
  useEffect(read, [read]);
  return (
    <main className="mx-auto max-w-3xl p-4 sm:p-8">
      <header className="mb-6 flex flex-wrap items-baseline justify-between gap-2 border-b-2 border-ink pb-2">
        <h1 className="wide text-2xl font-extrabold tracking-tight">The shop</h1>
        <Link to="/" className="font-semibold text-copper hover:underline">
          Jobs
        </Link>
      </header>
      <Heading>What a new job begins with</Heading>
      <p className="mb-4 max-w-prose text-soft">
        A job takes these over when it begins; jobs that stand stay as they are. Each can be changed in the job.
      </p>
      <Defaults />
      <Heading>Local rules</Heading>
      <p className="mb-4 max-w-prose text-soft">
        What the offices here ask beyond the code. A new job begins with copies of these; a job that stands is told
        which it lacks. Each change is kept in the shop&apos;s history.
      </p>
      {loaded.kind === "loading" ? <p>Reading the rules…</p> : null}
      {loaded.kind === "failed" ? <p role="alert">{loaded.message}</p> : null}
      {loaded.kind === "ready" ? (
        <RuleList
          key={loaded.kept.number}
          kept={loaded.kept}
          onKept={(kept) => setLoaded({ kind: "ready", kept })}
          onReadAgain={read}
        />
      ) : null}
      <Heading>Sources</Heading>
      <Sources />
      <Heading>Members</Heading>
      <Members />
      <Heading>Your password</Heading>
      <OwnPassword />
      {mayReadHistory ? (
        <>
          <Heading>History</Heading>
          <History />
        </>
      ) : null}
    </main>
  );
}

function Heading({ children }: { children: string }) {
  return <h2 className="wide mt-8 mb-2 text-lg font-bold first-of-type:mt-0">{children}</h2>;
}

type Saving =
  { kind: "idle" } | { kind: "saving" } | { kind: "stale"; message: string } | { kind: "refused"; issues: Issue[] };

function RuleList({
  kept,
  onKept,
  onReadAgain,
}: {
  kept: Rules;
  onKept: (kept: Rules) => void;
  onReadAgain: () => void;
}) {
  const [rules, setRules] = useState<Rule[]>(kept.rules);
  const [saving, setSaving] = useState<Saving>({ kind: "idle" });
  const changed = JSON.stringify(rules) !== JSON.stringify(kept.rules);
  const change = (at: number, values: Partial<Rule>) =>
    setRules(rules.map((rule, place) => (place === at ? { ...rule, ...values } : rule)));
  const save = () => {
    setSaving({ kind: "saving" });
    answered(api.PUT("/api/shop/rules", { body: { base: kept.number, rules } }))
      .then(onKept)
      .catch((failure: unknown) => {
        const known = failure instanceof ApiFailure ? failure : null;
        if (known?.code === "stale") setSaving({ kind: "stale", message: messageOf(failure) });
        else
          setSaving({
            kind: "refused",
            issues: known?.issues.length
              ? known.issues
              : [{ code: "", path: "", reason: messageOf(failure), remedy: "" }],
          });
      });
  };
  return (
    <>
      {rules.length === 0 ? <p className="mb-4">No local rule is kept. The code alone holds.</p> : null}
      <ul className="mb-4 border-b border-rule">
        {rules.map((rule, at) => (
          <RuleLine
            key={rule.id}
            rule={rule}
            mayWrite={kept.may_write}
            onChange={(values) => change(at, values)}
            onRemove={() => setRules(rules.filter((_, place) => place !== at))}
          />
        ))}
      </ul>
      {kept.may_write ? (
        <>
          <p className="flex flex-wrap gap-2">
            {LOCAL_RULES.map((known) => (
              <Button key={known.key} onClick={() => setRules([...rules, begun(known.key, rules)])}>
                {known.label}
              </Button>
            ))}
          </p>
          <p className="mt-4 flex items-center gap-3">
            <Button kind="main" className="min-h-11" disabled={!changed || saving.kind === "saving"} onClick={save}>
              Keep these rules
            </Button>
            <span role="status" className="text-soft">
              {saving.kind === "saving" ? "Saving…" : changed ? "not kept yet" : `list ${kept.number}`}
            </span>
          </p>
        </>
      ) : null}
      {saving.kind === "stale" ? (
        <p role="alert" className="mt-4 border-l-4 border-fix bg-sheet p-3">
          {saving.message} <Button onClick={onReadAgain}>Read them again</Button>
        </p>
      ) : null}
      {saving.kind === "refused" ? <Issues issues={saving.issues} /> : null}
    </>
  );
}

function begun(key: string, rules: Rule[]): Rule {
  const known = LOCAL_RULES.find((item) => item.key === key);
  const taken = new Set(rules.map((rule) => rule.id));
  let number = 1;
  while (taken.has(`${key}-${number}`)) number += 1;
  return {
    id: `${key}-${number}`,
    standing: "existing",
    proposed: {},
    key,
    action: known?.action ?? "at_least",
    value: known?.value ?? null,
    unit: known?.unit ?? "",
    source_note: "",
  };
}

const BOX = "min-h-9 rounded-sm border border-rule bg-sheet px-2 aria-invalid:border-fix pointer-coarse:min-h-11";

function RuleLine({
  rule,
  mayWrite,
  onChange,
  onRemove,
}: {
  rule: Rule;
  mayWrite: boolean;
  onChange: (values: Partial<Rule>) => void;
  onRemove: () => void;
}) {
  const known = LOCAL_RULES.find((item) => item.key === rule.key);
  const label = known?.label ?? rule.key;
  const [text, setText] = useState(rule.value === null ? "" : String(rule.value));
  const number = Number(text);
  const fault = text.trim() === "" ? "Enter a number." : numberFault("amendments", "value", number);
  const takesValue = known ? known.value !== null : rule.value !== null;
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule py-2">
      <span className="w-32 font-semibold">{label}</span>
      {takesValue ? (
        <label className="flex items-center gap-1">
          <span className="sr-only">{label}, value</span>
          <input
            className={`${BOX} w-20`}
            inputMode="decimal"
            disabled={!mayWrite}
            value={text}
            aria-invalid={fault !== undefined}
            onChange={(event) => {
              setText(event.target.value);
              const value = Number(event.target.value);
              if (event.target.value.trim() !== "" && numberFault("amendments", "value", value) === undefined)
                onChange({ value });
            }}
          />
          <span className="narrow text-soft">{rule.unit}</span>
        </label>
      ) : null}
      <label className="flex min-w-48 flex-1 items-center gap-2">
        <span className="narrow whitespace-nowrap text-soft">Written in</span>
        <input
          className={`${BOX} w-full`}
          dir="auto"
          maxLength={2000}
          disabled={!mayWrite}
          value={rule.source_note}
          placeholder="ordinance, memo, told by"
          onChange={(event) => onChange({ source_note: event.target.value })}
        />
      </label>
      {mayWrite ? (
        <Button kind="quiet" aria-label={`Remove ${ruleWords(rule)}`} onClick={onRemove}>
          Remove
        </Button>
      ) : null}
      {takesValue && fault ? (
        <span role="alert" className="basis-full text-fix">
          {fault}
        </span>
      ) : null}
    </li>
  );
}
