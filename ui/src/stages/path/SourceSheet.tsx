import { ThingField } from "../../kit/ThingField";
import type { Source } from "../../model/document";
import { SheetTitle } from "./Sheet";

export function SourceSheet({ source }: { source: Source }) {
  return (
    <>
      <SheetTitle title={source.name || source.id}>{source.kind}</SheetTitle>
      <ThingField kind="text" list="sources" thing={source} field="name" label="Name" />
      <ThingField kind="choice" list="sources" thing={source} field="system" label="System" />
    </>
  );
}
