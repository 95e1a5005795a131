/** What there is to say about saving beyond one word: a save that is refused, what came from others, edits without a home. */
import { download } from "../core/papers";
import type { SavingState } from "../core/useSaving";
import { valueWords } from "./Differences";
import { DifferenceLines } from "./Differences";
import { Button } from "../kit/Button";
import { Window } from "../kit/Window";
import type { Operation } from "../core/changes";
import type { Pending } from "../core/reducer";

interface NotesProps {
  state: SavingState;
  homeless: Operation[];
  onSetAside: (save: Pending) => void;
  onToldHomeless: () => void;
}

export function SavingNotes({ state, homeless, onSetAside, onToldHomeless }: NotesProps) {
  const { saving, came } = state;
  return (
    <>
      {saving.kind === "refused" ? (
        <p role="alert" className="flex flex-wrap items-baseline gap-x-3 border-b border-fix bg-sheet px-3 py-1">
          <span>
            <strong>“{saving.save.summary}” cannot be saved.</strong> {saving.message} The next edit is sent together
            with it.
          </span>
          <Button onClick={state.retry}>Try again</Button>
          <Button onClick={() => download("set-aside.json", fileOf(saving.save))}>Download it</Button>
          <Button
            onClick={() => {
              onSetAside(saving.save);
              state.settle();
            }}
          >
            Set it aside
          </Button>
        </p>
      ) : null}
      {!state.kept ? (
        <p role="alert" className="border-b border-fix bg-sheet px-3 py-1">
          <strong>This browser does not keep what waits to be saved.</strong> Do not close the page before it is saved.
        </p>
      ) : null}
      <Window title="Others changed this job meanwhile" open={came.length > 0} onClose={state.forgetCame}>
        <p className="mb-2">Nothing of yours was touched. This came from them:</p>
        <DifferenceLines differences={came} />
      </Window>
      <Window title="Edits that found their thing gone" open={homeless.length > 0} onClose={onToldHomeless}>
        <p className="mb-2">Somebody took these things away. What you entered for them:</p>
        <ul>
          {homeless.map((operation, at) => (
            <li key={at} className="border-b border-rule py-1">
              {operationWords(operation)}
            </li>
          ))}
        </ul>
      </Window>
    </>
  );
}

function operationWords(operation: Operation): string {
  if (operation.op === "put" || operation.op === "setting")
    return `${operation.field.replaceAll("_", " ")}: ${valueWords(operation.value)}`;
  return operation.op === "insert" ? valueWords(operation.thing) : `${operation.op} in ${operation.list}`;
}

function fileOf(save: Pending): Blob {
  return new Blob([JSON.stringify(save, null, 1)], { type: "application/json" });
}
