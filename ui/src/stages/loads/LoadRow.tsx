/** One load as a row of fields; each edit is taken at once, a fault keeps what was typed. */
import facts from "../../api/model.json";
import { useState, type ReactNode } from "react";
import { Button } from "../../kit/Button";
import type { Load } from "../../core/document";
import { limitOf, numberFault } from "../../core/limits";
import { word } from "../../core/words";
import { useWork } from "../../core/context";

const CELL = "rounded-sm border border-rule bg-sheet px-1 py-0.5 aria-invalid:border-fix pointer-coarse:min-h-11";
const ALWAYS_CONTINUOUS = new Set<string>(facts.always_continuous);
const FOOT_UNITS = new Set(["ft2", "circuits"]);

export function LoadRow({ load }: { load: Load }) {
  const { site, put, remove, seal, mayWrite } = useWork("site", "put", "remove", "seal", "mayWrite");
  const set = (field: string, value: unknown) => put("loads", load.id, field, value);
  const choice = (field: keyof Load, label: string, options: string[], empty?: string) => (
    <select
      aria-label={`${label}, ${load.name}`}
      className={`${CELL} max-w-24`}
      disabled={!mayWrite}
      value={wordOf(load[field])}
      onChange={(event) => set(field, event.target.value || null)}
    >
      {empty !== undefined ? <option value="">{empty}</option> : null}
      {options.map((item) => (
        <option key={item} value={item}>
          {word(item)}
        </option>
      ))}
    </select>
  );
  const enumOf = (field: string) => (limitOf("loads", field).enum ?? []).map(String);
  const asksDiversity = site.settings.other_load_method === "farm" && !load.dwelling_unit_id;
  const area = FOOT_UNITS.has(load.unit);
  return (
    <tr
      className={`border-t border-rule align-top max-sm:grid max-sm:grid-cols-3 ${load.standing === "added" ? "bg-touched/50" : ""}`}
      data-load={load.id}
    >
      <Cell label="Load">
        <input
          aria-label="Name of the load"
          dir="auto"
          className={`${CELL} w-30`}
          maxLength={200}
          disabled={!mayWrite}
          value={load.name}
          onChange={(event) => set("name", event.target.value)}
          onBlur={seal}
        />
        {load.standing === "added" ? <span className="narrow block text-soft">proposed</span> : null}
      </Cell>
      <Cell label="Kind">
        {load.category === "lighting_area" ? (
          load.dwelling_unit_id ? (
            choice("space_kind", "Kind of space", enumOf("space_kind"), "living")
          ) : (
            choice("occupancy", "Occupancy", enumOf("occupancy"), "occupancy?")
          )
        ) : (
          <span className="narrow">
            {word(load.category)}
            {area ? null : (
              <details open={Boolean(load.runs_apart)}>
                <summary className="cursor-pointer text-soft">runs apart</summary>
                <input
                  aria-label={`Runs apart, ${load.name}`}
                  className={`${CELL} w-24`}
                  maxLength={40}
                  placeholder="same word"
                  disabled={!mayWrite}
                  value={load.runs_apart}
                  onChange={(event) => set("runs_apart", event.target.value)}
                  onBlur={seal}
                />
              </details>
            )}
            {asksDiversity ? (
              <select
                aria-label={`Runs with the others, ${load.name}`}
                className={`${CELL} block max-w-24`}
                disabled={!mayWrite}
                value={load.without_diversity === null ? "" : String(load.without_diversity)}
                onChange={(event) =>
                  set("without_diversity", event.target.value === "" ? null : event.target.value === "true")
                }
              >
                <option value="">together?</option>
                <option value="true">together</option>
                <option value="false">now and then</option>
              </select>
            ) : null}
            {load.category === "vehicle_charging" ? (
              <label className="block whitespace-nowrap">
                <input
                  type="checkbox"
                  disabled={!mayWrite}
                  checked={load.load_managed}
                  onChange={(event) => set("load_managed", event.target.checked)}
                />{" "}
                managed limit
              </label>
            ) : null}
            {load.category === "fastened_appliance" ? (
              <label className="block whitespace-nowrap">
                <input
                  type="checkbox"
                  disabled={!mayWrite}
                  checked={load.motor_driven}
                  onChange={(event) => set("motor_driven", event.target.checked)}
                />{" "}
                motor-driven
              </label>
            ) : null}
            {load.category === "motor" && load.dwelling_unit_id ? (
              <label className="block whitespace-nowrap">
                <input
                  type="checkbox"
                  disabled={!mayWrite}
                  checked={load.fastened_in_place}
                  onChange={(event) => set("fastened_in_place", event.target.checked)}
                />{" "}
                fastened in place
              </label>
            ) : null}
            {load.category === "supplementary_heat" ? (
              <label className="block whitespace-nowrap">
                <input
                  type="checkbox"
                  disabled={!mayWrite}
                  checked={load.locked_out}
                  onChange={(event) => set("locked_out", event.target.checked)}
                />{" "}
                locked out
              </label>
            ) : null}
          </span>
        )}
      </Cell>
      <Cell label="Amount">
        <Amount load={load} field="amount" width="w-14" />
      </Cell>
      <Cell>
        {area
          ? word(load.unit)
          : choice(
              "unit",
              "Unit",
              enumOf("unit").filter((item) => !FOOT_UNITS.has(item)),
            )}
      </Cell>
      <Cell label="Pieces">{area ? null : <Amount load={load} field="quantity" width="w-10" />}</Cell>
      <Cell label="Volts">{area ? null : <Amount load={load} field="volts" width="w-12" />}</Cell>
      <Cell label="On">{area ? null : choice("connection", "Legs", enumOf("connection"), "even")}</Cell>
      <Cell label="Cont." className="sm:text-center">
        <input
          type="checkbox"
          aria-label={`Continuous, ${load.name}`}
          className="size-4 pointer-coarse:size-6"
          disabled={!mayWrite || area}
          checked={load.continuous || ALWAYS_CONTINUOUS.has(load.category)}
          onChange={(event) => set("continuous", event.target.checked)}
        />
      </Cell>
      <Cell label="Unit">
        <select
          aria-label={`Dwelling unit, ${load.name}`}
          className={`${CELL} max-w-20`}
          disabled={!mayWrite}
          value={load.dwelling_unit_id ?? ""}
          onChange={(event) => set("dwelling_unit_id", event.target.value || null)}
        >
          <option value="">other</option>
          {(site.dwelling_units ?? []).map((unit) => (
            <option key={unit.id} value={unit.id}>
              {unit.name || unit.id}
            </option>
          ))}
        </select>
      </Cell>
      <Cell>
        {mayWrite ? (
          <Button
            kind="quiet"
            aria-label={`Remove ${load.name}`}
            onClick={() => remove(`Remove ${load.name}`, "loads", load.id)}
          >
            ×
          </Button>
        ) : null}
      </Cell>
    </tr>
  );
}

/** One field of the row; on a narrow screen, where the row becomes a card, it brings its heading along. */
function Cell({ label, className = "", children }: { label?: string; className?: string; children: ReactNode }) {
  return (
    <td
      data-label={label}
      className={`py-1 pr-1 max-sm:before:block max-sm:before:text-soft max-sm:before:content-[attr(data-label)] ${className}`}
    >
      {children}
    </td>
  );
}

function Amount({ load, field, width }: { load: Load; field: "amount" | "quantity" | "volts"; width: string }) {
  const { put, seal, mayWrite } = useWork("put", "seal", "mayWrite");
  const [draft, setDraft] = useState<string | null>(null);
  const value = load[field] ?? null;
  const fault = draft === null ? undefined : faultOf(draft, field);
  return (
    <>
      <input
        aria-label={`${word(field)}, ${load.name}`}
        inputMode="decimal"
        className={`${CELL} ${width}`}
        disabled={!mayWrite}
        placeholder="?"
        aria-invalid={fault !== undefined}
        value={draft ?? (value === null ? "" : String(value))}
        onChange={(event) => {
          const text = event.target.value;
          setDraft(text);
          if (faultOf(text, field) === undefined)
            put("loads", load.id, field, text.trim() === "" ? null : Number(text));
        }}
        onBlur={() => {
          if (fault === undefined) setDraft(null);
          seal();
        }}
      />
      {fault ? (
        <span role="alert" className="narrow block max-w-28 text-fix">
          {fault}
        </span>
      ) : null}
    </>
  );
}

function faultOf(text: string, field: string): string | undefined {
  if (text.trim() === "") return limitOf("loads", field).nullable ? undefined : "Enter a number.";
  return numberFault("loads", field, Number(text));
}

function wordOf(value: unknown): string {
  return typeof value === "string" ? value : "";
}
