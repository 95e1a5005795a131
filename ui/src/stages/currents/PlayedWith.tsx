/** Loads that are switched off and electrodes that are played with: nothing of it changes the job. */
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useWork } from "../../core/context";
import { Button } from "../../kit/Button";
import { Amount, SELECT, type Situation } from "./SituationForm";

const LEAST_OHMS = 0.01;
const MOST_OHMS = 1_000_000;

const SOILS: [number, string][] = [
  [20, "wet clay"],
  [60, "loam"],
  [200, "dry loam"],
  [500, "gravel"],
  [1000, "dry sand"],
  [3000, "rock"],
];

interface PlayedWithProps {
  situation: Situation;
  study: Schemas["StudyOut"] | null;
  onChange: (situation: Situation) => void;
}

export function PlayedWith({ situation, study, onChange }: PlayedWithProps) {
  const [open, setOpen] = useState(false);
  const off = situation.loads_off.length;
  const played = Object.keys(situation.electrode_ohms).length;
  const told = [
    ...(off > 0 ? [`${off} ${off === 1 ? "load" : "loads"} off`] : []),
    ...(played > 0 ? [`${played} ${played === 1 ? "electrode" : "electrodes"} played with`] : []),
    ...(situation.soil_ohm_m !== null ? [`soil of ${situation.soil_ohm_m} Ω·m`] : []),
    ...(situation.draw === "power" ? ["the same power at any volts"] : []),
  ];
  const back = () => onChange({ ...situation, loads_off: [], electrode_ohms: {}, soil_ohm_m: null, draw: "impedance" });
  return (
    <details
      className="border-b border-rule bg-sheet px-3 py-1"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="pointer-coarse:min-h-11">
        Loads and electrodes{told.length > 0 ? <strong>: {told.join(", ")}</strong> : null}
      </summary>
      {open ? (
        <div className="grid gap-x-8 gap-y-2 py-1 md:grid-cols-2">
          <Loads situation={situation} onChange={onChange} />
          <Electrodes situation={situation} study={study} onChange={onChange} />
          {told.length > 0 ? (
            <p>
              <Button kind="quiet" onClick={back}>
                All as they are
              </Button>
            </p>
          ) : null}
        </div>
      ) : null}
    </details>
  );
}

/** Loads by the box they hang on, each to be switched. */
function Loads({ situation, onChange }: Omit<PlayedWithProps, "study">) {
  const { site } = useWork("site");
  const off = new Set(situation.loads_off);
  const loads = site.loads ?? [];
  const boxes = (site.enclosures ?? []).filter((box) => loads.some((load) => load.enclosure_id === box.id));
  const change = (ids: string[], on: boolean) => {
    const left = situation.loads_off.filter((id) => !ids.includes(id));
    onChange({ ...situation, loads_off: on ? left : [...left, ...ids] });
  };
  if (boxes.length === 0) return <p className="text-soft">No load is drawn.</p>;
  return (
    <fieldset>
      <legend className="narrow text-soft">On</legend>
      {boxes.map((box) => {
        const own = loads.filter((load) => load.enclosure_id === box.id);
        const ids = own.map((load) => load.id);
        return (
          <details key={box.id}>
            <summary>
              <Switch
                label={box.name || box.id}
                on={ids.some((id) => !off.has(id))}
                onChange={(on) => change(ids, on)}
              />{" "}
              <span className="narrow text-soft">
                {own.filter((load) => !off.has(load.id)).length} of {own.length} on
              </span>
            </summary>
            <ul className="pl-5">
              {own.map((load) => (
                <li key={load.id}>
                  <Switch
                    label={load.name || load.id}
                    on={!off.has(load.id)}
                    onChange={(on) => change([load.id], on)}
                  />
                </li>
              ))}
            </ul>
          </details>
        );
      })}
      <label className="mt-1 flex flex-wrap items-center gap-2">
        What is on draws
        <select
          className={SELECT}
          value={situation.draw}
          onChange={(event) => onChange({ ...situation, draw: event.target.value as Situation["draw"] })}
        >
          <option value="impedance">less at fewer volts</option>
          <option value="power">the same power at any volts</option>
        </select>
      </label>
    </fieldset>
  );
}

function Switch({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="inline-flex items-center gap-1.5 pointer-coarse:min-h-11">
      <input type="checkbox" checked={on} onChange={(event) => onChange(event.target.checked)} />
      <span dir="auto">{label}</span>
    </label>
  );
}

/** Electrodes with their ohms to earth; an empty field leaves what was measured, or what is assumed. */
function Electrodes({ situation, study, onChange }: PlayedWithProps) {
  const { site } = useWork("site");
  const electrodes = site.electrodes ?? [];
  const names = new Map(study?.electrodes.map((item) => [item.id, item.name]));
  const nameOf = ({ id, kind }: (typeof electrodes)[number]) => {
    const name = names.get(id) ?? kind.replaceAll("_", " ");
    const alike = electrodes.filter((item) => names.get(item.id) === name);
    return alike.length > 1 ? `${name} (${alike.findIndex((item) => item.id === id) + 1})` : name;
  };
  if (electrodes.length === 0) return <p className="text-soft">No electrode is drawn.</p>;
  return (
    <fieldset>
      <legend className="narrow text-soft">Ohms to earth</legend>
      <ul className="space-y-1">
        {electrodes.map((item) => (
          <li key={item.id} className="flex flex-wrap items-center gap-2">
            <span dir="auto" className="min-w-0 flex-1">
              {nameOf(item)}
            </span>
            <Amount
              label={`Ohms of ${nameOf(item)}`}
              unit="Ω"
              least={LEAST_OHMS}
              most={MOST_OHMS}
              value={situation.electrode_ohms[item.id] ?? ""}
              placeholder={item.resistance_ohm?.toString() ?? "assumed"}
              onChange={(value) =>
                onChange({ ...situation, electrode_ohms: { ...situation.electrode_ohms, [item.id]: value } })
              }
            />
          </li>
        ))}
      </ul>
      <label className="mt-1 flex flex-wrap items-center gap-2">
        Soil, where none is measured
        <select
          className={SELECT}
          value={situation.soil_ohm_m ?? ""}
          onChange={(event) =>
            onChange({ ...situation, soil_ohm_m: event.target.value === "" ? null : Number(event.target.value) })
          }
        >
          <option value="">not told</option>
          {SOILS.map(([ohms, words]) => (
            <option key={ohms} value={ohms}>
              {words}, {ohms} Ω·m
            </option>
          ))}
        </select>
      </label>
    </fieldset>
  );
}
