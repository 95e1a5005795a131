/** Reading a load list, pasted or from a CSV file, and writing the loads and the load sheet. */
import { useState } from "react";
import { ApiFailure, answered, api, type Issue, messageOf } from "../../api/client";
import { Button } from "../../kit/Button";
import { Issues } from "../../kit/Issues";
import { PaperLink } from "../packet/PaperLink";
import { insert } from "../../core/changes";
import { useWork } from "../../core/context";

export function LoadList({ panelId, jobId }: { panelId: string; jobId: string }) {
  const { document, state, act, mayWrite } = useWork("document", "state", "act", "mayWrite");
  const [text, setText] = useState("");
  const [issues, setIssues] = useState<Issue[]>([]);
  const [told, setTold] = useState("");
  const read = () => {
    setTold("");
    answered(api.POST("/api/loads/read", { body: { document, state, text, panel: panelId } }))
      .then(({ loads }) => {
        act(
          `Read ${loads.length} loads`,
          loads.map((load) => insert("loads", load)),
        );
        setText("");
        setIssues([]);
        setTold(`${loads.length} loads were read. Undo takes them out again.`);
      })
      .catch((failure: unknown) => {
        const found = failure instanceof ApiFailure ? failure.issues : [];
        setIssues(found.length ? found : [{ code: "", path: "", reason: messageOf(failure), remedy: "" }]);
      });
  };
  return (
    <details className="mt-3 border-t border-rule pt-1">
      <summary className="cursor-pointer font-semibold">Load lists and the load sheet</summary>
      <p className="my-1 flex flex-wrap gap-x-4">
        <PaperLink href={`/api/jobs/${jobId}/loads.xlsx`} words="Load sheet, XLSX with live formulas" />
        <PaperLink href={`/api/jobs/${jobId}/loads.csv`} words="Loads, CSV" />
      </p>
      {mayWrite ? (
        <>
          <label className="block">
            <span className="narrow text-soft">
              Paste rows from a spreadsheet, or choose a CSV file. The first row names the columns, for instance name,
              category, amount, volts; the words of the trade do ("Range, 12 kW").
            </span>
            <textarea
              aria-label="Load list"
              className="mt-1 block h-24 w-full max-w-2xl rounded-sm border border-rule bg-sheet p-1"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </label>
          <span className="mt-1 flex flex-wrap items-center gap-2">
            <input
              type="file"
              accept=".csv,.tsv,text/csv"
              aria-label="CSV file of loads"
              onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
            />
            <Button disabled={text.trim() === ""} onClick={read}>
              Read the list
            </Button>
          </span>
          {told ? <p className="text-holds">{told}</p> : null}
          <Issues issues={issues} />
        </>
      ) : null}
    </details>
  );
}
