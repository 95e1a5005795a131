/** The positions of the gear, to be played on the drawing: what is live in one, and from where. */
import { Radio, RadioGroup } from "@headlessui/react";
import type { Schemas } from "../api/client";

export type Position = Schemas["PositionOut"];

/** The position that is played; null shows all that is drawn. */
export function PositionBar({
  positions,
  played,
  onPlay,
}: {
  positions: Position[];
  played: Position | null;
  onPlay: (name: string | null) => void;
}) {
  if (positions.length === 0) return null;
  const choices = [{ name: null, label: "All that is drawn" }, ...positions.map(({ name }) => ({ name, label: name }))];
  return (
    <RadioGroup
      aria-label="Position played"
      value={played?.name ?? null}
      onChange={onPlay}
      className="flex flex-wrap items-center gap-x-1.5 gap-y-1 border-b border-rule bg-sheet px-3 py-1"
    >
      <span className="narrow mr-1 text-soft" aria-hidden>
        Live with
      </span>
      {choices.map(({ name, label }) => (
        <Radio
          key={label}
          value={name}
          className="narrow cursor-pointer rounded-sm border border-rule px-2 py-0.5 data-checked:border-ink data-checked:bg-ink data-checked:text-paper data-focus:outline-2 data-focus:outline-copper pointer-coarse:min-h-11"
        >
          {label}
        </Radio>
      ))}
    </RadioGroup>
  );
}
