/** Something added in one act: what is asked on the left, and on the right all that it changes, before it is taken. */
import { useState } from "react";
import { answered, api, type Schemas } from "../api/client";
import { Button } from "../kit/Button";
import { Glyph } from "../kit/Glyph";
import { SchemaForm } from "../kit/SchemaForm";
import type { Inputs, ObjectSchema } from "../kit/schema";
import { Window } from "../kit/Window";
import { DECISION_WORDS } from "../core/words";
import type { Enclosure } from "../core/document";
import { useWork } from "../core/context";
import { useAnswer } from "../core/useAnswer";
import { usePlates, type Plate } from "./plates";

export type Addition = Schemas["AdditionLine"];
type Weighed = Schemas["WeighedAdditionOut"];

export function AdditionWindow({
  addition,
  enclosure,
  onClose,
}: {
  addition: Addition | null;
  enclosure: Enclosure;
  onClose: () => void;
}) {
  const title = addition ? `${addition.title}: ${enclosure.name || enclosure.id}` : "";
  return (
    <Window wide title={title} open={addition !== null} onClose={onClose}>
      {addition ? <Asked addition={addition} enclosureId={enclosure.id} onClose={onClose} /> : null}
    </Window>
  );
}

function Asked({ addition, enclosureId, onClose }: { addition: Addition; enclosureId: string; onClose: () => void }) {
  const { document, act, select } = useWork("document", "act", "select");
  const [options, setOptions] = useState<Inputs>({});
  const [plate, setPlate] = useState<Plate | null>(null);
  const body = { document: { ...document }, kind: addition.kind, enclosure_id: enclosureId, options, plate };
  const schema = addition.options_schema as unknown as ObjectSchema;
  const fill = (chosen: Plate | null) => {
    setPlate(chosen);
    if (chosen) setOptions({ ...options, ...optionsOf(chosen, Object.keys(schema.properties)) });
  };
  const { answer, fault, issues, fresh } = useAnswer(body, (asked, signal) =>
    answered(api.POST("/api/additions/weigh", { body: asked, signal })),
  );
  const take = (weighed: Weighed) => {
    act(addition.title, weighed.operations);
    const box = weighed.operations.find((item) => item.op === "insert" && item.list === "enclosures");
    onClose();
    // The second frame comes after the window has given the focus back.
    if (box?.op === "insert") requestAnimationFrame(() => requestAnimationFrame(() => select(String(box.thing.id))));
  };
  return (
    <div className="grid gap-5 md:grid-cols-[19rem_minmax(0,1fr)]">
      <div>
        <p className="mb-2 text-soft">{addition.words}</p>
        <PlateChoice kinds={KINDS_OF[addition.kind]} chosen={plate} onChoose={fill} />
        <SchemaForm schema={schema} inputs={options} issues={issues} onChange={setOptions} />
        <p className="mt-4 flex gap-2">
          <Button kind="main" disabled={!answer || fault !== null || !fresh} onClick={() => answer && take(answer)}>
            Add it
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </p>
      </div>
      <div aria-live="polite" data-testid="consequences">
        {fault ? (
          <p role="alert" className="mb-2 text-fix">
            {fault}
          </p>
        ) : null}
        {!answer && !fault ? <p className="text-soft">Working out what it changes…</p> : null}
        {answer ? <Consequences weighed={answer} /> : null}
      </div>
    </div>
  );
}

const KINDS_OF: Record<Addition["kind"], Plate["kind"][]> = {
  disconnect_ahead: [],
  meter_main: [],
  transformer_ahead: [],
  second_panel: [],
  transfer_gear: ["generator"],
  interlock: ["generator"],
  circuit_transfer: ["generator"],
  switch_box: ["generator"],
  backup: ["inverter", "battery"],
  inverter: ["inverter", "battery"],
};

/** What a plate tells of the options that are asked, which may go by another name there. */
function optionsOf(plate: Plate, asked: string[]): Inputs {
  const told: Inputs = {
    ...plate,
    output_a: plate.rated_output_a,
    of: plate.kind === "battery" ? "storage" : "sun",
  };
  return Object.fromEntries(Object.entries(told).filter(([name, value]) => asked.includes(name) && value !== null));
}

function PlateChoice({
  kinds,
  chosen,
  onChoose,
}: {
  kinds: Plate["kind"][];
  chosen: Plate | null;
  onChoose: (plate: Plate | null) => void;
}) {
  const plates = usePlates(kinds.length > 0).filter((plate) => kinds.includes(plate.kind));
  if (plates.length === 0) return null;
  return (
    <select
      aria-label="By a plate of the shop"
      className="mb-2 w-full rounded-sm border border-rule bg-sheet px-1.5 py-0.5 pointer-coarse:min-h-11"
      value={chosen?.name ?? ""}
      onChange={(event) => onChoose(plates.find((plate) => plate.name === event.target.value) ?? null)}
    >
      <option value="">By a plate of the shop…</option>
      {plates.map((plate) => (
        <option key={plate.name}>{plate.name}</option>
      ))}
    </select>
  );
}

function Heading({ children }: { children: string }) {
  return <h3 className="wide mt-3 border-b border-ink text-xs font-bold uppercase first:mt-0">{children}</h3>;
}

function Consequences({ weighed }: { weighed: Weighed }) {
  const comes = weighed.findings.filter((item) => item.change === "comes");
  return (
    <>
      <Heading>Neutral and ground</Heading>
      <ul>
        {weighed.decisions.map((item) => (
          <li key={item.name} className="flex flex-wrap items-baseline gap-x-1.5">
            <span dir="auto" className="font-semibold">
              {item.name}
            </span>
            {item.before ? <span className="text-soft">{DECISION_WORDS[item.before]} →</span> : null}
            <span>{DECISION_WORDS[item.after]}</span>
          </li>
        ))}
      </ul>
      {weighed.follows.length > 0 ? (
        <>
          <Heading>Follows from it</Heading>
          <ul>
            {weighed.follows.map((item) => (
              <li key={item}>{item}</li>
            ))}
          </ul>
        </>
      ) : null}
      {comes.length > 0 ? (
        <>
          <Heading>To be looked at then</Heading>
          <ul>
            {comes.map((item) => (
              <li key={item.name + item.text} className="grid grid-cols-[1.2rem_1fr] items-baseline">
                <Glyph outcome={item.outcome} />
                <span>
                  <strong>{item.name}:</strong> {item.text} <span className="narrow text-soft">{item.section}</span>
                </span>
              </li>
            ))}
          </ul>
        </>
      ) : null}
      <Heading>The work, in this order</Heading>
      <ol>
        {weighed.work.stages.map((stage) => (
          <li key={stage.stage}>
            <h4 className="mt-1 font-semibold">{stage.title}</h4>
            <ul className="narrow list-disc pl-5 text-soft">
              {stage.steps.map((step) => (
                <li key={step.text}>{step.text}</li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
    </>
  );
}
