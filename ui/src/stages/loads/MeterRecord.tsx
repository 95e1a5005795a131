/** The meter's record of a level: read from CSV or XML, looked at as a curve, and kept as its peak. */
import { useRef, useState } from "react";
import { ApiFailure, answered, api, asIs, type Issue, type Schemas, messageOf } from "../../api/client";
import { Button } from "../../kit/Button";
import { FigureLine } from "../../sheets/FigureLine";
import { Issues } from "../../kit/Issues";
import { ThingField } from "../../sheets/ThingField";
import { freshId } from "../../core/document";
import { insert } from "../../core/changes";
import { useWork } from "../../core/context";
import { RecordCurve } from "./RecordCurve";

type RecordOut = Schemas["RecordOut"];
type Reading =
  | { kind: "none" }
  | { kind: "reading"; progress: Progress }
  | { kind: "read"; record: RecordOut }
  | { kind: "refused"; issues: Issue[] };

/** How far the reading is: the share of the file, then null while the readings are summed up. */
interface Progress {
  name: string;
  share: number | null;
}

function textOf(file: File, onShare: (share: number) => void): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onprogress = (event) => event.lengthComputable && onShare(event.loaded / event.total);
    reader.onload = () => resolve(typeof reader.result === "string" ? reader.result : "");
    reader.onerror = () => reject(new Error("The file could not be read. Choose it again."));
    reader.readAsText(file);
  });
}

function ReadingOn({ progress, onStop }: { progress: Progress; onStop: () => void }) {
  const summing = progress.share === null;
  return (
    <div className="my-1 flex flex-wrap items-center gap-2">
      <p role="status">{summing ? `Summing up the readings of ${progress.name}…` : `Reading ${progress.name}…`}</p>
      <progress
        aria-label="Progress of the reading"
        className="h-2 w-40 accent-copper"
        value={summing ? undefined : (progress.share ?? 0)}
        max={1}
      />
      <Button kind="quiet" onClick={onStop}>
        Stop
      </Button>
    </div>
  );
}

export function MeterRecord({ panelId }: { panelId: string }) {
  const { site, document, state, act, remove, mayWrite, report } = useWork(
    "site",
    "document",
    "state",
    "act",
    "remove",
    "mayWrite",
    "report",
  );
  const [reading, setReading] = useState<Reading>({ kind: "none" });
  const kept = (site.measurements ?? []).filter((item) => item.enclosure_id === panelId);
  const figures = report?.enclosures[panelId]?.figures ?? {};
  const abort = useRef<AbortController | null>(null);
  const read = (file: File) => {
    const own = new AbortController();
    abort.current?.abort();
    abort.current = own;
    const tell = (progress: Progress) => own.signal.aborted || setReading({ kind: "reading", progress });
    tell({ name: file.name, share: 0 });
    textOf(file, (share) => tell({ name: file.name, share }))
      .then((text) => {
        tell({ name: file.name, share: null });
        return answered(api.POST("/api/records/read", { body: text, bodySerializer: asIs, signal: own.signal }));
      })
      .then((record) => own.signal.aborted || setReading({ kind: "read", record }))
      .catch((failure: unknown) => {
        if (own.signal.aborted) return;
        const issues = failure instanceof ApiFailure && failure.issues.length ? failure.issues : null;
        setReading({
          kind: "refused",
          issues: issues ?? [{ code: "", path: "", reason: messageOf(failure), remedy: "" }],
        });
      });
  };
  const keep = (record: RecordOut) =>
    act("Keep the meter record", [
      insert("measurements", {
        id: freshId(document, "record"),
        standing: state === "existing" ? "existing" : "added",
        enclosure_id: panelId,
        peak_kw: record.peak_kw,
        began_on: record.began_on,
        days: record.days,
        interval_minutes: record.interval_minutes,
        missing_percent: record.missing_percent,
        net_metered: record.flowed_back,
      }),
    ]);
  return (
    <details className="mt-3 border-t border-rule pt-1" open={kept.length > 0}>
      <summary className="cursor-pointer font-semibold">Measured demand</summary>
      {kept.map((item) => {
        const own = { list: "measurements", thing: item } as const;
        return (
          <div key={item.id} className="mb-2 max-w-lg border-b border-rule pb-1">
            <ThingField {...own} kind="number" field="peak_kw" label="Recorded peak" unit="kW" />
            <ThingField {...own} kind="number" field="power_factor" label="Power factor" />
            <ThingField {...own} kind="number" field="days" label="Days recorded" unit="d" />
            <ThingField {...own} kind="number" field="interval_minutes" label="Interval" unit="min" />
            <ThingField {...own} kind="yes-no" field="net_metered" label="Net of generation" />
            <ThingField {...own} kind="yes-no" field="highest_phase_recorded" label="Highest phase" />
            <ThingField {...own} kind="yes-no" field="seasonal_load_allowed_for" label="Season allowed for" />
            <FigureLine label="With new load" figure={figures.measured} gap="cannot tell" />
            <FigureLine label="Amperes" figure={figures.measured_amperes} gap="cannot tell" />
            {mayWrite ? (
              <Button
                kind="quiet"
                aria-label="Remove the record"
                onClick={() => remove("Remove the record", "measurements", item.id)}
              >
                Remove
              </Button>
            ) : null}
          </div>
        );
      })}
      {mayWrite ? (
        <label className="block">
          <span className="narrow text-soft">
            A year of readings at 15 minutes, as CSV (a column of times and one of kWh or kW) or as the XML that
            utilities hand out.{" "}
          </span>
          <input
            type="file"
            accept=".csv,.xml,text/csv,text/xml"
            aria-label="Record of the meter"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) read(file);
            }}
          />
        </label>
      ) : null}
      {reading.kind === "reading" ? (
        <ReadingOn
          progress={reading.progress}
          onStop={() => {
            abort.current?.abort();
            setReading({ kind: "none" });
          }}
        />
      ) : null}
      {reading.kind === "refused" ? <Issues issues={reading.issues} /> : null}
      {reading.kind === "read" ? (
        <div className="mt-2">
          <RecordCurve record={reading.record} />
          {reading.record.warnings.map((warning) => (
            <p key={warning} className="text-advice">
              {warning}
            </p>
          ))}
          <Button onClick={() => keep(reading.record)}>Keep its peak on this level</Button>
        </div>
      ) : null}
    </details>
  );
}
