/** Parts of a run that lie otherwise than the rest: hotter, bundled, wet, in another raceway. */
import { Button } from "../../kit/Button";
import { FigureLine } from "../../kit/Figure";
import { ThingField } from "../../kit/ThingField";
import type { Schemas } from "../../api/client";
import { remove } from "../../model/removing";
import { freshId, type Run, type Stretch } from "../../model/document";
import { insert } from "../../model/operations";
import { useWork } from "../../work/context";
import { Group } from "./Sheet";

const AS_THE_RUN = "as the run";

export function StretchGroup({ run, answer }: { run: Run; answer: Schemas["RunOut"] }) {
  const { site, document, state, act, mayWrite } = useWork();
  const stretches = (site.stretches ?? []).filter((item) => item.run_id === run.id);
  const standing = state === "existing" ? "existing" : "added";
  const add = () =>
    act("Add a stretch", [
      insert("stretches", { id: freshId(document, `${run.id} stretch`), standing, run_id: run.id, length_ft: null }),
    ]);
  if (stretches.length === 0 && !mayWrite) return null;
  return (
    <Group title="Stretches that differ">
      {stretches.map((stretch) => (
        <div key={stretch.id} className="border-b border-rule py-1" data-stretch={stretch.id}>
          <StretchFields run={run} stretch={stretch} answer={answer} />
          {mayWrite ? (
            <Button
              kind="quiet"
              aria-label={`Remove ${stretch.name || "the stretch"}`}
              onClick={() => act("Remove a stretch", remove(document, state, "stretches", stretch.id))}
            >
              Remove
            </Button>
          ) : null}
        </div>
      ))}
      {mayWrite ? (
        <Button kind="quiet" onClick={add}>
          Add a stretch
        </Button>
      ) : null}
    </Group>
  );
}

function StretchFields({ run, stretch, answer }: { run: Run; stretch: Stretch; answer: Schemas["RunOut"] }) {
  const own = { list: "stretches", thing: stretch } as const;
  const { figures, gaps } = answer.chosen;
  const placement = stretch.placement ?? run.placement;
  const raceway = `raceway:${stretch.id}`;
  const cover = `cover:${stretch.id}`;
  return (
    <>
      <ThingField {...own} kind="text" field="name" label="Where" />
      <ThingField {...own} kind="length" field="length_ft" label="Length" />
      <ThingField {...own} kind="choice" field="placement" label="Placed" empty={AS_THE_RUN} />
      <ThingField {...own} kind="choice" field="method" label="Method" empty={AS_THE_RUN} />
      <ThingField {...own} kind="number" field="ambient_c" label="Ambient" unit="°C" empty={AS_THE_RUN} />
      <ThingField {...own} kind="number" field="other_current_carrying" label="Others carrying" empty={AS_THE_RUN} />
      {placement === "rooftop" ? (
        <ThingField {...own} kind="number" field="roof_clearance_in" label="Above the roof" unit="in" />
      ) : null}
      {stretch.placement === "underground" ? (
        <>
          <ThingField {...own} kind="choice" field="burial_location" label="Above it" />
          <ThingField {...own} kind="number" field="cover_in" label="Cover" unit="in" />
        </>
      ) : null}
      {figures[raceway] || gaps[raceway] ? (
        <>
          <FigureLine label="Raceway" figure={figures[raceway]} gap={gaps[raceway]} />
          <ThingField {...own} kind="choice" field="raceway_size" label="Trade size" empty="choose for me" />
        </>
      ) : null}
      {figures[cover] || gaps[cover] ? (
        <FigureLine label="Cover needed" figure={figures[cover]} gap={gaps[cover]} />
      ) : null}
    </>
  );
}
