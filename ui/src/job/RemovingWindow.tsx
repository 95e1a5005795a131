/** Before a thing is taken out: what goes along with it, and what is only set loose. */
import { Button } from "../kit/Button";
import { Window } from "../kit/Window";
import { find, listOf, type Document, type ListName } from "../core/document";
import { useWork } from "../core/context";
import type { Removal } from "../core/removing";
import { word } from "../core/words";

export function RemovingWindow() {
  const { site: document, removing, carryOut, keep } = useWork("site", "removing", "carryOut", "keep");
  const name = removing ? nameOf(document, removing.list, removing.id) : "";
  return (
    <Window title={`Remove ${name}?`} open={removing !== null} onClose={keep}>
      {removing ? <Along document={document} removal={removing.removal} /> : null}
      <div className="mt-3 flex gap-2">
        <Button kind="main" autoFocus onClick={() => removing && carryOut(removing)}>
          Remove
        </Button>
        <Button onClick={keep}>Keep</Button>
      </div>
    </Window>
  );
}

function Along({ document, removal }: { document: Document; removal: Removal }) {
  const along = grouped(removal.gone.slice(1).map(({ list, id }) => [list, nameOf(document, list, id)]));
  const loose = grouped(
    removal.loose.map(({ list, id, field }) => [list, `${nameOf(document, list, id)}: ${field.replace(/_id$/, "")}`]),
  );
  return (
    <>
      <Lines title="Goes along, since it cannot be without it" groups={along} />
      <Lines title="Stays, and is only set loose" groups={loose} />
      <p className="mt-2 text-soft">Undo brings all of it back.</p>
    </>
  );
}

const MOST_NAMED = 6;

function Lines({ title, groups }: { title: string; groups: Map<string, string[]> }) {
  if (groups.size === 0) return null;
  return (
    <>
      <h3 className="wide mt-2 text-xs font-bold uppercase">{title}</h3>
      <ul>
        {[...groups].map(([list, names]) => (
          <li key={list} className="border-b border-rule py-0.5">
            <strong>
              {names.length} {word(list).toLowerCase()}
            </strong>{" "}
            <span className="text-soft">
              {names.slice(0, MOST_NAMED).join(", ")}
              {names.length > MOST_NAMED ? " and more" : ""}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

function grouped(pairs: [string, string][]): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const [list, name] of pairs) found.set(list, [...(found.get(list) ?? []), name]);
  return found;
}

function nameOf(document: Document, list: ListName, id: string): string {
  const thing = find(listOf(document, list), id) as (Record<string, unknown> & { name?: string }) | undefined;
  if (thing?.name) return thing.name;
  const kind = thing?.kind ?? thing?.role;
  return typeof kind === "string" ? word(kind).toLowerCase() : word(list).toLowerCase().replace(/s$/, "");
}
