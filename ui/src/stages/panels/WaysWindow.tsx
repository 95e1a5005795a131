/** Every way to connect a source, tried out: those that pass first, each with its arithmetic and what it takes. */
import { useState, type ReactNode } from "react";
import { answered, api, type Schemas } from "../../api/client";
import { Button } from "../../kit/Button";
import { Glyph, type Outcome } from "../../kit/Glyph";
import { SchemaForm } from "../../kit/SchemaForm";
import type { Inputs, ObjectSchema } from "../../kit/schema";
import { Window } from "../../kit/Window";
import { useWork } from "../../core/context";
import { useAnswer } from "../../core/useAnswer";
import type { Enclosure, Source } from "../../core/document";
import { PriceField } from "../../sheets/PriceField";

type Way = Schemas["WayOut"];
type Rule = Schemas["RuleOut"];

/** What the ways are looked for: a source that is wanted at a panel, or one that is drawn already. */
export type Sought = { panel: Enclosure } | { source: Source };

const GLYPHS: Record<Way["outcome"], Outcome> = { passes: "holds", fails: "must_fix", cannot_tell: "cannot_tell" };
const WORDS: Record<Way["outcome"], string> = { passes: "passes", fails: "fails", cannot_tell: "cannot tell" };

export function WaysWindow({
  sought,
  onClose,
  onTaken,
}: {
  sought: Sought | null;
  onClose: () => void;
  onTaken: (deviceId: string | null) => void;
}) {
  const name = sought ? ("panel" in sought ? sought.panel.name : sought.source.name) : "";
  const title = sought && "panel" in sought ? `Ways to connect a source: ${name}` : `Ways to connect ${name}`;
  return (
    <Window wide title={title} open={sought !== null} onClose={onClose}>
      {sought ? <Searched sought={sought} onClose={onClose} onTaken={onTaken} /> : null}
    </Window>
  );
}

function Searched({
  sought,
  onClose,
  onTaken,
}: {
  sought: Sought;
  onClose: () => void;
  onTaken: (deviceId: string | null) => void;
}) {
  const { document, act } = useWork("document", "act");
  const [wanted, setWanted] = useState<Inputs>({});
  const asked =
    "panel" in sought
      ? { document: { ...document }, source_id: "", enclosure_id: sought.panel.id, wanted }
      : { document: { ...document }, source_id: sought.source.id, enclosure_id: "", wanted: {} };
  const form = useAnswer(null, () => answered(api.GET("/api/ways/wanted")));
  const enough = "source" in sought || typeof wanted.output_a === "number";
  const { answer, fault, issues, fresh } = useAnswer({ asked, enough }, (body, signal) =>
    body.enough ? answered(api.POST("/api/ways", { body: body.asked, signal })) : Promise.resolve(null),
  );
  const take = (way: Way) => {
    act(way.title, way.operations);
    const device = way.operations.find((item) => item.op === "insert" && item.list === "devices");
    onTaken(device?.op === "insert" ? String(device.thing.id) : null);
  };
  return (
    <div className={"panel" in sought ? "grid gap-5 md:grid-cols-[17rem_minmax(0,1fr)]" : ""}>
      {"panel" in sought ? (
        <div>
          <p className="mb-2 text-soft">A source that runs beside the utility; amperes are of each of its lines.</p>
          {form.answer ? (
            <SchemaForm
              schema={form.answer.wanted_schema as unknown as ObjectSchema}
              inputs={wanted}
              issues={issues}
              onChange={setWanted}
            />
          ) : null}
        </div>
      ) : null}
      <div aria-live="polite" data-testid="ways">
        {fault && enough ? (
          <p role="alert" className="mb-2 text-fix">
            {fault}
          </p>
        ) : null}
        {!enough ? (
          <p className="text-soft">Enter its rated output: every way to connect it here is then tried out.</p>
        ) : answer ? (
          <WayList found={answer} onTake={fresh ? take : null} />
        ) : fault ? null : (
          <p className="text-soft">Trying out every way…</p>
        )}
        {"source" in sought ? (
          <p className="mt-3">
            <Button onClick={onClose}>Leave it as it is</Button>
          </p>
        ) : null}
      </div>
    </div>
  );
}

/** `onTake` is null while a newer question is under way: what is shown then is not what would be drawn. */
function WayList({ found, onTake }: { found: Schemas["WaysOut"]; onTake: ((way: Way) => void) | null }) {
  const { told, ways, by_price } = found;
  const [opened, open] = useState<string | null>(null);
  const [unfolded, unfold] = useState(false);
  const shown = ways.filter((way) => unfolded || first(ways, way));
  return (
    <>
      <p className="mb-1.5 font-semibold">{told}</p>
      <p className="narrow mb-2 text-soft">
        {by_price
          ? "Those that pass come first, by the price of their parts; labor is not in it."
          : "Those that pass come first, the least work ahead. Price the parts of all that pass, and they come by price."}
      </p>
      <ul className="border-t border-rule">
        {shown.map((way) => (
          <li key={way.title} className="border-b border-rule" data-way={way.kind} data-outcome={way.outcome}>
            <button
              type="button"
              aria-expanded={opened === way.title}
              className="grid w-full grid-cols-[1.2rem_minmax(0,1fr)_auto] items-baseline gap-x-1.5 py-1.5 text-left hover:bg-touched pointer-coarse:min-h-11"
              onClick={() => open(opened === way.title ? null : way.title)}
            >
              <Glyph outcome={GLYPHS[way.outcome]} />
              <span>
                <span className="font-semibold">{way.title}</span>{" "}
                <span className="text-soft">{WORDS[way.outcome]}</span>
              </span>
              <span className="text-right tabular-nums whitespace-nowrap">
                {way.largest_a === "0" ? "no room" : way.largest_a ? `up to ${way.largest_a} A` : ""}
                {way.short_by_a && way.largest_a !== "0" ? (
                  <span className="text-fix"> · {way.short_by_a} A too many</span>
                ) : null}
              </span>
            </button>
            {opened === way.title ? <Detail way={way} onTake={onTake} /> : null}
          </li>
        ))}
      </ul>
      {shown.length < ways.length ? (
        <Button kind="quiet" onClick={() => unfold(true)}>
          {`${ways.length - shown.length} more, of these kinds with other ratings and at other panels`}
        </Button>
      ) : null}
    </>
  );
}

/** Of the ways of one kind that end alike, the first stands for all until they are asked for. */
function first(ways: Way[], way: Way): boolean {
  return ways.find((item) => item.kind === way.kind && item.outcome === way.outcome) === way;
}

function Detail({ way, onTake }: { way: Way; onTake: ((way: Way) => void) | null }) {
  return (
    <div className="pb-3 pl-6">
      {way.reasons.map((reason) => (
        <p key={reason.name + reason.text}>
          {reason.name ? <strong dir="auto">{reason.name}: </strong> : null}
          {reason.text} <span className="narrow text-soft">{reason.section}</span>
        </p>
      ))}
      {way.rules.length > 0 ? <Rules rules={way.rules} /> : null}
      <Told title="Must be true" items={way.conditions} />
      <Told title="Has to agree" items={way.consent ? [way.consent] : []} />
      <Told title="Follows from it" items={way.follows} />
      <Parts way={way} />
      <Told title="Labels" items={way.labels} />
      {way.why ? <Told title="Why it may be right" items={[way.why]} /> : null}
      {way.work.stages.length > 0 ? (
        <details className="mt-2">
          <summary className="cursor-pointer font-semibold pointer-coarse:min-h-11">
            The work, {way.steps} steps in this order
          </summary>
          <ol className="narrow text-soft">
            {way.work.stages.map((stage) => (
              <li key={stage.stage}>
                {stage.title}
                <ul className="list-disc pl-5">
                  {stage.steps.map((step) => (
                    <li key={step.text}>{step.text}</li>
                  ))}
                </ul>
              </li>
            ))}
          </ol>
        </details>
      ) : null}
      {way.operations.length > 0 ? (
        <p className="mt-2">
          <Button
            kind={way.outcome === "passes" ? "main" : undefined}
            disabled={onTake === null}
            onClick={() => onTake?.(way)}
          >
            {way.outcome === "passes" ? "Take this way" : "Draw it all the same"}
          </Button>
        </p>
      ) : null}
    </div>
  );
}

/** What is bought; what each part costs is entered here and kept with the job. */
function Parts({ way }: { way: Way }) {
  if (way.parts.length === 0) return null;
  return (
    <div className="mt-2 grid gap-x-3 md:grid-cols-[7.5rem_minmax(0,1fr)]">
      <h4 className="narrow text-soft">Parts</h4>
      <ul>
        {way.parts.map(({ words, price }) => (
          <li key={words} className="flex flex-wrap items-baseline gap-2 border-b border-rule py-0.5">
            <span dir="auto" className="min-w-0 flex-1">
              {words}
            </span>
            <PriceField item={words} price={price} label={`Price of ${words}`} />
          </li>
        ))}
        <li className="text-right">
          {way.price === null ? "price not known" : `${way.price.toFixed(2)} for all parts, without labor`}
        </li>
      </ul>
    </div>
  );
}

function Told({ title, items }: { title: string; items: string[] }): ReactNode {
  if (items.length === 0) return null;
  return (
    <div className="mt-2 grid gap-x-3 md:grid-cols-[7.5rem_minmax(0,1fr)]">
      <h4 className="narrow text-soft">{title}</h4>
      <ul>
        {items.map((item) => (
          <li key={item} dir="auto">
            {item}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Each rule as a bar held against its limit, the stroke; past it the bar is hatched. */
function Rules({ rules }: { rules: Rule[] }) {
  const most = Math.max(...rules.map((rule) => Math.max(rule.total ?? 0, rule.limit)));
  return (
    <table className="mt-2 w-full border-collapse">
      <caption className="sr-only">The rules of the bus, each with its sum against its limit</caption>
      <tbody>
        {rules.map((rule) => (
          <tr key={rule.place + rule.rule} className="align-top">
            <td className="w-5 pt-0.5">
              <Glyph outcome={rule.passes === null ? "cannot_tell" : rule.passes ? "holds" : "must_fix"} />
            </td>
            <td className="py-0.5 pr-3">
              <span dir="auto">{rule.place}</span>: {rule.rule} <span className="narrow text-soft">{rule.section}</span>
              <div className="narrow text-soft">{rule.why}</div>
            </td>
            <td className="w-36 pt-1.5">{rule.total !== null ? <Bar rule={rule} most={most} /> : null}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Bar({ rule, most }: { rule: Rule; most: number }) {
  const width = (value: number) => (140 * value) / most;
  const total = rule.total ?? 0;
  return (
    <svg viewBox="0 0 144 14" className="block w-36" role="img" aria-label={`${total} A of ${rule.limit} A`}>
      <defs>
        <pattern id="past-the-limit" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="2" height="4" fill="var(--fix)" />
        </pattern>
      </defs>
      <rect y={4} width={width(Math.min(total, rule.limit))} height={6} fill="var(--copper)" />
      {total > rule.limit ? (
        <rect x={width(rule.limit)} y={4} width={width(total - rule.limit)} height={6} fill="url(#past-the-limit)" />
      ) : null}
      <rect x={width(rule.limit)} width={1.5} height={14} fill="var(--ink)" />
    </svg>
  );
}
