/** The sheet of what is selected: a run, an enclosure, a source, or the job itself. */
import { Button } from "../kit/Button";
import { Menu } from "../kit/Menu";
import { find, type Enclosure } from "../core/document";
import type { Where } from "../core/building";
import type { NewKind } from "../core/fitOut";
import { useWork } from "../core/context";
import { Additions } from "./Additions";
import { EnclosureSheet } from "./EnclosureSheet";
import { JobSheet } from "./JobSheet";
import { RunSheet } from "./RunSheet";
import { SourceSheet } from "./SourceSheet";

interface SheetProps {
  onAdd: (kind: NewKind, where?: Where) => void;
  onRemove: () => void;
  onFeedFrom: (runId: string, fromId: string) => void;
}

export function Sheet(props: SheetProps) {
  const { site, selected, mayWrite } = useWork("site", "selected", "mayWrite");
  const run = find(site.runs, selected);
  if (run) return <RunSheet key={run.id} run={run} onFeedFrom={props.onFeedFrom} />;
  const enclosure = find(site.enclosures, selected);
  const source = find(site.sources, selected);
  if (!enclosure && !source) return <JobSheet />;
  return (
    <>
      {enclosure ? (
        <EnclosureSheet key={enclosure.id} enclosure={enclosure} onFeedFrom={props.onFeedFrom} />
      ) : source ? (
        <SourceSheet key={source.id} source={source} />
      ) : null}
      {mayWrite ? <Feeding {...props} enclosure={enclosure} /> : null}
    </>
  );
}

interface New {
  label: string;
  kind: NewKind;
  where?: Where;
}

const FED_BY_SOURCE: New[] = [{ label: "Meter", kind: "meter" }];
const DISCONNECT: New = { label: "Disconnect", kind: "disconnect" };
const TRANSFORMER: New = { label: "Transformer", kind: "transformer" };
const NEUTRAL: New = { label: "Autotransformer for a neutral", kind: "neutral_former" };
const ELSEWHERE: New = { label: "Panel in another building", kind: "panel", where: "another" };
const FED_BY_ENCLOSURE: New[] = [{ label: "Panel", kind: "panel" }, ELSEWHERE, DISCONNECT, TRANSFORMER, NEUTRAL];
const FED_IN_A_BUILDING: New[] = [
  { label: "Panel in this building", kind: "panel", where: "within" },
  ELSEWHERE,
  DISCONNECT,
  TRANSFORMER,
  NEUTRAL,
];

const SECTION: New = { label: "Section, from feed-through lugs", kind: "section" };

function fedBy(enclosure: Enclosure): New[] {
  if (enclosure.kind === "switch_box") return []; // it moves circuits that other breakers feed
  const kinds = enclosure.building_id ? FED_IN_A_BUILDING : FED_BY_ENCLOSURE;
  return enclosure.kind === "panel" ? [...kinds, SECTION] : kinds;
}

const TAKES_ADDITIONS = new Set<Enclosure["kind"]>(["panel", "disconnect", "meter_disconnect"]);

/** What can be done with the selected thing. It keeps its place at the foot while answers above come and go. */
function Feeding({ onAdd, onRemove, enclosure }: SheetProps & { enclosure?: Enclosure }) {
  const kinds = enclosure ? fedBy(enclosure) : FED_BY_SOURCE;
  return (
    <div className="sticky bottom-0 mt-auto flex flex-wrap items-center gap-2 border-t border-rule bg-sheet py-2">
      {kinds.length > 0 ? (
        <Menu
          button="Feed something new from here"
          className="rounded-sm border border-copper px-2.5 py-0.5 font-semibold text-copper hover:bg-touched pointer-coarse:min-h-11"
          mark="add"
          upward
          acts={kinds.map(({ label, kind, where }) => ({ label, onAct: () => onAdd(kind, where) }))}
        />
      ) : null}
      {enclosure && TAKES_ADDITIONS.has(enclosure.kind) ? <Additions enclosure={enclosure} /> : null}
      <Button kind="quiet" onClick={onRemove}>
        Remove
      </Button>
    </div>
  );
}
