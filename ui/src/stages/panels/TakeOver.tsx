/** Circuits of this panel into another one: which of them, where each goes, and what a supply of one's own then carries alone. */
import { useState } from "react";
import { answered, api, type Schemas } from "../../api/client";
import { useWork } from "../../core/context";
import { find, type Document } from "../../core/document";
import { readFeet } from "../../core/lengths";
import type { Schedule } from "../../core/panel";
import { useAnswer } from "../../core/useAnswer";
import { Button } from "../../kit/Button";
import { CarriedAlone } from "./CarriedAlone";
import { NO_CIRCUITS, type Chosen, withOne } from "./chosen";

const CELL = "rounded-sm border border-rule bg-sheet px-1.5 py-0.5 pointer-coarse:min-h-11";

type Told = Schemas["TakeOverOut"];

export function TakeOver({ schedule }: { schedule: Schedule }) {
  const { document, site, state, mayWrite } = useWork("document", "site", "state", "mayWrite");
  const others = (site.buses ?? []).filter((bus) => bus.id !== schedule.bus_id && bus.spaces);
  const [other, setOther] = useState("");
  const [distance, setDistance] = useState("");
  const into = schedule.circuits.length === 0;
  if (!mayWrite || state !== "proposed" || others.length === 0 || (into && schedule.spaces.length === 0)) return null;
  const feet = distance.trim() === "" ? null : readFeet(distance);
  return (
    <details className="mt-2">
      <summary className="narrow cursor-pointer text-soft">
        {into ? "Take circuits of another panel" : "Move its circuits into another panel"}
      </summary>
      <p className="mt-1 flex flex-wrap items-center gap-2">
        <select
          aria-label={into ? "Out of which panel" : "Into which panel"}
          className={CELL}
          value={other}
          onChange={(event) => setOther(event.target.value)}
        >
          <option value="">choose a panel</option>
          {others.map((bus) => (
            <option key={bus.id} value={bus.id}>
              {find(site.enclosures, bus.enclosure_id)?.name || bus.id}
            </option>
          ))}
        </select>
        <label className="flex items-center gap-2">
          <span className="narrow text-soft">further by</span>
          <input className={`${CELL} w-16`} value={distance} onChange={(event) => setDistance(event.target.value)} />
        </label>
      </p>
      {feet === undefined ? (
        <p role="alert" className="text-fix">
          Further by: a length, such as 12 ft or 3.5 m.
        </p>
      ) : null}
      {other !== "" && feet !== undefined ? (
        <WhereEachGoes
          key={other}
          document={document}
          from={into ? other : schedule.bus_id}
          to={into ? schedule.bus_id : other}
          feet={feet}
          onMoved={() => setOther("")}
        />
      ) : null}
    </details>
  );
}

interface Going {
  document: Document;
  from: string;
  to: string;
  feet: number | null;
  onMoved: () => void;
}

function WhereEachGoes({ document, from, to, feet, onMoved }: Going) {
  const { act } = useWork("act");
  const [chosen, choose] = useState<Chosen>(null);
  const body = { document: { ...document }, bus_id: from, to_bus_id: to, distance_ft: feet, chosen };
  const { answer, fault, fresh } = useAnswer(body, (asked, signal) =>
    answered(api.POST("/api/panels/take-over", { body: asked, signal })),
  );
  if (fault) {
    return (
      <p role="alert" className="text-fix">
        {fault}
      </p>
    );
  }
  if (!answer) return <p className="text-soft">Looking for the place of each…</p>;
  const ids = answer.circuits.map((item) => item.device_id);
  const going = answer.circuits.filter((item) => item.to_space !== null).length;
  const move = () => {
    act(`Move ${going} circuits`, answer.operations);
    onMoved();
  };
  return (
    <div className="mt-1 border-l-2 border-copper pl-2" data-testid="take-over">
      <p className="flex gap-3">
        <Button kind="quiet" onClick={() => choose(null)}>
          All of them
        </Button>
        <Button kind="quiet" onClick={() => choose(NO_CIRCUITS)}>
          None
        </Button>
      </p>
      <ul>
        {answer.circuits.map((item) => (
          <TakenCircuit
            key={item.device_id}
            circuit={item}
            chosen={chosen === null || chosen.includes(item.device_id)}
            onChoose={(isIn) => choose(withOne(chosen, ids, item.device_id, isIn))}
          />
        ))}
      </ul>
      {answer.carried ? <CarriedAlone carried={answer.carried} /> : null}
      {going > 0 ? (
        <Button className="mt-1" disabled={!fresh} onClick={move}>
          Move {going} circuits
        </Button>
      ) : null}
    </div>
  );
}

function TakenCircuit({
  circuit,
  chosen,
  onChoose,
}: {
  circuit: Told["circuits"][number];
  chosen: boolean;
  onChoose: (isIn: boolean) => void;
}) {
  const goes = circuit.to_space !== null;
  return (
    <li>
      <label className={`flex items-baseline gap-2 pointer-coarse:min-h-11 ${chosen || goes ? "" : "text-soft"}`}>
        <input type="checkbox" checked={chosen} onChange={(event) => onChoose(event.target.checked)} />
        <span>
          <span dir="auto">{circuit.name}</span>: {circuit.from_space}
          {goes ? ` to ${circuit.to_space}` : chosen ? ", stays" : ""}
          {goes && !chosen ? (
            <span className="narrow block text-soft">It shares its neutral with one that goes.</span>
          ) : null}
          {circuit.note && (goes || chosen) ? <span className="narrow block text-soft">{circuit.note}</span> : null}
        </span>
      </label>
    </li>
  );
}
