/** Pull boxes and conduit bodies that a run passes through, with what they must measure. */
import { useState } from "react";
import { Button } from "../kit/Button";
import { FigureLine } from "./FigureLine";
import { ThingField } from "./ThingField";
import { find, freshId, type Box, type Pull, type Run } from "../core/document";
import { insert, type Operation } from "../core/changes";
import { word } from "../core/words";
import { useWork } from "../core/context";
import { Group } from "./parts";

const MEASURES: Record<string, string> = {
  width: "Width, least",
  height: "Height, least",
  apart: "Entries apart",
  volume: "Volume, least",
  length: "Length, least",
  area: "Cross section",
};

export function BoxGroup({ run }: { run: Run }) {
  const { site, document, state, act, mayWrite } = useWork("site", "document", "state", "act", "mayWrite");
  const pulls = (site.pulls ?? []).filter((item) => item.run_id === run.id);
  const standing = state === "existing" ? "existing" : "added";
  const passing = (boxId: string): Operation =>
    insert("pulls", {
      id: freshId(document, `${run.id} pull`),
      standing,
      box_id: boxId,
      run_id: run.id,
      at_ft: run.length_ft ? Math.round(run.length_ft / 2) : null,
      enters: "left",
      leaves: "right",
    });
  const add = (kind: Box["kind"]) => {
    const id = freshId(document, word(kind));
    act(`Add a ${word(kind).toLowerCase()}`, [insert("boxes", { id, standing, name: word(kind), kind }), passing(id)]);
  };
  if (pulls.length === 0 && !mayWrite) return null;
  return (
    <Group title="Pull boxes and conduit bodies">
      {pulls.map((pull) => {
        const box = find(site.boxes, pull.box_id);
        return box ? <Passage key={pull.id} pull={pull} box={box} /> : null;
      })}
      {mayWrite ? (
        <p className="flex flex-wrap gap-2 py-1">
          <Button kind="quiet" onClick={() => add("pull_box")}>
            Add a pull box
          </Button>
          <Button kind="quiet" onClick={() => add("conduit_body")}>
            Add a conduit body
          </Button>
          <PassThrough run={run} onPass={(boxId) => act("Take the run through a box", [passing(boxId)])} />
        </p>
      ) : null}
    </Group>
  );
}

/** A box that another run passes through already. */
function PassThrough({ run, onPass }: { run: Run; onPass: (boxId: string) => void }) {
  const { site } = useWork("site");
  const [open, setOpen] = useState(false);
  const passed = new Set((site.pulls ?? []).filter((item) => item.run_id === run.id).map((item) => item.box_id));
  const others = (site.boxes ?? []).filter((box) => !passed.has(box.id));
  if (others.length === 0) return null;
  if (!open)
    return (
      <Button kind="quiet" onClick={() => setOpen(true)}>
        Through a box that is there
      </Button>
    );
  return others.map((box) => (
    <Button
      key={box.id}
      onClick={() => {
        setOpen(false);
        onPass(box.id);
      }}
    >
      {box.name || box.id}
    </Button>
  ));
}

function Passage({ pull, box }: { pull: Pull; box: Box }) {
  const { site, report, remove, mayWrite } = useWork("site", "report", "remove", "mayWrite");
  const answer = report?.boxes[box.id];
  const own = { list: "pulls", thing: pull } as const;
  const shared = (site.pulls ?? []).some((item) => item.box_id === box.id && item.id !== pull.id);
  const outWords = shared ? "Lead past" : "Take out";
  const takeOut = () =>
    shared ? remove("Take out a box", "pulls", pull.id) : remove("Take out a box", "boxes", box.id);
  return (
    <div className="border-b border-rule py-1" data-box={box.id}>
      <ThingField kind="text" list="boxes" thing={box} field="name" label="Name" />
      <ThingField kind="choice" list="boxes" thing={box} field="kind" label="Kind" />
      <ThingField {...own} kind="length" field="at_ft" label="At" />
      <ThingField {...own} kind="choice" field="enters" label="Enters by" />
      <ThingField {...own} kind="choice" field="leaves" label="Leaves by" />
      {shared ? <ThingField {...own} kind="number" field="row" label="Row" /> : null}
      {Object.entries(answer?.figures ?? {}).map(([name, figure]) => (
        <FigureLine key={name} label={MEASURES[name] ?? name} figure={figure} />
      ))}
      {answer?.gap ? <p className="narrow text-tell">Cannot tell: {answer.gap}</p> : null}
      <Measures box={box} pull={pull} needed={Object.keys(answer?.figures ?? {})} />
      {mayWrite ? (
        <Button kind="quiet" aria-label={`${outWords} ${box.name || "the box"}`} onClick={takeOut}>
          {outWords}
        </Button>
      ) : null}
    </div>
  );
}

/** The box as it is or as it is to be bought: only what the rule for its conductors asks after. */
function Measures({ box, pull, needed }: { box: Box; pull: Pull; needed: string[] }) {
  const own = { list: "boxes", thing: box } as const;
  if (box.kind === "conduit_body")
    return (
      <>
        {needed.includes("area") ? (
          <ThingField {...own} kind="number" field="cross_area_in2" label="Its section" unit="in²" />
        ) : (
          <ThingField {...own} kind="number" field="length_in" label="Its length" unit="in" />
        )}
        <ThingField {...own} kind="choice" field="marked_size" label="Marked: largest" empty="no marking" />
        <ThingField {...own} kind="number" field="marked_count" label="Marked: number" />
      </>
    );
  if (needed.includes("width") || needed.includes("height"))
    return (
      <>
        <ThingField {...own} kind="number" field="width_in" label="Its width" unit="in" />
        <ThingField {...own} kind="number" field="height_in" label="Its height" unit="in" />
      </>
    );
  return (
    <>
      <ThingField kind="yes-no" list="pulls" thing={pull} field="spliced" label="Spliced there" />
      <ThingField {...own} kind="yes-no" field="internal_clamps" label="Clamps inside" />
      <ThingField {...own} kind="number" field="volume_in3" label="Its volume" unit="in³" />
    </>
  );
}
