/** The sheet of what is selected: a run, an enclosure, a source, or the job itself. */
import { Button } from "../kit/Button";
import { find } from "../core/document";
import type { NewKind } from "../core/fitOut";
import { useWork } from "../core/context";
import { EnclosureSheet } from "./EnclosureSheet";
import { JobSheet } from "./JobSheet";
import { RunSheet } from "./RunSheet";
import { SourceSheet } from "./SourceSheet";

interface SheetProps {
  adding: boolean;
  onAdding: (adding: boolean) => void;
  onAdd: (kind: NewKind) => void;
  onRemove: () => void;
  onFeedFrom: (runId: string, fromId: string) => void;
}

export function Sheet(props: SheetProps) {
  const { site, selected, mayWrite } = useWork();
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
      {mayWrite ? <Feeding {...props} source={source !== undefined} /> : null}
    </>
  );
}

/** What can be done with the selected thing. It keeps its place at the foot while answers above come and go. */
function Feeding({ adding, onAdding, onAdd, onRemove, source }: SheetProps & { source: boolean }) {
  const kinds: [NewKind, string][] = source
    ? [["meter", "Meter"]]
    : [
        ["panel", "Panel"],
        ["disconnect", "Disconnect"],
        ["transformer", "Transformer"],
      ];
  return (
    <div className="sticky bottom-0 mt-auto flex flex-wrap items-center gap-2 border-t border-rule bg-sheet py-2">
      {adding ? (
        <>
          <span>Feed a new</span>
          {kinds.map(([kind, label], at) => (
            <Button key={kind} kind="main" data-add={at === 0 ? "" : undefined} onClick={() => onAdd(kind)}>
              {label}
            </Button>
          ))}
          <Button kind="quiet" onClick={() => onAdding(false)}>
            Cancel
          </Button>
        </>
      ) : (
        <>
          <Button onClick={() => onAdding(true)}>Feed something new from here</Button>
          <Button kind="quiet" onClick={onRemove}>
            Remove
          </Button>
        </>
      )}
    </div>
  );
}
