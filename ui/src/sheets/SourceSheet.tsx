import { ThingField } from "./ThingField";
import type { Source } from "../core/document";
import { SheetTitle } from "./parts";

export function SourceSheet({ source }: { source: Source }) {
  return (
    <>
      <SheetTitle title={source.name || source.id}>{source.kind}</SheetTitle>
      <ThingField kind="text" list="sources" thing={source} field="name" label="Name" />
      <ThingField kind="choice" list="sources" thing={source} field="system" label="System" />
      <ThingField
        kind="number"
        list="sources"
        thing={source}
        field="fault_current_a"
        label="Fault current"
        unit="A"
        hint="what can flow into a fault here, from the utility"
      />
    </>
  );
}
