/** A field bound to one property of one thing: it reads and edits the state that is shown, and marks a proposed value. */
import { memo, type ReactNode } from "react";
import { find, listOf, type ListName, type Thing } from "../core/document";
import { useDerived, useWork } from "../core/context";
import { ChoiceField, LengthField, ManyField, NumberField, TextField, YesNoField } from "../kit/Field";
import type { Option } from "../kit/Combo";

interface ThingFieldProps {
  kind: "text" | "number" | "length" | "choice" | "many" | "yes-no";
  list: ListName;
  thing: Thing;
  field: string;
  label: string;
  unit?: string;
  options?: Option[];
  empty?: string;
  hint?: ReactNode;
}

/** A sheet holds dozens: one is drawn anew only where its own value, or what else it shows, has changed. */
export const ThingField = memo(Bound, (before, now) => {
  const names = Object.keys(now) as (keyof ThingFieldProps)[];
  return (
    names.length === Object.keys(before).length &&
    names.every((name) => name === "thing" || before[name] === now[name]) &&
    before.thing.id === now.thing.id &&
    valueOf(before) === valueOf(now)
  );
});

function valueOf({ thing, field }: ThingFieldProps): unknown {
  return (thing as unknown as Record<string, unknown>)[field] ?? null;
}

function Bound(props: ThingFieldProps) {
  const { kind, list, thing, field, label, unit, options, empty, hint } = props;
  const { put, seal, mayWrite } = useWork("put", "seal", "mayWrite");
  const changed = useDerived(({ document }) => field in (find(listOf(document, list), thing.id)?.proposed ?? {}));
  const value = valueOf(props);
  const common = {
    label,
    list,
    field,
    hint,
    thing: thing.id,
    disabled: !mayWrite,
    changed,
    onLeave: seal,
    onChange: (next: unknown) => put(list, thing.id, field, next, `Change ${label.toLowerCase()}`),
  };
  switch (kind) {
    case "text":
      return <TextField {...common} value={(value as string | null) ?? ""} />;
    case "number":
      return <NumberField {...common} unit={unit} empty={empty} value={value as number | null} />;
    case "length":
      return <LengthField {...common} value={value as number | null} />;
    case "many":
      return <ManyField {...common} empty={empty} value={(value as string[] | null) ?? []} />;
    case "yes-no":
      return <YesNoField {...common} value={value as boolean | null} />;
    case "choice":
      return <ChoiceField {...common} options={options} empty={empty} value={value as string | number | null} />;
  }
}
