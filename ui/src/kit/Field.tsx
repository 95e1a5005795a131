/** Fields that keep what was typed until it can be taken: a fault is told beside the field and nothing is lost. */
import { useId, useState, type ReactNode } from "react";
import { inMetres, readFeet, writeFeet } from "../model/lengths";
import { limitOf, numberFault } from "../model/limits";
import { word } from "../model/words";

interface FieldProps {
  label: string;
  list: string;
  field: string;
  disabled?: boolean;
  changed?: boolean;
  hint?: ReactNode;
}

const BOX =
  "w-full min-w-0 rounded-sm border border-rule bg-sheet px-1.5 py-0.5 text-ink disabled:opacity-60 aria-invalid:border-fix pointer-coarse:min-h-11";

/** Label left, control right, fault below; ``changed`` marks a proposed value. */
export function Row({
  label,
  htmlFor,
  changed,
  fault,
  hint,
  children,
}: {
  label: string;
  htmlFor: string;
  changed?: boolean;
  fault?: string;
  hint?: ReactNode;
  children: ReactNode;
}) {
  return (
    <div className={`grid grid-cols-[7.5rem_minmax(0,1fr)] items-center gap-x-2 py-0.5 ${changed ? "bg-touched" : ""}`}>
      <label htmlFor={htmlFor} className="narrow text-soft">
        {label}
      </label>
      {children}
      {fault ? (
        <p role="alert" id={`${htmlFor}-fault`} className="col-start-2 text-fix">
          {fault}
        </p>
      ) : null}
      {hint ? <p className="col-start-2 narrow text-soft">{hint}</p> : null}
    </div>
  );
}

interface Parsed<T> {
  value?: T;
  fault?: string;
}

/**
 * Text is parsed at each key; a value that can be taken goes out at once, a fault keeps the text. A draft stands only
 * as long as the document still holds the value it belongs to.
 */
function useDraft<T>(
  value: T,
  write: (value: T) => string,
  parse: (text: string) => Parsed<T>,
  onChange: (value: T) => void,
) {
  const [draft, setDraft] = useState<{ text: string; belongsTo: T } | null>(null);
  const current = draft !== null && draft.belongsTo === value ? draft.text : null;
  const fault = current === null ? undefined : parse(current).fault;
  const type = (text: string) => {
    const parsed = parse(text);
    const taken = parsed.fault === undefined;
    setDraft({ text, belongsTo: taken ? (parsed.value as T) : value });
    if (taken && parsed.value !== value) onChange(parsed.value as T);
  };
  const leave = () => {
    if (fault === undefined) setDraft(null);
  };
  return { shown: current ?? write(value), fault, type, leave };
}

export function NumberField({
  value,
  unit,
  onChange,
  onLeave,
  ...props
}: FieldProps & {
  value: number | null;
  unit?: string;
  onChange: (value: number | null) => void;
  onLeave?: () => void;
}) {
  const id = useId();
  const nullable = limitOf(props.list, props.field).nullable;
  const parse = (text: string): Parsed<number | null> => {
    if (text.trim() === "") return nullable ? { value: null } : { fault: "Enter a number." };
    const number = Number(text.trim().replace(",", "."));
    const fault = numberFault(props.list, props.field, number);
    return fault ? { fault } : { value: number };
  };
  const draft = useDraft<number | null>(value, (current) => (current === null ? "" : String(current)), parse, onChange);
  return (
    <Row label={props.label} htmlFor={id} changed={props.changed} fault={draft.fault} hint={props.hint}>
      <span className="flex items-center gap-1">
        <input
          id={id}
          className={BOX}
          inputMode="decimal"
          value={draft.shown}
          disabled={props.disabled}
          placeholder={nullable ? "not known" : ""}
          aria-invalid={draft.fault !== undefined}
          aria-describedby={draft.fault ? `${id}-fault` : undefined}
          onChange={(event) => draft.type(event.target.value)}
          onBlur={() => {
            draft.leave();
            onLeave?.();
          }}
        />
        {unit ? <span className="text-soft">{unit}</span> : null}
      </span>
    </Row>
  );
}

export function LengthField({
  value,
  onChange,
  onLeave,
  ...props
}: FieldProps & { value: number | null; onChange: (value: number | null) => void; onLeave?: () => void }) {
  const id = useId();
  const parse = (text: string): Parsed<number | null> => {
    if (text.trim() === "") return { value: null };
    const feet = readFeet(text);
    if (feet === undefined) return { fault: "This is not a length. Write 180, 60 ft 6 in or 18 m." };
    const fault = numberFault(props.list, props.field, feet);
    return fault ? { fault } : { value: feet };
  };
  const draft = useDraft<number | null>(
    value,
    (current) => (current === null ? "" : writeFeet(current)),
    parse,
    onChange,
  );
  return (
    <Row label={props.label} htmlFor={id} changed={props.changed} fault={draft.fault} hint={props.hint}>
      <span className="flex items-center gap-1">
        <input
          id={id}
          className={BOX}
          value={draft.shown}
          disabled={props.disabled}
          placeholder="not known"
          aria-invalid={draft.fault !== undefined}
          aria-describedby={draft.fault ? `${id}-fault` : undefined}
          onChange={(event) => draft.type(event.target.value)}
          onBlur={() => {
            draft.leave();
            onLeave?.();
          }}
        />
        {value !== null ? <span className="narrow whitespace-nowrap text-soft">{inMetres(value)}</span> : null}
      </span>
    </Row>
  );
}

export function TextField({
  value,
  onChange,
  onLeave,
  ...props
}: FieldProps & { value: string; onChange: (value: string) => void; onLeave?: () => void }) {
  const id = useId();
  const most = limitOf(props.list, props.field).maxLength ?? 200;
  const parse = (text: string): Parsed<string> =>
    text.length > most
      ? { fault: `Too long by ${text.length - most}. Shorten it to ${most} characters.` }
      : { value: text };
  const draft = useDraft<string>(value, (current) => current, parse, onChange);
  return (
    <Row label={props.label} htmlFor={id} changed={props.changed} fault={draft.fault} hint={props.hint}>
      <input
        id={id}
        dir="auto"
        className={BOX}
        value={draft.shown}
        disabled={props.disabled}
        aria-invalid={draft.fault !== undefined}
        onChange={(event) => draft.type(event.target.value)}
        onBlur={() => {
          draft.leave();
          onLeave?.();
        }}
      />
    </Row>
  );
}

/** One of a closed list, or not known where the field allows it. */
export function ChoiceField({
  value,
  options,
  empty = "not known",
  onChange,
  ...props
}: FieldProps & {
  value: string | number | null;
  options?: { value: string | number; label: string }[];
  empty?: string;
  onChange: (value: string | number | null) => void;
}) {
  const id = useId();
  const limit = limitOf(props.list, props.field);
  const choices = options ?? (limit.enum ?? []).map((item) => ({ value: item, label: word(String(item)) }));
  return (
    <Row label={props.label} htmlFor={id} changed={props.changed} hint={props.hint}>
      <select
        id={id}
        className={BOX}
        value={value === null ? "" : String(value)}
        disabled={props.disabled}
        onChange={(event) => {
          const chosen = choices.find((item) => String(item.value) === event.target.value);
          onChange(chosen ? chosen.value : null);
        }}
      >
        {limit.nullable ? <option value="">{empty}</option> : null}
        {choices.map((item) => (
          <option key={item.value} value={String(item.value)}>
            {item.label}
          </option>
        ))}
      </select>
    </Row>
  );
}

const YES_NO = [
  { value: "yes", label: "yes" },
  { value: "no", label: "no" },
];

/** Yes, no or (where allowed) not known. */
export function YesNoField({
  value,
  onChange,
  ...props
}: FieldProps & { value: boolean | null; onChange: (value: boolean | null) => void }) {
  const text = value === null ? null : value ? "yes" : "no";
  return (
    <ChoiceField
      {...props}
      value={text}
      options={YES_NO}
      onChange={(chosen) => onChange(chosen === null ? null : chosen === "yes")}
    />
  );
}
