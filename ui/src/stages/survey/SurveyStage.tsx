/** What stands, read on site box by box: a checklist that is filled in where it is asked, what is still to be read first. */
import { useEffect, useState, type ReactNode } from "react";
import { useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { find, listOf, type Thing } from "../../core/document";
import { useWork } from "../../core/context";
import { usePictures } from "../../core/usePictures";
import { CAUTIONS } from "../../core/words";
import { ThingField } from "../../sheets/ThingField";
import { Electrodes } from "../bonds/Electrodes";
import { FoundParts } from "../bonds/FoundParts";
import { Pictures } from "./Pictures";

type Box = Schemas["SurveyBox"];
type Item = Schemas["SurveyItem"];

const LUG_MARKINGS = [60, 75, 90].map((value) => ({ value, label: `${value} °C` }));

const stillOpen = (boxes: Box[]) => new Set(boxes.filter((box) => unread(box) > 0).map((box) => box.id));

const unread = (box: Box) => box.items.filter((item) => !item.read).length;

export function SurveyStage() {
  const { report, site, mayWriteOnSite } = useWork("report", "site", "mayWriteOnSite");
  const { jobId = "" } = useParams();
  const { pictures, acts } = usePictures(jobId);
  // The boxes that were open when the list was cut down: one that is filled in stays in sight.
  const [kept, setKept] = useState<Set<string> | null>(null);
  useShowingWhatStands();
  const boxes = report?.state === "existing" ? report.survey : null;
  const left = (boxes ?? []).reduce((sum, box) => sum + unread(box), 0);
  const ofNoBox = [...new Set(pictures?.pictures.map((item) => item.thing_id))].filter(
    (id) => !boxes?.some((box) => box.id === id),
  );
  const picturesOf = (id: string) =>
    pictures ? (
      <Pictures
        key={id}
        jobId={jobId}
        of={find(site.enclosures, id)?.name ?? "a box that is gone"}
        thingId={id}
        pictures={pictures.pictures.filter((item) => item.thing_id === id)}
        most={pictures.most_of_a_thing}
        acts={acts}
        mayAdd={mayWriteOnSite}
      />
    ) : null;
  return (
    <section aria-label="Survey" className="min-h-0 min-w-0 overflow-auto px-4 py-3">
      <p className="mb-3 border-l-4 border-advice bg-sheet px-3 py-1.5">{CAUTIONS.join(" ")}</p>
      {boxes?.length === 0 ? (
        <p className="text-soft">
          Nothing stands here yet. On the path, show <strong>Existing</strong> and draw what is there: each box is then
          read off here.
        </p>
      ) : null}
      {boxes && boxes.length > 0 ? (
        <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <p role="status" data-left={left}>
            {left === 0 ? "All that is asked for is read." : `${left} still to be read on site.`}
          </p>
          <label className="flex items-center gap-2 pointer-coarse:min-h-11">
            <input
              type="checkbox"
              checked={kept !== null}
              onChange={(event) => setKept(event.target.checked ? stillOpen(boxes) : null)}
            />
            only what is still to be read
          </label>
        </div>
      ) : null}
      {report?.state === "proposed" ? (
        <p className="text-soft">
          A survey is of what stands: show <strong>Existing</strong>.
        </p>
      ) : null}
      <ol className="grid items-start gap-3 xl:grid-cols-2">
        {(boxes ?? [])
          .filter((box) => kept === null || kept.has(box.id))
          .map((box) => (
            <BoxCard key={box.id} box={box} onlyOpen={kept !== null}>
              {picturesOf(box.id)}
            </BoxCard>
          ))}
      </ol>
      {boxes && ofNoBox.length > 0 ? (
        <>
          <h2 className="wide mt-4 font-bold">Pictures of what is drawn no more</h2>
          {ofNoBox.map(picturesOf)}
        </>
      ) : null}
    </section>
  );
}

/** A survey is of what stands: that state is shown while the stage is, and the one before it comes back after. */
function useShowingWhatStands() {
  const { state, show } = useWork("state", "show");
  const [before] = useState(state);
  useEffect(() => {
    show("existing");
    return () => show(before);
  }, [show, before]);
}

function BoxCard({ box, onlyOpen, children }: { box: Box; onlyOpen: boolean; children: ReactNode }) {
  const { site, select } = useWork("site", "select");
  // What was open when the card came up stays in sight while it is filled in.
  const [open] = useState(() => new Set(box.items.filter((item) => !item.read).map(keyOf)));
  const enclosure = find(site.enclosures, box.id);
  if (!enclosure) return null;
  const shown = onlyOpen ? box.items.filter((item) => !item.read || open.has(keyOf(item))) : box.items;
  const left = unread(box);
  return (
    <li className="border border-rule bg-sheet px-3 py-2" data-survey={box.id}>
      <div className="flex items-baseline justify-between gap-2">
        <h2 dir="auto" className="font-bold">
          <button type="button" className="hover:text-copper" onClick={() => select(box.id)}>
            {enclosure.name || box.id}
          </button>
        </h2>
        <span className={`whitespace-nowrap ${left > 0 ? "text-tell" : "text-soft"}`}>
          {box.items.length - left} of {box.items.length} read
        </span>
      </div>
      <Items title="The run that feeds it" items={shown.filter((item) => item.list === "runs")} />
      <Items title="Its label" items={shown.filter((item) => ON_LABEL.has(item.list))} />
      <Items title="Inside" items={shown.filter((item) => item.list === "bars" || item.list === "bonds")} />
      {onlyOpen ? null : (
        <details className="mt-1">
          <summary className="narrow text-soft">Other joints and electrodes found here</summary>
          <FoundParts enclosureId={box.id} />
          <Electrodes enclosureId={box.id} />
        </details>
      )}
      <ThingField kind="text" list="enclosures" thing={enclosure} field="note" label="Note" />
      {children}
    </li>
  );
}

const ON_LABEL = new Set(["enclosures", "buses", "devices", "electrodes"]);

const keyOf = (item: Item) => `${item.list} ${item.id} ${item.field}`;

function Items({ title, items }: { title: string; items: Item[] }) {
  const { site } = useWork("site");
  if (items.length === 0) return null;
  return (
    <>
      <h3 className="wide mt-2 text-xs font-bold uppercase">{title}</h3>
      {items.map((item) => {
        const list = item.list as Parameters<typeof listOf>[1];
        const thing: Thing | undefined = find(listOf(site, list), item.id);
        return thing ? (
          <div key={keyOf(item)} className={item.read ? "" : "border-l-4 border-tell pl-2"} data-read={item.read}>
            <ThingField
              kind={item.kind}
              list={list}
              thing={thing}
              field={item.field}
              label={item.label}
              unit={item.unit || undefined}
              options={item.field === "termination_c" ? LUG_MARKINGS : undefined}
              empty={item.kind === "choice" ? "not read yet" : undefined}
            />
          </div>
        ) : null;
      })}
    </>
  );
}
