/** A form made from the JSON Schema of what is asked. A refused text stays, with its fault beside it. */
import { useId } from "react";
import type { Issue } from "../api/client";
import { Button } from "./Button";
import { word } from "../core/words";
import { controlOf, defaultsOf, type Control, type Inputs, type ObjectSchema, type Property } from "./schema";

const BOX =
  "w-full min-w-0 rounded-sm border border-rule bg-sheet px-1.5 py-1 text-ink aria-invalid:border-fix pointer-coarse:min-h-11";

interface FormProps {
  schema: ObjectSchema;
  inputs: Inputs;
  issues: Issue[];
  onChange: (inputs: Inputs) => void;
}

export function SchemaForm({ schema, inputs, issues, onChange }: FormProps) {
  return (
    <div className="space-y-1.5">
      {Object.entries(schema.properties).map(([name, property]) => {
        const control = controlOf(schema, property);
        const set = (value: unknown) => onChange({ ...inputs, [name]: value });
        const value = inputs[name] ?? property.default ?? null;
        return control.kind === "rows" ? (
          <Rows
            key={name}
            name={name}
            title={property.title ?? word(name)}
            item={control.item}
            rows={Array.isArray(value) ? (value as Inputs[]) : []}
            issues={issues}
            onChange={set}
          />
        ) : (
          <FormField
            key={name}
            name={name}
            property={property}
            control={control}
            value={value}
            issues={issues}
            onChange={set}
          />
        );
      })}
    </div>
  );
}

function FormField({
  name,
  property,
  control,
  value,
  issues,
  onChange,
}: {
  name: string;
  property: Property;
  control: Exclude<Control, { kind: "rows" }>;
  value: unknown;
  issues: Issue[];
  onChange: (value: unknown) => void;
}) {
  const id = useId();
  const faults = issues.filter((issue) => issue.path === name);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_9.5rem] items-center gap-x-3">
      <label htmlFor={id} className="narrow text-soft">
        {property.title ?? word(name)}
      </label>
      <span className="flex items-center gap-1">
        <Editor
          id={id}
          control={control}
          value={value}
          invalid={faults.length > 0}
          describedBy={faults.length ? `${id}-fault` : undefined}
          onChange={onChange}
        />
        {control.kind === "number" && control.unit ? (
          <span className="narrow w-8 shrink-0 text-soft">{control.unit}</span>
        ) : null}
      </span>
      {faults.length ? (
        <p role="alert" id={`${id}-fault`} className="col-span-2 text-fix">
          {faults.map((issue) => `${capital(issue.reason)} ${issue.remedy}`).join(" ")}
        </p>
      ) : null}
    </div>
  );
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

function Editor({
  id,
  control,
  value,
  invalid,
  describedBy,
  label,
  onChange,
}: {
  id?: string;
  control: Exclude<Control, { kind: "rows" }>;
  value: unknown;
  invalid?: boolean;
  describedBy?: string;
  label?: string;
  onChange: (value: unknown) => void;
}) {
  const common = { id, className: BOX, "aria-invalid": invalid, "aria-describedby": describedBy, "aria-label": label };
  if (control.kind === "choice" || control.kind === "yes_no") {
    const options = control.kind === "choice" ? control.options : [true, false];
    const chosen = textOf(value);
    return (
      <select
        {...common}
        value={chosen}
        onChange={(event) => onChange(options.find((item) => String(item) === event.target.value) ?? null)}
      >
        {control.nullable || chosen === "" ? <option value="">{control.empty ?? "not known"}</option> : null}
        {options.map((item) => (
          <option key={String(item)} value={String(item)}>
            {typeof item === "boolean" ? (item ? "yes" : "no") : word(String(item))}
          </option>
        ))}
      </select>
    );
  }
  return (
    <input
      {...common}
      inputMode={control.kind === "number" ? "decimal" : undefined}
      placeholder={control.kind === "number" && control.nullable ? (control.empty ?? "empty") : ""}
      value={textOf(value)}
      onChange={(event) => onChange(control.kind === "number" ? typed(event.target.value) : event.target.value)}
    />
  );
}

/** A number where the text is one; else the text itself, which the answer will refuse by name. */
function typed(text: string): unknown {
  const trimmed = text.trim();
  if (trimmed === "") return null;
  const number = Number(trimmed.replace(",", "."));
  return Number.isFinite(number) && String(number) === trimmed.replace(",", ".") ? number : text;
}

function Rows({
  name,
  title,
  item,
  rows,
  issues,
  onChange,
}: {
  name: string;
  title: string;
  item: ObjectSchema;
  rows: Inputs[];
  issues: Issue[];
  onChange: (rows: Inputs[]) => void;
}) {
  const fields = Object.entries(item.properties);
  const faults = issues.filter((issue) => issue.path === name || issue.path.startsWith(`${name}.`));
  return (
    <fieldset className="border-t border-rule pt-1.5">
      <legend className="wide pr-2 text-xs font-bold uppercase">{title}</legend>
      {rows.map((row, at) => (
        <div key={at} className="mb-1.5 flex flex-wrap items-end gap-x-2 gap-y-1">
          {fields.map(([field, property]) => {
            const control = controlOf(item, property);
            if (control.kind === "rows") return null;
            const label = property.title ?? word(field);
            return (
              <label key={field} className="narrow min-w-16 flex-1 text-soft">
                <span className="block truncate text-xs">
                  {label}
                  {control.kind === "number" && control.unit ? `, ${control.unit}` : ""}
                </span>
                <Editor
                  control={control}
                  value={row[field] ?? property.default ?? null}
                  label={`${label}, ${title} ${at + 1}`}
                  invalid={faults.some((issue) => issue.path.startsWith(`${name}.${at}.${field}`))}
                  onChange={(value) =>
                    onChange(rows.map((other, place) => (place === at ? { ...other, [field]: value } : other)))
                  }
                />
              </label>
            );
          })}
          <Button
            kind="quiet"
            aria-label={`Remove ${title} ${at + 1}`}
            onClick={() => onChange(rows.filter((_, place) => place !== at))}
          >
            Remove
          </Button>
        </div>
      ))}
      <Button aria-label={`Add to ${title}`} onClick={() => onChange([...rows, defaultsOf(item)])}>
        Add
      </Button>
      {faults.map((issue) => (
        <p key={issue.path} role="alert" className="mt-1 text-fix">
          {issue.path.replace(`${name}.`, "").replaceAll(".", " ")}: {issue.reason} {issue.remedy}
        </p>
      ))}
    </fieldset>
  );
}

/** A value as the text of its control; what is no plain value has none. */
function textOf(value: unknown): string {
  return typeof value === "string" || typeof value === "number" || typeof value === "boolean" ? String(value) : "";
}
