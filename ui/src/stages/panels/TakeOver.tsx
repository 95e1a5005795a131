/** The circuits of this panel into another one: where each goes is told before anything is changed. */
import { useState } from "react";
import { answered, api, messageOf, type Schemas } from "../../api/client";
import { Button } from "../../kit/Button";
import { find, type Document } from "../../core/document";
import { readFeet } from "../../core/lengths";
import type { Schedule } from "../../core/panel";
import { useWork } from "../../core/context";

const CELL = "rounded-sm border border-rule bg-sheet px-1.5 py-0.5 pointer-coarse:min-h-11";

interface Told {
  of: Document;
  found: Schemas["TakeOverOut"];
}

export function TakeOver({ schedule }: { schedule: Schedule }) {
  const { document, site, state, act, mayWrite } = useWork("document", "site", "state", "act", "mayWrite");
  const others = (site.buses ?? []).filter((bus) => bus.id !== schedule.bus_id && bus.spaces);
  const [to, setTo] = useState("");
  const [distance, setDistance] = useState("");
  const [told, tell] = useState<Told | null>(null);
  const [fault, setFault] = useState("");
  if (!mayWrite || state !== "proposed" || others.length === 0 || schedule.circuits.length === 0) return null;
  const shown = told?.of === document ? told.found : null;
  const going = shown?.circuits.filter((item) => item.to_space !== null) ?? [];
  const ask = () => {
    const feet = distance.trim() === "" ? null : readFeet(distance);
    setFault(feet === undefined ? "Further by: a length, such as 12 ft or 3.5 m." : "");
    if (feet === undefined) return;
    const body = { document, bus_id: schedule.bus_id, to_bus_id: to, distance_ft: feet };
    answered(api.POST("/api/panels/take-over", { body }))
      .then((found) => tell({ of: document, found }))
      .catch((failure: unknown) => setFault(messageOf(failure)));
  };
  return (
    <details className="mt-2">
      <summary className="narrow cursor-pointer text-soft">Move its circuits into another panel</summary>
      <p className="mt-1 flex flex-wrap items-center gap-2">
        <select
          aria-label="Into which panel"
          className={CELL}
          value={to}
          onChange={(event) => setTo(event.target.value)}
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
        <Button disabled={to === ""} onClick={ask}>
          Where each goes
        </Button>
      </p>
      {fault ? (
        <p role="alert" className="text-fix">
          {fault}
        </p>
      ) : null}
      {shown ? (
        <div className="mt-1 border-l-2 border-copper pl-2" data-testid="take-over">
          <ul>
            {shown.circuits.map((item) => (
              <li key={item.device_id}>
                <span dir="auto">{item.name}</span>: {item.from_space}
                {item.to_space === null ? ", stays" : ` to ${item.to_space}`}
                {item.note ? <span className="narrow block text-soft">{item.note}</span> : null}
              </li>
            ))}
          </ul>
          {going.length > 0 ? (
            <Button className="mt-1" onClick={() => act(`Move ${going.length} circuits`, shown.operations)}>
              Move {going.length} circuits
            </Button>
          ) : null}
        </div>
      ) : null}
    </details>
  );
}
