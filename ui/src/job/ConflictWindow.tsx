/** Two people saved the same job: both are kept, and each difference is chosen one by one. */
import { useState } from "react";
import type { Conflict } from "../api/client";
import { Button } from "../kit/Button";
import { Window } from "../kit/Window";
import type { Document } from "../core/document";
import { apply, insert, type Operation } from "../core/changes";
import { DifferenceLines, type Difference } from "./Differences";

function takingMine(difference: Difference): Operation {
  const { list, id, field, after } = difference;
  if (list === "settings" || list === "") return { op: "setting", field, value: after };
  if (field !== "") return { op: "put", list, id, field, value: after, proposed: false };
  return after === null ? { op: "delete", list, id } : insert(list, after as object);
}

export function ConflictWindow({
  conflict,
  onSettled,
}: {
  conflict: Conflict;
  onSettled: (document: Document, base: number, summary: string | null) => void;
}) {
  const [mine, setMine] = useState<boolean[]>(() => conflict.differences.map(() => true));
  const theirs = conflict.theirs as { number: number; author: string; document: Document };
  const settle = () => {
    const chosen = conflict.differences.filter((_, at) => mine[at]);
    const { document } = apply(theirs.document, chosen.map(takingMine));
    onSettled(document, theirs.number, chosen.length ? "Chosen after two saves met" : null);
  };
  return (
    <Window title="Somebody saved this job before you" open onClose={() => undefined}>
      <p className="mb-2">
        {theirs.author} saved revision {theirs.number}. Yours is kept as revision {String(conflict.mine.number)}. For
        each difference, choose which stands.
      </p>
      <DifferenceLines
        differences={conflict.differences}
        control={(at) => (
          <select
            aria-label={`Which stands: ${conflict.differences[at]?.name ?? ""}`}
            className="rounded-sm border border-rule bg-paper px-1 pointer-coarse:min-h-11"
            value={mine[at] ? "mine" : "theirs"}
            onChange={(event) =>
              setMine(mine.map((item, place) => (place === at ? event.target.value === "mine" : item)))
            }
          >
            <option value="mine">mine</option>
            <option value="theirs">theirs</option>
          </select>
        )}
      />
      <div className="mt-3 flex gap-2">
        <Button kind="main" onClick={settle}>
          Go on with these
        </Button>
        <Button onClick={() => onSettled(theirs.document, theirs.number, null)}>Take all of theirs</Button>
      </div>
    </Window>
  );
}
