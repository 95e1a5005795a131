/** The plates of the sources that the shop uses: a list in CSV, read from a file or written here, made-up examples until then. */
import { useCallback, useEffect, useState, type ChangeEvent } from "react";
import { ApiFailure, answered, api, messageOf, type Issue, type Schemas } from "../api/client";
import { download } from "../core/papers";
import { Button } from "../kit/Button";
import { Issues } from "../kit/Issues";

type Kept = Schemas["ShopSourcesOut"];

export function Sources() {
  const [kept, setKept] = useState<Kept | null>(null);
  const [fault, setFault] = useState("");
  const read = useCallback(() => {
    answered(api.GET("/api/shop/sources")).then(setKept, (failure: unknown) => setFault(messageOf(failure)));
  }, []);
  useEffect(read, [read]);
  if (fault && !kept) return <p role="alert">{fault}</p>;
  if (!kept) return <p>Reading the list…</p>;
  return <SourceList key={kept.number} kept={kept} onKept={setKept} onReadAgain={read} />;
}

interface ListProps {
  kept: Kept;
  onKept: (kept: Kept) => void;
  onReadAgain: () => void;
}

function SourceList({ kept, onKept, onReadAgain }: ListProps) {
  const [text, setText] = useState(kept.text);
  const [fault, setFault] = useState("");
  const [issues, setIssues] = useState<Issue[]>([]);
  const changed = text !== kept.text;
  const save = () => {
    setFault("");
    setIssues([]);
    answered(api.PUT("/api/shop/sources", { body: { base: kept.number, text } })).then(onKept, (failure: unknown) => {
      setIssues(failure instanceof ApiFailure ? failure.issues : []);
      setFault(messageOf(failure));
    });
  };
  const readFile = (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = "";
    void file?.text().then(setText);
  };
  return (
    <>
      <p className="mb-2 max-w-prose text-soft">
        {kept.examples
          ? "These are made-up examples. Replace them by what the plates and data sheets of your sources say: a line for each, an empty cell where nothing is told."
          : `${kept.plates.length} ${kept.plates.length === 1 ? "source" : "sources"}, list ${kept.number}. A source in a job can be filled in from here.`}
      </p>
      <label className="block">
        <span className="narrow block text-soft">Sources, as CSV; the first line names the columns</span>
        <textarea
          dir="auto"
          rows={8}
          spellCheck={false}
          wrap="off"
          className="w-full rounded-sm border border-rule bg-sheet px-2 py-1 font-mono text-sm"
          disabled={!kept.may_write}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <p className="mt-2 flex flex-wrap items-center gap-3">
        {kept.may_write ? (
          <>
            <Button kind="main" className="min-h-11" disabled={!changed} onClick={save}>
              Keep this list
            </Button>
            <input
              type="file"
              accept=".csv,text/csv"
              aria-label="Read a CSV file"
              className="max-w-60 file:mr-2 file:min-h-11 file:cursor-pointer file:rounded-sm file:border file:border-solid file:border-copper file:bg-transparent file:px-2.5 file:font-semibold file:text-copper"
              onChange={readFile}
            />
          </>
        ) : null}
        <Button onClick={() => download("sources.csv", new Blob([kept.text], { type: "text/csv" }))}>
          Save as CSV
        </Button>
        <span role="status" className="text-soft">
          {changed ? "not kept yet" : ""}
        </span>
      </p>
      {issues.length > 0 ? <Issues issues={issues} /> : null}
      {fault && issues.length === 0 ? (
        <p role="alert" className="mt-4 border-l-4 border-fix bg-sheet p-3">
          {fault} <Button onClick={onReadAgain}>Read it again</Button>
        </p>
      ) : null}
    </>
  );
}
