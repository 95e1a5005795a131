/** A button that opens a list of acts; arrow keys, typing and Escape work as in any menu. */
import { Menu as Menus, MenuButton, MenuItem, MenuItems } from "@headlessui/react";
import type { ReactNode } from "react";

export interface Act {
  label: string;
  hint?: string;
  disabled?: boolean;
  onAct: () => void;
}

interface MenuProps {
  button: ReactNode;
  label?: string;
  className?: string;
  /** Marks the button for keys that open the menu. */
  mark?: string;
  acts: Act[];
  upward?: boolean;
}

export function Menu({ button, label, className = "", mark, acts, upward = false }: MenuProps) {
  return (
    <Menus>
      <MenuButton aria-label={label} data-mark={mark} className={className}>
        {button}
      </MenuButton>
      <MenuItems
        anchor={{ to: upward ? "top start" : "bottom end", gap: 4, padding: 8 }}
        className="z-30 min-w-48 rounded-sm border border-rule bg-sheet py-1 shadow-lg outline-none"
      >
        {acts.map((act) => (
          <MenuItem key={act.label} disabled={act.disabled}>
            <button
              type="button"
              className="flex w-full items-baseline justify-between gap-4 px-3 py-1 text-left data-disabled:opacity-45 data-focus:bg-touched pointer-coarse:min-h-11"
              onClick={act.onAct}
            >
              {act.label}
              {act.hint ? <span className="narrow text-soft">{act.hint}</span> : null}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menus>
  );
}
