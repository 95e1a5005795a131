/** Circuits entered as one reads a door: number, text, poles, amperes, Enter; the next number stands ready. */
import { useRef, useState, type SubmitEvent } from "react";
import { Button } from "../../kit/Button";
import { useWork } from "../../core/context";
import { addBreaker, firstFit, refusal, type Schedule } from "../../core/panel";

const CELL =
  "rounded-sm border border-rule bg-sheet px-1.5 py-0.5 aria-invalid:border-fix aria-invalid:border-2 pointer-coarse:min-h-11";
const LARGEST_A = 6000;

export function DoorEntry({ schedule, onAdded }: { schedule: Schedule; onAdded: (id: string | null) => void }) {
  const { document, state, act, mayWrite } = useWork("document", "state", "act", "mayWrite");
  const [typed, type] = useState({ space: "", name: "", poles: "1", rating: "20" });
  const [fault, setFault] = useState<string | null>(null);
  const first = useRef<HTMLInputElement>(null);
  const poles = Number(typed.poles);
  const next = firstFit(schedule, poles, 1);
  if (!mayWrite) return null;
  const add = (event: SubmitEvent) => {
    event.preventDefault();
    const space = Number(typed.space || next);
    const rating = typed.rating.trim() === "" ? null : Number(typed.rating.replace(/\s*a$/i, ""));
    const wrong =
      rating !== null && !(rating > 0 && rating <= LARGEST_A)
        ? `Amperes: a number above 0 and up to ${LARGEST_A}.`
        : space
          ? refusal(schedule, poles, { space, half: null })
          : "No space is free for it.";
    setFault(wrong);
    if (wrong) return;
    const added = addBreaker(document, state, schedule, { space, name: typed.name.trim(), poles, rating_a: rating });
    act(`Breaker in space ${space}`, added.operations);
    onAdded(null);
    type({ ...typed, space: "", name: "" });
    first.current?.focus();
  };
  const set = (field: keyof typeof typed) => (event: { target: { value: string } }) =>
    type({ ...typed, [field]: event.target.value });
  return (
    <form onSubmit={add} aria-label="Enter a circuit" className="mt-2 flex flex-wrap items-end gap-2">
      <Cell label="Space">
        <input
          ref={first}
          inputMode="numeric"
          className={`${CELL} w-14`}
          placeholder={next === null ? "–" : String(next)}
          value={typed.space}
          aria-invalid={fault !== null}
          aria-describedby={fault ? "door-fault" : undefined}
          onChange={set("space")}
        />
      </Cell>
      <Cell label="What the door says">
        <input dir="auto" maxLength={200} className={`${CELL} w-52`} value={typed.name} onChange={set("name")} />
      </Cell>
      <Cell label="Poles">
        <select aria-label="Poles" className={CELL} value={typed.poles} onChange={set("poles")}>
          {[1, 2, 3].slice(0, Math.max(1, schedule.legs.length)).map((number) => (
            <option key={number}>{number}</option>
          ))}
        </select>
      </Cell>
      <Cell label="Amperes">
        <input inputMode="decimal" className={`${CELL} w-16`} value={typed.rating} onChange={set("rating")} />
      </Cell>
      <Button type="submit">Add</Button>
      {fault ? (
        <p id="door-fault" role="alert" className="w-full text-fix">
          {fault}
        </p>
      ) : null}
    </form>
  );
}

function Cell({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <label className="flex flex-col">
      <span className="narrow text-soft">{label}</span>
      {children}
    </label>
  );
}
