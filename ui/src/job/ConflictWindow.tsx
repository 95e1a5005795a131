/** Two people changed the same: both are kept, and only what collides is chosen, one by one. */
import { useState } from "react";
import type { Conflict, Schemas } from "../api/client";
import { Button } from "../kit/Button";
import { Window } from "../kit/Window";
import { applyWhatFits, type Operation } from "../core/changes";
import type { Document } from "../core/document";
import { valueWords } from "./Differences";

type Collision = Schemas["CollisionOut"];

export interface Settlement {
  document: Document;
  base: number;
  operations: Operation[];
  summary: string;
}

export function ConflictWindow({
  conflict,
  onSettled,
}: {
  conflict: Conflict;
  onSettled: (settlement: Settlement) => void;
}) {
  const { collisions } = conflict;
  const [mine, setMine] = useState<boolean[]>(() => collisions.map(() => true));
  const settle = (taken: boolean[]) => {
    const wanted = [...conflict.joining, ...collisions.flatMap((item, at) => (taken[at] ? item.taking_mine : []))];
    const fitting = wanted.filter((operation, at) =>
      fitsAfter(conflict.theirs_document, wanted.slice(0, at), operation),
    );
    const summary = "Joined after two saves met";
    onSettled({ document: conflict.theirs_document, base: conflict.theirs, operations: fitting, summary });
  };
  return (
    <Window title="Somebody changed the same before you" open onClose={() => undefined}>
      <p className="mb-2">
        {conflict.author} saved revision {conflict.theirs}. Yours is kept as revision {conflict.mine}. What does not
        collide is joined. For the rest, choose which stands; what you typed meanwhile is kept on top.
      </p>
      <ul>
        {collisions.map((collision, at) => (
          <li key={at} className="flex items-baseline gap-3 border-b border-rule py-1">
            <span className="w-40 shrink-0 truncate font-semibold">{collision.name}</span>
            <span className="min-w-0 flex-1 break-words">{collisionWords(collision)}</span>
            <select
              aria-label={`Which stands: ${collision.name}`}
              className="rounded-sm border border-rule bg-paper px-1 pointer-coarse:min-h-11"
              value={mine[at] ? "mine" : "theirs"}
              onChange={(event) =>
                setMine(mine.map((item, place) => (place === at ? event.target.value === "mine" : item)))
              }
            >
              <option value="mine">mine</option>
              <option value="theirs">theirs</option>
            </select>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex gap-2">
        <Button kind="main" onClick={() => settle(mine)}>
          Go on with these
        </Button>
        <Button onClick={() => settle(collisions.map(() => false))}>Take theirs where both changed</Button>
      </div>
    </Window>
  );
}

function fitsAfter(document: Document, before: Operation[], operation: Operation): boolean {
  const { document: now } = applyWhatFits(document, before);
  return applyWhatFits(now, [operation]).homeless.length === 0;
}

function collisionWords({ list, field, side, mine, theirs }: Collision): string {
  if (field === "") {
    if (mine === null) return "you took it away, they changed or need it";
    if (theirs === null) return "they took it away, you changed or need it";
    return `each of you added another ${list.replace(/s$/, "").replaceAll("_", " ")}`;
  }
  const name = field.replaceAll("_", " ");
  const where = side === "proposed" ? ", proposed" : "";
  return `${name}${where}: mine ${valueWords(mine)}, theirs ${valueWords(theirs)}`;
}
