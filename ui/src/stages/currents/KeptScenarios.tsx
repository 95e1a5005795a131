/** Scenarios that were named and are kept with the job: one is called back as it was, or taken out again. */
import { useState, type SubmitEvent } from "react";
import { insert } from "../../core/changes";
import { freshId, type Document } from "../../core/document";
import { useWork } from "../../core/context";
import { Button } from "../../kit/Button";
import { AT_A_BOX, type Situation } from "./SituationForm";

type Kept = NonNullable<Document["scenarios"]>[number];

interface KeptScenariosProps {
  situation: Situation;
  position: string;
  onChoose: (situation: Situation, position: string) => void;
}

const CELL = "rounded-sm border border-rule bg-sheet px-1.5 py-0.5 pointer-coarse:min-h-11";

export function KeptScenarios({ situation, position, onChoose }: KeptScenariosProps) {
  const { document, act, mayWrite } = useWork("document", "act", "mayWrite");
  const [chosen, choose] = useState("");
  const [naming, setNaming] = useState<string | null>(null);
  const kept = document.scenarios ?? [];
  const current = kept.find((item) => item.id === chosen);
  if (kept.length === 0 && !mayWrite) return null;
  const forget = ({ id, name }: Kept) => act(`Keep ${name} no more`, [{ op: "delete", list: "scenarios", id }]);
  const keep = (event: SubmitEvent) => {
    event.preventDefault();
    const name = (naming ?? "").trim();
    if (name === "") return;
    const id = freshId(document, `scenario ${name}`);
    act(`Keep the scenario ${name}`, [
      insert("scenarios", { id, name, standing: "existing", ...facts(situation, position) }),
    ]);
    setNaming(null);
    choose(id);
  };
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-rule bg-sheet px-3 py-1">
      {kept.length > 0 ? (
        <select
          aria-label="Kept scenarios"
          className={CELL}
          value={current ? chosen : ""}
          onChange={(event) => {
            choose(event.target.value);
            const found = kept.find((item) => item.id === event.target.value);
            if (found) onChoose(situationOf(found), found.position);
          }}
        >
          <option value="">{kept.length} kept</option>
          {kept.map((item) => (
            <option key={item.id} value={item.id}>
              {item.name}
            </option>
          ))}
        </select>
      ) : null}
      {current && mayWrite ? (
        <Button kind="quiet" onClick={() => forget(current)}>
          Keep it no more
        </Button>
      ) : null}
      {mayWrite && naming === null ? (
        <Button kind="quiet" onClick={() => setNaming("")}>
          Keep this scenario
        </Button>
      ) : null}
      {naming !== null ? (
        <form onSubmit={keep} className="flex items-center gap-2">
          <input
            dir="auto"
            aria-label="Name of the scenario"
            placeholder="its name"
            className={CELL}
            maxLength={200}
            required
            autoFocus
            value={naming}
            onChange={(event) => setNaming(event.target.value)}
            onKeyDown={(event) => event.key === "Escape" && setNaming(null)}
          />
          <Button type="submit">Keep</Button>
        </form>
      ) : null}
    </div>
  );
}

/** What is stored of a situation and the position in which it is played; a pair that is touched is not. */
function facts({ place, bonds, kind, leg, use, draw, loads_off, ...fault }: Situation, position: string) {
  const { fault_ohms, arc_volts, electrode_ohms, soil_ohm_m } = fault;
  const made = (wanted: boolean) => Object.keys(bonds).filter((id) => bonds[id] === wanted);
  const atBox = AT_A_BOX.has(kind);
  return {
    position,
    kind,
    box_id: atBox ? place : null,
    run_id: atBox ? null : place,
    leg,
    fault_ohms,
    arc_volts,
    use,
    draw,
    bonds_made: made(true),
    bonds_out: made(false),
    electrode_ohms,
    soil_ohm_m,
    loads_off,
  };
}

function situationOf(kept: Kept): Situation {
  const { kind, leg, fault_ohms, arc_volts, use, draw } = kept;
  const { loads_off = [], bonds_made = [], bonds_out = [], electrode_ohms = {}, soil_ohm_m } = kept;
  const bonds = {
    ...Object.fromEntries(bonds_made.map((id) => [id, true])),
    ...Object.fromEntries(bonds_out.map((id) => [id, false])),
  };
  const place = kept.box_id ?? kept.run_id;
  return {
    kind,
    place,
    leg,
    fault_ohms,
    arc_volts,
    use,
    draw,
    bonds,
    electrode_ohms,
    soil_ohm_m,
    loads_off,
    between: [],
  };
}
