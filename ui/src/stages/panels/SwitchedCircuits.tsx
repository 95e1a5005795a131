/** The circuits of a panel that a box of switches moves: which of them, by which switch, and what the set then carries alone. */
import { answered, api, type Schemas } from "../../api/client";
import { useState } from "react";
import { useWork } from "../../core/context";
import { find, type Bus } from "../../core/document";
import { useAnswer } from "../../core/useAnswer";
import { Button } from "../../kit/Button";
import { Group } from "../../sheets/parts";
import { CarriedAlone } from "./CarriedAlone";
import { NO_CIRCUITS, type Chosen, withOne } from "./chosen";

type Told = Schemas["SwitchedOut"];

export function SwitchedCircuits({ bus }: { bus: Bus }) {
  const { site } = useWork("site");
  const here = (site.throws ?? []).filter((item) => item.part === bus.id);
  const boxes = here
    .map((item) => find(site.transfers, item.transfer_id))
    .filter((gear) => site.circuit_switches?.some((item) => item.transfer_id === gear?.id));
  return boxes.map((gear) =>
    gear ? (
      <Group key={gear.id} title={`On ${find(site.enclosures, gear.enclosure_id)?.name || "a box of switches"}`}>
        <Choosing transferId={gear.id} />
      </Group>
    ) : null,
  );
}

function Choosing({ transferId }: { transferId: string }) {
  const { document, state, mayWrite, act } = useWork("document", "state", "mayWrite", "act");
  const [chosen, choose] = useState<Chosen>(null);
  const body = { document: { ...document }, transfer_id: transferId, chosen };
  const { answer, fault, fresh } = useAnswer(body, (asked, signal) =>
    answered(api.POST("/api/panels/switches", { body: asked, signal })),
  );
  if (fault) {
    return (
      <p role="alert" className="text-fix">
        {fault}
      </p>
    );
  }
  if (!answer) return <p className="text-soft">Looking for the switch of each…</p>;
  const moved = answer.circuits.filter((item) => item.switches.length > 0).map((item) => item.device_id);
  const isChosen = (id: string) => (chosen ?? moved).includes(id);
  const canChoose = mayWrite && state === "proposed";
  const keep = () => {
    act("Choose the circuits of the box", answer.operations);
    choose(null);
  };
  return (
    <div data-testid="switched-circuits">
      {canChoose && moved.length > 0 ? (
        <Button kind="quiet" onClick={() => choose(NO_CIRCUITS)}>
          None
        </Button>
      ) : null}
      <ul>
        {answer.circuits.map((item) => (
          <Circuit
            key={item.device_id}
            circuit={item}
            chosen={isChosen(item.device_id)}
            disabled={!canChoose}
            onChoose={(isIn) => choose(withOne(chosen, moved, item.device_id, isIn))}
          />
        ))}
      </ul>
      <p className="narrow text-soft">
        {answer.free.length > 0 ? `Free: ${answer.free.join(", ")}.` : "No switch is free."}
      </p>
      {answer.carried ? <CarriedAlone carried={answer.carried} /> : null}
      {answer.operations.length > 0 && canChoose ? (
        <p className="mt-1 flex gap-2">
          <Button disabled={!fresh} onClick={keep}>
            Move these by the box
          </Button>
          <Button kind="quiet" onClick={() => choose(null)}>
            As before
          </Button>
        </p>
      ) : null}
    </div>
  );
}

function Circuit({
  circuit,
  chosen,
  disabled,
  onChoose,
}: {
  circuit: Told["circuits"][number];
  chosen: boolean;
  disabled: boolean;
  onChoose: (isIn: boolean) => void;
}) {
  const goes = circuit.switches.length > 0;
  return (
    <li>
      <label className={`flex items-baseline gap-2 pointer-coarse:min-h-11 ${chosen || goes ? "" : "text-soft"}`}>
        <input
          type="checkbox"
          checked={chosen}
          disabled={disabled}
          onChange={(event) => onChoose(event.target.checked)}
        />
        <span>
          <span className="mono">{circuit.space}</span> <span dir="auto">{circuit.name}</span>
          {goes ? (
            <span className="mono ml-1 rounded-sm border border-rule px-1">{circuit.switches.join(" ")}</span>
          ) : null}
          {goes && !chosen ? (
            <span className="narrow block text-soft">It shares its neutral with one that goes.</span>
          ) : null}
          {circuit.note ? <span className="narrow block text-soft">{circuit.note}</span> : null}
        </span>
      </label>
    </li>
  );
}
