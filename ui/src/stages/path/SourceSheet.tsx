import { ChoiceField, TextField } from "../../kit/Field";
import type { Source } from "../../model/document";
import { useWork } from "../../work/context";
import { SheetTitle } from "./Sheet";

export function SourceSheet({ source }: { source: Source }) {
  const { put, seal, mayWrite } = useWork();
  return (
    <>
      <SheetTitle title={source.name || source.id}>{source.kind}</SheetTitle>
      <TextField
        label="Name"
        list="sources"
        field="name"
        value={source.name ?? ""}
        disabled={!mayWrite}
        onChange={(value) => put("sources", source.id, "name", value)}
        onLeave={seal}
      />
      <ChoiceField
        label="System"
        list="sources"
        field="system"
        value={source.system ?? null}
        disabled={!mayWrite}
        onChange={(value) => put("sources", source.id, "system", value)}
      />
    </>
  );
}
