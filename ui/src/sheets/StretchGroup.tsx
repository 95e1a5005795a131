/** Parts of a run that lie otherwise than the rest: hotter, bundled, wet, in another raceway. */
import { Button } from "../kit/Button";
import { FigureLine } from "./FigureLine";
import { ThingField } from "./ThingField";
import type { Schemas } from "../api/client";
import { freshId, type Run, type Stretch } from "../core/document";
import { insert } from "../core/changes";
import { useWork } from "../core/context";
import { Group } from "./parts";

const AS_THE_RUN = "as the run";

export function StretchGroup({ run, answer }: { run: Run; answer: Schemas["RunOut"] }) {
  const { site, document, state, act, remove, mayWrite } = useWork(
    "site",
    "document",
    "state",
    "act",
    "remove",
    "mayWrite",
  );
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
          <StretchFields stretch={stretch} answer={answer} />
          {mayWrite ? (
            <Button
              kind="quiet"
              aria-label={`Remove ${stretch.name || "the stretch"}`}
              onClick={() => remove("Remove a stretch", "stretches", stretch.id)}
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

function StretchFields({ stretch, answer }: { stretch: Stretch; answer: Schemas["RunOut"] }) {
  const own = { list: "stretches", thing: stretch } as const;
  const { figures, gaps } = answer.chosen;
  const applies = answer.stretches[stretch.id] ?? [];
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
      {applies.includes("roof_clearance_in") ? (
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
