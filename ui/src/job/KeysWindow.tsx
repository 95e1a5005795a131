import { Window } from "../kit/Window";
import { STAGES } from "../stages/registry";

const KEYS: [string, string][] = [
  [`1 to ${STAGES.length}`, STAGES.map((stage) => stage.title).join(", ")],
  ["X", "existing or proposed"],
  ["N", "to the next finding"],
  ["Ctrl Z", "undo"],
  ["Ctrl Shift Z", "redo"],
  ["Tab to the drawing, then ← →", "along the feed"],
  ["↑ ↓", "from branch to branch"],
  ["Enter", "to the sheet of what is selected"],
  ["R", "to the sheet of the run that feeds it"],
  ["A", "feed something new from here"],
  ["F", "feed this from elsewhere"],
  ["[ and ]", "shorten or lengthen the feeding run by 1 ft"],
  ["Delete", "remove what is selected"],
  ["Escape", "from the sheet back to the drawing; there, select nothing: the sheet of the job"],
  ["?", "this list"],
];

export function KeysWindow({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Window title="Keys" open={open} onClose={onClose}>
      <dl className="grid grid-cols-[12rem_1fr] gap-y-1.5">
        {KEYS.map(([key, meaning]) => (
          <div key={key} className="contents">
            <dt className="font-semibold text-copper">{key}</dt>
            <dd>{meaning}</dd>
          </div>
        ))}
      </dl>
    </Window>
  );
}
