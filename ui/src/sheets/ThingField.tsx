/** A field bound to one property of one thing: it reads and edits the state that is shown, and marks a proposed value. */
import type { ReactNode } from "react";
import { find, listOf, type ListName, type Thing } from "../core/document";
import { useWork } from "../core/context";
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

export function ThingField({ kind, list, thing, field, label, unit, options, empty, hint }: ThingFieldProps) {
  const { document, put, seal, mayWrite } = useWork("document", "put", "seal", "mayWrite");
  const value = (thing as unknown as Record<string, unknown>)[field] ?? null;
  const common = {
    label,
    list,
    field,
    hint,
    thing: thing.id,
    disabled: !mayWrite,
    changed: field in (find(listOf(document, list), thing.id)?.proposed ?? {}),
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
