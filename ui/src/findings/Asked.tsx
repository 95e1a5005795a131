/** What a finding asks for, answered where it is asked. A number is taken when it is whole: by Enter, or on leaving it. */
import { memo, useId, useState } from "react";
import type { Schemas } from "../api/client";
import { BOX, Combo } from "../kit/Combo";
import { edit } from "../core/changes";
import { find, listOf, type ListName, type Thing } from "../core/document";
import { readFeet } from "../core/lengths";
import { limitOf, numberFault } from "../core/limits";
import { unitOf, word } from "../core/words";
import { useDerived, useJobStore } from "../core/context";

type Ask = Schemas["AskOut"];

const YES_NO = [
  { value: "yes", label: "yes" },
  { value: "no", label: "no" },
];

/** The room that a field takes, kept for it until it is drawn. */
const FIELD_REM = 1.75;

export function Asked({ asks, near }: { asks: Ask[]; near: boolean }) {
  return (
    <div
      role="group"
      aria-label="Answer it here"
      className="mt-0.5 space-y-0.5"
      style={near ? undefined : { minHeight: `${asks.length * FIELD_REM}rem` }}
    >
      {near ? asks.map((ask) => <AskedField key={`${ask.id} ${ask.field}`} {...ask} />) : null}
    </div>
  );
}

const AskedField = memo(function AskedField(ask: Ask) {
  const job = useJobStore();
  const id = useId();
  const list = ask.list as ListName;
  const limit = limitOf(list, ask.field);
  const value = useDerived(({ site }) => {
    const thing = find(listOf(site, list), ask.id) as Record<string, unknown> | undefined;
    return (thing?.[ask.field] ?? null) as string | number | boolean | null;
  });
  const take = (next: string | number | boolean | null) => {
    const { document, act, put, seal } = job.getState();
    const words = `${ask.label}: answered`;
    const standing = find(listOf(document, list), ask.id) as (Thing & Record<string, unknown>) | undefined;
    // What stands and was not known is read now; it is no change that the proposal makes.
    if (standing?.standing === "existing" && (standing[ask.field] ?? null) === null)
      act(words, edit(document, "existing", list, ask.id, ask.field, next));
    else put(list, ask.id, ask.field, next, words);
    seal();
  };
  const yesNo = limit.type === "boolean";
  const choices = yesNo
    ? YES_NO
    : (limit.enum ?? []).map((item) => ({
        value: item,
        label: word(String(item), ask.field) + unitOf(ask.field, " "),
      }));
  const shown = typeof value === "boolean" ? (value ? "yes" : "no") : value;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_6.5rem] items-center gap-x-1.5">
      <label htmlFor={id} className="narrow text-soft">
        {ask.label}
      </label>
      {choices.length > 0 ? (
        <Combo
          id={id}
          value={shown}
          options={choices}
          empty="not known"
          onChange={(chosen) => take(yesNo && chosen !== null ? chosen === "yes" : chosen)}
        />
      ) : (
        <TypedAnswer id={id} ask={ask} onTake={take} />
      )}
    </div>
  );
});

function TypedAnswer({ id, ask, onTake }: { id: string; ask: Ask; onTake: (value: string | number) => void }) {
  const [text, setText] = useState("");
  const [fault, setFault] = useState<string>();
  const isNumber = ["number", "integer"].includes(limitOf(ask.list, ask.field).type ?? "");
  const leave = () => {
    if (text.trim() === "") return;
    if (!isNumber) {
      onTake(text);
      return;
    }
    const isLength = ask.field.endsWith("_ft");
    const number = isLength ? readFeet(text) : Number(text.trim().replace(",", "."));
    const told =
      number === undefined
        ? "This is not a length. Write 180, 60 ft 6 in or 18 m."
        : numberFault(ask.list, ask.field, number);
    setFault(told);
    if (number !== undefined && told === undefined) onTake(number);
  };
  return (
    <>
      <span className="flex items-center gap-1">
        <input
          id={id}
          className={BOX}
          value={text}
          placeholder="not known"
          inputMode={isNumber ? "decimal" : undefined}
          aria-invalid={fault !== undefined}
          aria-describedby={fault ? `${id}-fault` : undefined}
          onChange={(event) => setText(event.target.value)}
          onBlur={leave}
          onKeyDown={(event) => event.key === "Enter" && leave()}
        />
        <span className="narrow text-soft">{unitOf(ask.field)}</span>
      </span>
      {fault ? (
        <p role="alert" id={`${id}-fault`} className="narrow col-span-2 text-fix">
          {fault}
        </p>
      ) : null}
    </>
  );
}
