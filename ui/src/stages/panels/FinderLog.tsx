/** Which breaker switches what, found by trying, before anything is taken apart: the words, by whom, and when. */
import { useState, type SubmitEvent } from "react";
import { useParams } from "react-router";
import { messageOf } from "../../api/client";
import { Button } from "../../kit/Button";
import { useFieldLog, type FieldEntry } from "../../core/useFieldLog";
import { useWork } from "../../core/context";
import { wordsOf, type PanelCircuit, type Schedule } from "../../core/panel";
import { spacesOf } from "./CircuitTable";

const CELL = "rounded-sm border border-rule bg-sheet px-1.5 py-0.5 pointer-coarse:min-h-11";
const KIND = "finder";

export function FinderLog({ schedule }: { schedule: Schedule }) {
  const { jobId = "" } = useParams();
  const { entries, append } = useFieldLog(jobId);
  const { put, mayWriteOnSite } = useWork("put", "mayWriteOnSite");
  const breakers = schedule.circuits.filter((item) => item.spots.length > 0);
  const foundFor = (circuit: PanelCircuit) =>
    entries.filter((entry) => entry.kind === KIND && entry.thing_id === circuit.device_id);
  const untried = breakers.filter((item) => foundFor(item).length === 0);
  if (breakers.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="narrow cursor-pointer text-soft">
        Finder log: {breakers.length - untried.length} of {breakers.length} breakers found by trying
      </summary>
      <p className="mt-1 max-w-prose text-soft">
        Turn one off, and write down what went off. Turn off what minds it first; a meter that was proved tells what is
        dead, not the log.
      </p>
      {mayWriteOnSite ? <Entry breakers={[...untried, ...breakers]} onLog={append} /> : null}
      <ul className="mt-1 border-b border-rule" aria-label="Found by trying">
        {breakers
          .flatMap((circuit) => foundFor(circuit).map((entry) => ({ circuit, entry })))
          .map(({ circuit, entry }, at) => (
            <li key={at} className="flex flex-wrap items-baseline gap-x-3 border-t border-rule py-1">
              <strong className="w-14">{spacesOf(circuit)}</strong>
              <span dir="auto" className="min-w-0 flex-1 break-words">
                {entry.text}
              </span>
              <span className="narrow text-soft">
                {[entry.taken_by, entry.taken_at.replace("T", " ")].filter(Boolean).join(", ")}
              </span>
              {circuit.name === entry.text ? null : (
                <Button
                  kind="quiet"
                  onClick={() => put("devices", circuit.device_id, "name", entry.text, "On the door")}
                >
                  Write it on the door
                </Button>
              )}
            </li>
          ))}
      </ul>
      {untried.length > 0 ? (
        <p className="mt-1 text-soft">Not tried yet: {untried.map((item) => spacesOf(item)).join("; ")}.</p>
      ) : null}
    </details>
  );
}

interface EntryProps {
  /** Those that were not tried yet come first. */
  breakers: PanelCircuit[];
  onLog: (entries: FieldEntry[]) => Promise<void>;
}

function Entry({ breakers, onLog }: EntryProps) {
  const [chosen, choose] = useState<string | null>(null);
  const [text, setText] = useState("");
  const [by, setBy] = useState("");
  const [fault, setFault] = useState("");
  const choices = [...new Map(breakers.map((item) => [item.device_id, item])).values()];
  const breaker = choices.find((item) => item.device_id === chosen) ?? choices[0];
  if (!breaker) return null;
  const log = (event: SubmitEvent) => {
    event.preventDefault();
    if (text.trim() === "") {
      setFault("What went off: write at least a word, or “nothing”.");
      return;
    }
    setFault("");
    const taken_at = new Date().toISOString().slice(0, 16);
    const entry = {
      thing_id: breaker.device_id,
      kind: KIND,
      text: text.trim(),
      value: null,
      unit: "",
      taken_at,
    } as const;
    onLog([{ ...entry, taken_by: by.trim() }]).then(
      () => {
        setText("");
        choose(null);
      },
      (failure: unknown) => setFault(messageOf(failure)),
    );
  };
  return (
    <form aria-label="Log a breaker" onSubmit={log} className="mt-1 flex flex-wrap items-end gap-2">
      <label>
        <span className="narrow block text-soft">Breaker off</span>
        <select className={CELL} value={breaker.device_id} onChange={(event) => choose(event.target.value)}>
          {choices.map((item) => (
            <option key={item.device_id} value={item.device_id}>
              {spacesOf(item)} {wordsOf(item)}
            </option>
          ))}
        </select>
      </label>
      <label className="min-w-40 flex-1">
        <span className="narrow block text-soft">What went off</span>
        <input
          dir="auto"
          className={`${CELL} w-full`}
          maxLength={200}
          value={text}
          aria-invalid={fault !== ""}
          aria-describedby={fault ? "finder-fault" : undefined}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <label>
        <span className="narrow block text-soft">Found by</span>
        <input
          dir="auto"
          className={`${CELL} w-28`}
          maxLength={100}
          value={by}
          onChange={(event) => setBy(event.target.value)}
        />
      </label>
      <Button type="submit">Log it</Button>
      {fault ? (
        <p id="finder-fault" role="alert" className="basis-full text-fix">
          {fault}
        </p>
      ) : null}
    </form>
  );
}
