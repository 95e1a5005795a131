/** The meter's record of a level: read from CSV or XML, looked at as a curve, and kept as its peak. */
import { useState } from "react";
import { ApiFailure, call, type Issue, type Schemas } from "../../api/client";
import { Button } from "../../kit/Button";
import { FigureLine } from "../../kit/Figure";
import { Issues } from "../../kit/Issues";
import { ThingField } from "../../kit/ThingField";
import { freshId } from "../../model/document";
import { remove } from "../../model/building";
import { insert } from "../../model/operations";
import { useWork } from "../../work/context";
import { RecordCurve } from "./RecordCurve";

type RecordOut = Schemas["RecordOut"];
type Reading =
  { kind: "none" } | { kind: "reading" } | { kind: "read"; record: RecordOut } | { kind: "refused"; issues: Issue[] };

export function MeterRecord({ panelId }: { panelId: string }) {
  const { site, document, state, act, mayWrite, report } = useWork();
  const [reading, setReading] = useState<Reading>({ kind: "none" });
  const kept = (site.measurements ?? []).filter((item) => item.enclosure_id === panelId);
  const figures = report?.enclosures[panelId]?.figures ?? {};
  const read = (file: File) => {
    setReading({ kind: "reading" });
    file
      .text()
      .then((text) => call<RecordOut>("POST", "/records/read", text))
      .then((record) => setReading({ kind: "read", record }))
      .catch((failure: Error) => {
        const issues = failure instanceof ApiFailure && failure.issues.length ? failure.issues : null;
        setReading({
          kind: "refused",
          issues: issues ?? [{ code: "", path: "", reason: failure.message, remedy: "" }],
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
                onClick={() => act("Remove the record", remove(document, state, "measurements", item.id))}
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
      {reading.kind === "reading" ? <p role="status">Reading the record…</p> : null}
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
