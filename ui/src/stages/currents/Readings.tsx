/** Readings of a site that misbehaves, what they mean, and what to read next; or practice with the simulated meter. */
import { useMemo, useState, type SyntheticEvent } from "react";
import { useParams } from "react-router";
import { answered, api, messageOf, type Schemas } from "../../api/client";
import { Button } from "../../kit/Button";
import { Combo } from "../../kit/Combo";
import { useAnswer } from "../../core/useAnswer";
import { useFieldLog, type FieldEntry } from "../../core/useFieldLog";
import { Causes } from "./Causes";

type Body = Schemas["StudyBody"];
type Reading = Schemas["Reading"];
type Readable = Schemas["ObservableOut"];

const BOX = "w-24 rounded-sm border border-rule bg-sheet px-1.5 py-0.5 text-right pointer-coarse:min-h-11";
const CARE: Record<Readable["care"], string> = {
  outside: "from outside",
  behind_cover: "behind a cover: for qualified persons",
};

export function Readings({ body, onShow }: { body: Body; onShow: (bonds: Record<string, boolean>) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <details className="mx-4 mt-1" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="narrow text-soft">Readings of a system that misbehaves, and what they mean</summary>
      {open ? <Bench body={body} onShow={onShow} /> : null}
    </details>
  );
}

function Bench({ body, onShow }: { body: Body; onShow: (bonds: Record<string, boolean>) => void }) {
  const [practice, setPractice] = useState<number | null>(null);
  const kept = useKept();
  const [practiced, setPracticed] = useState<Reading[]>([]);
  const readings = practice === null ? kept.readings : practiced;
  const asked = { ...body, situation: { ...body.situation, kind: "all_well" as const, place: null } };
  const readable = useAnswer(asked, (sent, signal) =>
    answered(api.POST("/api/readings/readable", { body: sent, signal })),
  );
  const counted = readings.filter((item) => !kept.left.has(keyOf(item)));
  const found = useAnswer({ ...asked, readings: counted }, (sent, signal) =>
    answered(api.POST("/api/readings/diagnose", { body: sent, signal })),
  );
  const [fault, setFault] = useState("");
  const take = (reading: Reading) => {
    setFault("");
    if (practice !== null) setPracticed([...practiced, reading]);
    else kept.keep(reading).catch((failure: unknown) => setFault(messageOf(failure)));
  };
  const simulate = (observable: string) => {
    if (practice === null) return;
    answered(api.POST("/api/readings/practice", { body: { ...asked, number: practice, observable } }))
      .then(take)
      .catch((failure: unknown) => setFault(messageOf(failure)));
  };
  const begin = (number: number | null) => {
    setPractice(number);
    setPracticed([]);
  };
  const known = readable.answer?.observables ?? [];
  const told = readable.fault ?? found.fault ?? (fault || null);
  return (
    <div className="mt-2 grid gap-x-6 gap-y-3 lg:grid-cols-[minmax(0,25rem)_minmax(0,1fr)]" data-testid="readings">
      <div>
        <Practice practice={practice} body={asked} onBegin={begin} />
        <Taken readings={readings} known={known} left={kept.left} onLeave={kept.leave} />
        <Entry
          known={known}
          practice={practice !== null}
          onTake={take}
          onSimulate={simulate}
          asked={found.answer?.next?.observable ?? null}
        />
      </div>
      <div aria-live="polite">
        {told ? (
          <p role="alert" className="text-fix">
            {told}
          </p>
        ) : null}
        {found.answer && !readable.fault ? (
          <>
            <p className="font-semibold" data-testid="diagnosis">
              {found.answer.told}
            </p>
            <Next found={found.answer} />
            <Causes causes={found.answer.causes} onShow={onShow} />
            {found.answer.contradicting.length > 0 ? (
              <p className="mt-2 text-advice">
                Without this reading one cause would give all others: {found.answer.contradicting.join("; ")}.
              </p>
            ) : null}
            <p className="narrow mt-2 border-l-4 border-advice pl-2 text-soft">{found.answer.cautions.join(" ")}</p>
          </>
        ) : null}
      </div>
    </div>
  );
}

function Next({ found }: { found: Schemas["DiagnosisOut"] }) {
  if (!found.next) return null;
  const { observable, expected } = found.next;
  return (
    <div className="my-2 border-l-4 border-copper pl-2" data-testid="next-reading">
      <p>
        <span className="wide text-xs font-bold uppercase">Read next</span> {observable.what},{" "}
        <strong dir="auto">{observable.place}</strong> <span className="narrow text-soft">{CARE[observable.care]}</span>
      </p>
      {expected.length > 0 ? (
        <ul className="narrow text-soft">
          {expected.map((item) => (
            <li key={item}>{item}</li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}

function keyOf(reading: Reading): string {
  return `${reading.observable} ${reading.value} ${reading.taken_at}`;
}

function Taken({
  readings,
  known,
  left,
  onLeave,
}: {
  readings: Reading[];
  known: Readable[];
  left: Set<string>;
  onLeave: (key: string) => void;
}) {
  if (readings.length === 0) return <p className="text-soft">Nothing read yet.</p>;
  const names = new Map(known.map((item) => [item.id, item]));
  return (
    <table aria-label="Readings" className="w-full">
      <tbody>
        {readings.map((reading) => {
          const item = names.get(reading.observable);
          const key = keyOf(reading);
          const words = item ? `${item.what}, ${item.place}` : "no longer part of the site";
          return (
            <tr key={key} className="border-b border-rule" data-reading={reading.observable}>
              <td>
                <label className="flex items-baseline gap-1.5">
                  <input
                    type="checkbox"
                    checked={item !== undefined && !left.has(key)}
                    disabled={!item}
                    onChange={() => onLeave(key)}
                  />
                  <span dir="auto">{words}</span>
                </label>
              </td>
              <td className="text-right whitespace-nowrap tabular-nums">
                {reading.value} {reading.unit}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** A reading typed in, or taken with the simulated meter; what the diagnosis asks for stands ready. */
function Entry({
  known,
  practice,
  asked,
  onTake,
  onSimulate,
}: {
  known: Readable[];
  practice: boolean;
  asked: Readable | null;
  onTake: (reading: Reading) => void;
  onSimulate: (observable: string) => void;
}) {
  const [chosen, choose] = useState<string | null>(null);
  const [value, setValue] = useState("");
  const id = chosen ?? asked?.id ?? null;
  const item = known.find((one) => one.id === id);
  const number = Number(value);
  const take = (event: SyntheticEvent) => {
    event.preventDefault();
    if (!item) return;
    if (practice) onSimulate(item.id);
    else if (value.trim() !== "" && number >= 0)
      onTake({
        observable: item.id,
        value: number,
        unit: item.unit,
        taken_at: new Date().toISOString(),
        instrument: "",
      });
    else return;
    choose(null);
    setValue("");
  };
  return (
    <form className="mt-2 flex flex-wrap items-center gap-1.5" onSubmit={take}>
      <div className="min-w-0 grow">
        <Combo
          label="What is read"
          value={id}
          options={known.map((one) => ({ value: one.id, label: `${one.place}: ${one.what}` }))}
          empty={null}
          onChange={(next) => choose(next === null ? null : String(next))}
        />
      </div>
      {practice ? (
        <Button type="submit" disabled={!item}>
          Read it
        </Button>
      ) : (
        <>
          <input
            aria-label="Value read"
            inputMode="decimal"
            className={BOX}
            value={value}
            aria-invalid={value !== "" && !(number >= 0)}
            onChange={(event) => setValue(event.target.value)}
          />
          <span>{item?.unit ?? "A"}</span>
          <Button type="submit" disabled={!item || value.trim() === "" || !(number >= 0)}>
            Add
          </Button>
        </>
      )}
    </form>
  );
}

/** The same site with a fault that a number hides, read with the simulated meter. */
function Practice({
  practice,
  body,
  onBegin,
}: {
  practice: number | null;
  body: Body;
  onBegin: (number: number | null) => void;
}) {
  const [hidden, setHidden] = useState("");
  const begin = (number: number | null) => {
    setHidden("");
    onBegin(number);
  };
  const show = () => {
    if (practice === null) return;
    answered(api.POST("/api/readings/hidden", { body: { ...body, number: practice, observable: "" } }))
      .then(({ words }) => setHidden(words))
      .catch((failure: unknown) => setHidden(messageOf(failure)));
  };
  if (practice === null)
    return (
      <p className="mb-1">
        <Button kind="quiet" onClick={() => begin(Math.floor(Math.random() * 100000))}>
          Practice with a hidden fault
        </Button>
      </p>
    );
  return (
    <div className="mb-2 border-l-4 border-copper pl-2">
      <p>Practice: a fault is hidden here under number {practice}. The simulated meter reads it, with its error.</p>
      <p className="flex flex-wrap gap-2">
        <Button kind="quiet" onClick={show}>
          Show what was hidden
        </Button>
        <Button kind="quiet" onClick={() => begin(Math.floor(Math.random() * 100000))}>
          Another one
        </Button>
        <Button kind="quiet" onClick={() => begin(null)}>
          Back to the real readings
        </Button>
      </p>
      {hidden ? <p className="font-semibold">{hidden}.</p> : null}
    </div>
  );
}

/** The readings in the job's log of what was done on site: only ever added to; which of them count is chosen here. */
function useKept() {
  const { jobId = "" } = useParams();
  const { entries, append } = useFieldLog(jobId);
  const readings = useMemo(() => entries.flatMap(readingOf), [entries]);
  const [left, setLeft] = useState<Set<string>>(new Set());
  const keep = (reading: Reading) => append([entryOf(reading)]);
  const leave = (key: string) => {
    const next = new Set(left);
    if (!next.delete(key)) next.add(key);
    setLeft(next);
  };
  return { readings, left, keep, leave };
}

function entryOf(reading: Reading): FieldEntry {
  return {
    thing_id: reading.observable.split(":")[1] ?? "",
    kind: "reading",
    text: reading.observable,
    value: reading.value,
    unit: reading.unit,
    taken_at: reading.taken_at,
    taken_by: reading.instrument,
  };
}

function readingOf(entry: FieldEntry): Reading[] {
  const known = entry.kind === "reading" && entry.value !== null && (entry.unit === "A" || entry.unit === "V");
  if (!known || !/^(run|electrode|volts):/.test(entry.text)) return [];
  return [
    {
      observable: entry.text,
      value: entry.value ?? 0,
      unit: entry.unit as Reading["unit"],
      taken_at: entry.taken_at,
      instrument: entry.taken_by,
    },
  ];
}
