/** One of a long list, found by typing a part of its words. */
import { Combobox, ComboboxButton, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { memo, useCallback, useEffect, useRef, useState } from "react";

export interface Option {
  value: string | number;
  label: string;
  /** Further words by which it is found. */
  also?: string[];
}

export const BOX =
  "w-full min-w-0 rounded-sm border border-rule bg-sheet px-1.5 py-0.5 text-ink disabled:opacity-60 aria-invalid:border-fix pointer-coarse:min-h-11";

interface ComboProps {
  id?: string;
  label?: string;
  value: string | number | null;
  options: Option[];
  /** The words for no choice; null where one has to be made. */
  empty: string | null;
  disabled?: boolean;
  onChange: (value: string | number | null) => void;
}

/** The entries that hold what was typed; where it is the whole first word of some (a size), those alone. */
function fitting(options: Option[], typed: string): Option[] {
  const words = (option: Option) => option.label.toLowerCase();
  const exact = options.filter((item) => words(item).split(/[ ,]/)[0] === typed);
  if (exact.length > 0) return exact;
  const found = options.filter((item) => words(item).includes(typed));
  const besides = options.filter((item) => item.also?.some((other) => other.toLowerCase().includes(typed)));
  return [...found, ...besides.filter((item) => !found.includes(item))];
}

/** Many stand on one page: one is drawn anew only where its own value or choices change. */
export function Combo({ options, onChange, ...props }: ComboProps) {
  const latest = useRef(onChange);
  useEffect(() => {
    latest.current = onChange;
  });
  const choose = useCallback((value: string | number | null) => latest.current(value), []);
  const [kept, keep] = useState(options);
  if (kept !== options && !alike(kept, options)) keep(options);
  return <Drawn {...props} options={kept} onChange={choose} />;
}

function alike(one: Option[], other: Option[]): boolean {
  return (
    one.length === other.length &&
    one.every((item, at) => item.value === other[at]?.value && item.label === other[at].label)
  );
}

const Drawn = memo(function Drawn({ id, label, value, options, empty, disabled, onChange }: ComboProps) {
  const [typed, setTyped] = useState("");
  const all = empty === null ? options : [{ value: "", label: empty }, ...options];
  const shown = fitting(all, typed.trim().toLowerCase());
  return (
    <Combobox
      immediate
      value={String(value ?? "")}
      disabled={disabled}
      onChange={(chosen: string | null) => {
        const found = all.find((item) => String(item.value) === chosen);
        if (found) onChange(found.value === "" ? null : found.value);
      }}
      onClose={() => setTyped("")}
    >
      <span className="relative block min-w-0">
        <ComboboxInput
          id={id}
          aria-label={label}
          className={`${BOX} pr-6`}
          autoComplete="off"
          displayValue={(chosen: string) => all.find((item) => String(item.value) === chosen)?.label ?? chosen}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setTyped(event.target.value)}
        />
        <ComboboxButton aria-hidden className="absolute inset-y-0 right-0 px-1.5 text-soft">
          ▾
        </ComboboxButton>
      </span>
      <ComboboxOptions
        modal={false}
        anchor={{ to: "bottom start", gap: 2, padding: 8 }}
        className="z-30 max-h-72! min-w-(--input-width) rounded-sm border border-rule bg-sheet py-1 shadow-lg empty:invisible"
      >
        {shown.map((item) => (
          <ComboboxOption
            key={item.value}
            value={String(item.value)}
            className="cursor-pointer px-2 py-0.5 data-focus:bg-touched data-selected:font-semibold pointer-coarse:min-h-11"
          >
            {item.label}
          </ComboboxOption>
        ))}
      </ComboboxOptions>
    </Combobox>
  );
});
