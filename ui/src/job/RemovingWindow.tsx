/** Before a thing is taken out: what goes along with it, and what is only set loose. */
import { Button } from "../kit/Button";
import { Window } from "../kit/Window";
import { find, listOf, type Document, type ListName } from "../core/document";
import { useWork } from "../core/context";
import { aheadOf } from "../core/refitting";
import type { Removal } from "../core/removing";
import { word } from "../core/words";

export function RemovingWindow() {
  const { site, document, state, removing, carryOut, carryOutJoining, keep } = useWork(
    "site",
    "document",
    "state",
    "removing",
    "carryOut",
    "carryOutJoining",
    "keep",
  );
  const ahead = removing?.list === "enclosures" ? aheadOf(document, state, removing.id) : null;
  const name = removing ? nameOf(site, removing.list, removing.id) : "";
  return (
    <Window title={`Remove ${name}?`} open={removing !== null} onClose={keep}>
      {removing ? <Along document={site} removal={removing.removal} /> : null}
      {removing && ahead !== null ? (
        <div className="mt-3 border-l-4 border-advice pl-2">
          <p>What it feeds can stay, fed from {nameOfOwner(site, ahead)}: look at its sizes and its bond after.</p>
          <Button className="mt-1" onClick={() => carryOutJoining(removing)}>
            Remove, and feed on what is behind
          </Button>
        </div>
      ) : null}
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
    removal.loose.map(({ list, id, field }) => [
      list,
      `${nameOf(document, list, id)}: ${field.replace(/_id$/, "").replaceAll("_", " ")}`,
    ]),
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

function Lines({ title, groups }: { title: string; groups: Map<ListName, string[]> }) {
  if (groups.size === 0) return null;
  return (
    <>
      <h3 className="wide mt-2 text-xs font-bold uppercase">{title}</h3>
      <ul>
        {[...groups].map(([list, names]) => (
          <li key={list} className="border-b border-rule py-0.5">
            <strong>
              {names.length} {names.length === 1 ? oneOf(list) : word(list).toLowerCase()}
            </strong>{" "}
            <span className="text-soft">
              {list === "conductors" || list === "buses" ? "" : names.slice(0, MOST_NAMED).join(", ")}
              {list !== "conductors" && names.length > MOST_NAMED ? " and more" : ""}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

function grouped(pairs: [ListName, string][]): Map<ListName, string[]> {
  const found = new Map<ListName, string[]>();
  for (const [list, name] of pairs) found.set(list, [...(found.get(list) ?? []), name]);
  return found;
}

function nameOfOwner(document: Document, id: string): string {
  return find(document.enclosures, id) ? nameOf(document, "enclosures", id) : nameOf(document, "sources", id);
}

function nameOf(document: Document, list: ListName, id: string): string {
  const thing = find(listOf(document, list), id) as (Record<string, unknown> & { name?: string }) | undefined;
  if (thing?.name) return thing.name;
  const kind = thing?.kind ?? thing?.role;
  return typeof kind === "string" ? word(kind).toLowerCase() : oneOf(list);
}

function oneOf(list: ListName): string {
  return word(list)
    .toLowerCase()
    .replace(list === "lugs" ? /$/ : list === "buses" || list === "reaches" || list === "boxes" ? /es$/ : /s$/, "");
}
