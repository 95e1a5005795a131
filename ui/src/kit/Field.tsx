/** Fields that keep what was typed until it can be taken: a fault is told beside the field and nothing is lost. */
import { useId, useState, type ReactNode } from "react";
import { BOX, Combo, type Option } from "./Combo";
import { inMetres, readFeet, writeFeet } from "../core/lengths";
import { limitOf, numberFault } from "../core/limits";
import { word } from "../core/words";
import { keepDraft, keptDraft } from "./drafts";

export interface FieldProps {
  label: string;
  list: string;
  field: string;
  disabled?: boolean;
  changed?: boolean;
  hint?: ReactNode;
  /** The thing the field belongs to: a text that cannot be taken is kept for it. */
  thing?: string;
}

interface Typed<T> extends FieldProps {
  value: T;
  onChange: (value: T) => void;
  onLeave?: () => void;
}

/** A longer list is found in by typing. */
const READ_AT_A_GLANCE = 12;

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
 * Text is parsed at each key; a value that can be taken goes out at once, a fault keeps the text, also when the sheet is
 * left. A draft stands only as long as the document still holds the value it belongs to.
 */
function useDraft<T>(props: Typed<T>, write: (value: T) => string, parse: (text: string) => Parsed<T>) {
  const { value, onChange } = props;
  const place = props.thing ? `${props.list}.${props.thing}.${props.field}` : null;
  const [draft, setDraft] = useState<{ text: string; belongsTo: T } | null>(() => keptDraft(place));
  const current = draft !== null && draft.belongsTo === value ? draft.text : null;
  const fault = current === null ? undefined : parse(current).fault;
  const type = (text: string) => {
    const parsed = parse(text);
    const taken = parsed.fault === undefined;
    const typed = { text, belongsTo: taken ? (parsed.value as T) : value };
    setDraft(typed);
    keepDraft(place, taken ? null : typed);
    if (taken && parsed.value !== value) onChange(parsed.value as T);
  };
  const leave = () => {
    if (fault === undefined) setDraft(null);
    props.onLeave?.();
  };
  return { shown: current ?? write(value), fault, type, leave };
}

/** The input that all typed fields share. */
function TypedField<T>({
  props,
  draft,
  after,
  ...input
}: {
  props: Typed<T>;
  draft: ReturnType<typeof useDraft<T>>;
  after?: ReactNode;
  placeholder?: string;
  inputMode?: "decimal";
  dir?: "auto";
}) {
  const id = useId();
  return (
    <Row label={props.label} htmlFor={id} changed={props.changed} fault={draft.fault} hint={props.hint}>
      <span className="flex items-center gap-1">
        <input
          id={id}
          className={BOX}
          value={draft.shown}
          disabled={props.disabled}
          aria-invalid={draft.fault !== undefined}
          aria-describedby={draft.fault ? `${id}-fault` : undefined}
          onChange={(event) => draft.type(event.target.value)}
          onBlur={draft.leave}
          {...input}
        />
        {after ? <span className="narrow whitespace-nowrap text-soft">{after}</span> : null}
      </span>
    </Row>
  );
}

export function NumberField({
  unit,
  empty = "not known",
  ...props
}: Typed<number | null> & { unit?: string; empty?: string }) {
  const nullable = limitOf(props.list, props.field).nullable;
  const parse = (text: string): Parsed<number | null> => {
    if (text.trim() === "") return nullable ? { value: null } : { fault: "Enter a number." };
    const number = Number(text.trim().replace(",", "."));
    const fault = numberFault(props.list, props.field, number);
    return fault ? { fault } : { value: number };
  };
  const draft = useDraft(props, (value) => (value === null ? "" : String(value)), parse);
  return (
    <TypedField props={props} draft={draft} after={unit} inputMode="decimal" placeholder={nullable ? empty : ""} />
  );
}

export function LengthField(props: Typed<number | null>) {
  const parse = (text: string): Parsed<number | null> => {
    if (text.trim() === "") return { value: null };
    const feet = readFeet(text);
    if (feet === undefined) return { fault: "This is not a length. Write 180, 60 ft 6 in or 18 m." };
    const fault = numberFault(props.list, props.field, feet);
    return fault ? { fault } : { value: feet };
  };
  const draft = useDraft(props, (value) => (value === null ? "" : writeFeet(value)), parse);
  const metres = props.value === null ? null : inMetres(props.value);
  return <TypedField props={props} draft={draft} after={metres} placeholder="not known" />;
}

export function TextField(props: Typed<string>) {
  const most = limitOf(props.list, props.field).maxLength ?? 200;
  const parse = (text: string): Parsed<string> =>
    text.length > most
      ? { fault: `Too long by ${text.length - most}. Shorten it to ${most} characters.` }
      : { value: text.replace(CONTROL, "") };
  const draft = useDraft(props, (value) => value, parse);
  return <TypedField props={props} draft={draft} dir="auto" />;
}

/** Characters that come along unseen when a text is pasted, and that no job holds. */
const CONTROL = /[\x00-\x08\x0b\x0c\x0e-\x1f\x7f]/g;

/** One of a closed list, or not known where the field allows it. */
export function ChoiceField({
  value,
  options,
  empty = "not known",
  onChange,
  ...props
}: FieldProps & {
  value: string | number | null;
  options?: Option[];
  empty?: string;
  onChange: (value: string | number | null) => void;
}) {
  const id = useId();
  const limit = limitOf(props.list, props.field);
  const choices =
    options ?? (limit.enum ?? []).map((item) => ({ value: item, label: word(String(item), props.field) }));
  return (
    <Row label={props.label} htmlFor={id} changed={props.changed} hint={props.hint}>
      {choices.length > READ_AT_A_GLANCE ? (
        <Combo
          id={id}
          value={value}
          options={choices}
          empty={limit.nullable ? empty : null}
          disabled={props.disabled}
          onChange={onChange}
        />
      ) : (
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
      )}
    </Row>
  );
}

/** Several of a closed list, which opens to be ticked. */
export function ManyField({
  value,
  empty = "not told",
  onChange,
  ...props
}: FieldProps & { value: string[]; empty?: string; onChange: (value: string[]) => void }) {
  const id = useId();
  const choices = (limitOf(props.list, props.field).enum ?? []).map(String);
  const told = choices.filter((item) => value.includes(item));
  return (
    <Row label={props.label} htmlFor={id} changed={props.changed} hint={props.hint}>
      <details className="min-w-0">
        <summary id={id} aria-label={props.label} className="cursor-pointer pointer-coarse:min-h-11">
          {told.length > 0 ? (
            told.map((item) => word(item, props.field)).join(", ")
          ) : (
            <span className="text-soft">{empty}</span>
          )}
        </summary>
        <fieldset disabled={props.disabled} aria-label={props.label}>
          {choices.map((item) => (
            <label key={item} className="flex items-center gap-2 pointer-coarse:min-h-11">
              <input
                type="checkbox"
                checked={value.includes(item)}
                onChange={(event) =>
                  onChange(choices.filter((each) => (each === item ? event.target.checked : value.includes(each))))
                }
              />
              {word(item, props.field)}
            </label>
          ))}
        </fieldset>
      </details>
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
