/** What the new jobs of the shop begin with: its title block, the edition in force here, and its usual limits. */
import { useCallback, useEffect, useState } from "react";
import { answered, api, messageOf, type Schemas } from "../api/client";
import { Button } from "../kit/Button";
import { ChoiceField, NumberField, TextField } from "../kit/Field";

type Kept = Schemas["ShopDefaultsOut"];
type Values = Kept["defaults"];

const TEXTS = [
  ["contractor", "Contractor"],
  ["license", "License"],
  ["authority", "Authority"],
] as const;
const NUMBERS = [
  ["feeder_drop_limit_percent", "Feeder drop limit", "%"],
  ["total_drop_limit_percent", "Drop to the outlet", "%"],
  ["power_factor", "Power factor", ""],
  ["ambient_c", "Ambient", "°C"],
] as const;

export function Defaults() {
  const [kept, setKept] = useState<Kept | null>(null);
  const [fault, setFault] = useState("");
  const read = useCallback(() => {
    answered(api.GET("/api/shop/defaults")).then(setKept, (failure: unknown) => setFault(messageOf(failure)));
  }, []);
  useEffect(read, [read]);
  if (fault && !kept) return <p role="alert">{fault}</p>;
  if (!kept) return <p>Reading the defaults…</p>;
  return <DefaultsForm key={kept.number} kept={kept} onKept={setKept} onReadAgain={read} />;
}

interface FormProps {
  kept: Kept;
  onKept: (kept: Kept) => void;
  onReadAgain: () => void;
}

function DefaultsForm({ kept, onKept, onReadAgain }: FormProps) {
  const [values, setValues] = useState<Values>(kept.defaults);
  const [fault, setFault] = useState("");
  const [editions, setEditions] = useState<string[]>([]);
  useEffect(() => {
    answered(api.GET("/api/editions")).then(
      (told) => setEditions(told.editions),
      () => setEditions([]),
    );
  }, []);
  const set = (field: keyof Values) => (value: unknown) => setValues({ ...values, [field]: value });
  const changed = JSON.stringify(values) !== JSON.stringify(kept.defaults);
  const save = () => {
    setFault("");
    answered(api.PUT("/api/shop/defaults", { body: { base: kept.number, defaults: values } })).then(
      onKept,
      (failure: unknown) => setFault(messageOf(failure)),
    );
  };
  const common = { list: "settings", disabled: !kept.may_write } as const;
  return (
    <form
      aria-label="What a new job begins with"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <div className="grid gap-x-6 sm:grid-cols-2">
        <div>
          {TEXTS.map(([field, label]) => (
            <TextField
              key={field}
              {...common}
              field={field}
              label={label}
              value={values[field]}
              onChange={set(field)}
            />
          ))}
          <ChoiceField
            {...common}
            field="edition"
            label="Code edition"
            value={values.edition}
            options={[
              { value: "", label: "chosen for each job" },
              ...editions.map((item) => ({ value: item, label: item })),
            ]}
            onChange={set("edition")}
          />
        </div>
        <div>
          {NUMBERS.map(([field, label, unit]) => (
            <NumberField
              key={field}
              {...common}
              field={field}
              label={label}
              unit={unit}
              value={values[field]}
              onChange={set(field)}
            />
          ))}
        </div>
      </div>
      {kept.may_write ? (
        <p className="mt-4 flex items-center gap-3">
          <Button kind="main" type="submit" className="min-h-11" disabled={!changed}>
            Keep these defaults
          </Button>
          <span role="status" className="text-soft">
            {changed ? "not kept yet" : kept.number === 0 ? "as they come" : `list ${kept.number}`}
          </span>
        </p>
      ) : null}
      {fault ? (
        <p role="alert" className="mt-4 border-l-4 border-fix bg-sheet p-3">
          {fault} <Button onClick={onReadAgain}>Read them again</Button>
        </p>
      ) : null}
    </form>
  );
}
