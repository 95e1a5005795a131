/** Circuits read from a list, typed as the door has them or as CSV, and written as CSV. */
import { download } from "../../core/papers";
import { useState } from "react";
import { ApiFailure, answered, api, type Issue, messageOf } from "../../api/client";
import { Button } from "../../kit/Button";
import { Issues } from "../../kit/Issues";
import { insert } from "../../core/changes";
import { useWork } from "../../core/context";
import type { Schedule } from "../../core/panel";

export function CircuitList({ schedule }: { schedule: Schedule }) {
  const { document, state, act, mayWrite } = useWork("document", "state", "act", "mayWrite");
  const [text, setText] = useState("");
  const [issues, setIssues] = useState<Issue[]>([]);
  const [told, setTold] = useState("");
  const failed = (failure: unknown) => {
    const found = failure instanceof ApiFailure ? failure.issues : [];
    setIssues(found.length ? found : [{ code: "", path: "", reason: messageOf(failure), remedy: "" }]);
  };
  const read = () => {
    setTold("");
    answered(api.POST("/api/circuits/read", { body: { document, state, text, bus_id: schedule.bus_id } }))
      .then(({ devices, circuits }) => {
        act(`Read ${devices.length} circuits`, [
          ...devices.map((item) => insert("devices", item)),
          ...circuits.map((item) => insert("circuits", item)),
        ]);
        setText("");
        setIssues([]);
        setTold(`${devices.length} circuits were read. Undo takes them out again.`);
      })
      .catch(failed);
  };
  const write = () =>
    answered(api.POST("/api/circuits/write", { body: { document, state, bus_id: schedule.bus_id } }))
      .then(({ csv }) => download(`${schedule.name}.csv`, new Blob([csv], { type: "text/csv" })))
      .catch(failed);
  return (
    <details className="mt-2">
      <summary className="narrow cursor-pointer text-soft">A list of circuits</summary>
      <p className="my-1">
        <Button kind="quiet" onClick={() => void write()}>
          Circuits, CSV
        </Button>
      </p>
      {mayWrite ? (
        <>
          <label className="block">
            <span className="narrow text-soft">
              One line for each breaker as the door has it, <em>1-3 Range 2p 50</em> or <em>5, Kitchen, 1, 20</em>; or
              CSV whose first line names the columns. Spaces that are taken are told.
            </span>
            <textarea
              aria-label="Circuit list"
              className="mt-1 block h-24 w-full max-w-2xl rounded-sm border border-rule bg-sheet p-1"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </label>
          <span className="mt-1 flex flex-wrap items-center gap-2">
            <input
              type="file"
              accept=".csv,.tsv,.txt,text/csv,text/plain"
              aria-label="File of circuits"
              onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
            />
            <Button disabled={text.trim() === ""} onClick={read}>
              Read the circuits
            </Button>
          </span>
        </>
      ) : null}
      {told ? <p className="text-holds">{told}</p> : null}
      <Issues issues={issues} />
    </details>
  );
}
