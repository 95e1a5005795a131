/** Fill in a source from the plates that the shop keeps; what its plate does not say stays as it is. */
import facts from "../api/model.json";
import { edit, type Operation } from "../core/changes";
import { useJobStore } from "../core/context";
import { find, type Source } from "../core/document";
import { Combo } from "../kit/Combo";
import { usePlates, type Plate } from "./plates";

const OF_THE_PLATE = facts.plate_fields as (keyof Plate)[];

export function FromPlates({ source }: { source: Source }) {
  const job = useJobStore();
  const plates = usePlates(job.getState().mayWrite);
  const fitting = plates.filter((plate) => plate.kind === source.kind);
  if (fitting.length === 0) return null;
  const take = (name: string) => {
    const plate = fitting.find((item) => item.name === name);
    const { document, state, act, seal } = job.getState();
    if (!plate || !find(document.sources, source.id)) return;
    const told = OF_THE_PLATE.filter((field) => plate[field] !== null);
    const operations: Operation[] = told.flatMap((field) =>
      edit(document, state, "sources", source.id, field, plate[field]),
    );
    act(`${source.name || "Source"}: ${plate.name}`, operations);
    seal();
  };
  return (
    <div className="py-1">
      <Combo
        label="Fill in from a plate of the shop"
        value={null}
        empty="Fill in from a plate…"
        options={fitting.map((plate) => ({ value: plate.name, label: plate.name }))}
        onChange={(chosen) => chosen !== null && take(String(chosen))}
      />
    </div>
  );
}
