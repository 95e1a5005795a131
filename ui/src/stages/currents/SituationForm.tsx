/** What is asked: all well, a fault at a box, a conductor open along a run; and how much of the load is on. */
import { useId, useState } from "react";
import type { Schemas } from "../../api/client";
import { find } from "../../core/document";
import { useWork } from "../../core/context";

export type Situation = Required<Pick<Schemas["Situation"], "kind" | "leg" | "fault_ohms" | "use" | "draw">> & {
  place: string | null;
  /** The volts that the arc keeps through which a fault goes; null where it goes through its ohms. */
  arc_volts: number | null;
  bonds: Record<string, boolean>;
  /** Electrodes that are played with, in ohms to earth. */
  electrode_ohms: Record<string, number>;
  /** The soil about electrodes that were not measured; null where it is not told. */
  soil_ohm_m: number | null;
  loads_off: string[];
  /** Two boxes, or a box and the earth, that somebody touches at once. */
  between: string[];
};

export const AS_DESIGNED: Situation = {
  kind: "all_well",
  place: null,
  leg: "L1",
  fault_ohms: 0.01,
  arc_volts: null,
  use: "calculated",
  draw: "impedance",
  bonds: {},
  electrode_ohms: {},
  soil_ohm_m: null,
  loads_off: [],
  between: [],
};

const KINDS: [Situation["kind"], string][] = [
  ["all_well", "All well"],
  ["ground_fault", "Line to metal at"],
  ["short_circuit", "Line to line at"],
  ["line_to_neutral", "Line to neutral at"],
  ["neutral_open", "Neutral open in"],
  ["ground_open", "Grounding conductor open in"],
];
export const AT_A_BOX = new Set<Situation["kind"]>(["ground_fault", "short_circuit", "line_to_neutral"]);
const OHMS: [number, string][] = [
  [0.01, "bolted"],
  [1, "1 Ω"],
  [10, "10 Ω"],
  [1000, "1000 Ω, a wet hand"],
];

/** Tell whether the situation can be studied: whether its place is chosen. */
export function isWhole(situation: Situation): boolean {
  return situation.kind === "all_well" || situation.place !== null;
}

const USUAL_ARC_V = 60;
const LEAST_ARC_V = 10;
const MOST_ARC_V = 1000;
const LEAST_OHMS = 0.0001;
const MOST_OHMS = 1_000_000;
const OTHER_OHMS = 5;

export const SELECT = "rounded-sm border border-rule bg-sheet px-1.5 py-0.5 pointer-coarse:min-h-11";

export function SituationForm({
  situation,
  onChange,
}: {
  situation: Situation;
  onChange: (situation: Situation) => void;
}) {
  const { site, report } = useWork("site", "report");
  const atBox = AT_A_BOX.has(situation.kind);
  const places = atBox
    ? (report?.walking_order ?? []).map((id) => ({ id, name: find(site.enclosures, id)?.name || id }))
    : Object.values(report?.runs ?? {}).map((run) => ({ id: run.id, name: run.name }));
  const legs = (site.conductors ?? []).some((item) => item.role === "L3") ? ["L1", "L2", "L3"] : ["L1", "L2"];
  const choose = (kind: Situation["kind"]) => {
    const sameKindOfPlace = AT_A_BOX.has(kind) === atBox && situation.kind !== "all_well";
    onChange({ ...situation, kind, place: kind !== "all_well" && sameKindOfPlace ? situation.place : null });
  };
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-rule bg-sheet px-3 py-1.5">
      <select
        aria-label="Situation"
        className={SELECT}
        value={situation.kind}
        onChange={(event) => choose(event.target.value as Situation["kind"])}
      >
        {KINDS.map(([kind, label]) => (
          <option key={kind} value={kind}>
            {label}
          </option>
        ))}
      </select>
      {situation.kind === "all_well" ? null : (
        <select
          aria-label="Where"
          className={SELECT}
          value={situation.place ?? ""}
          onChange={(event) => onChange({ ...situation, place: event.target.value || null })}
        >
          <option value="">choose where</option>
          {places.map((place) => (
            <option key={place.id} value={place.id}>
              {place.name}
            </option>
          ))}
        </select>
      )}
      {atBox ? (
        <>
          <select
            aria-label="Line"
            className={SELECT}
            value={situation.leg}
            onChange={(event) => onChange({ ...situation, leg: event.target.value as Situation["leg"] })}
          >
            {legs.map((leg) => (
              <option key={leg}>{leg}</option>
            ))}
          </select>
          <Through situation={situation} onChange={onChange} />
        </>
      ) : null}
      <select
        aria-label="Loads on"
        className={`${SELECT} ml-auto`}
        value={situation.use}
        onChange={(event) => onChange({ ...situation, use: event.target.value as Situation["use"] })}
      >
        <option value="calculated">loads as calculated</option>
        <option value="stated">all loads as stated</option>
      </select>
    </div>
  );
}

/** Through what a fault goes: next to nothing, some ohms, a hand, an arc. */
function Through({ situation, onChange }: { situation: Situation; onChange: (situation: Situation) => void }) {
  const { fault_ohms, arc_volts } = situation;
  const usual = OHMS.some(([ohms]) => ohms === fault_ohms);
  const choose = (value: string) => {
    if (value === "arc") onChange({ ...situation, arc_volts: USUAL_ARC_V });
    else onChange({ ...situation, arc_volts: null, fault_ohms: value === "ohms" ? OTHER_OHMS : Number(value) });
  };
  return (
    <>
      <select
        aria-label="Through"
        className={SELECT}
        value={arc_volts !== null ? "arc" : usual ? fault_ohms : "ohms"}
        onChange={(event) => choose(event.target.value)}
      >
        {OHMS.map(([ohms, label]) => (
          <option key={ohms} value={ohms}>
            {label}
          </option>
        ))}
        <option value="ohms">other ohms</option>
        <option value="arc">an arc</option>
      </select>
      {arc_volts !== null ? (
        <Amount
          label="The arc keeps"
          unit="V"
          least={LEAST_ARC_V}
          most={MOST_ARC_V}
          value={arc_volts}
          onChange={(value) => onChange({ ...situation, arc_volts: value })}
        />
      ) : usual ? null : (
        <Amount
          label="Its resistance"
          unit="Ω"
          least={LEAST_OHMS}
          most={MOST_OHMS}
          value={fault_ohms}
          onChange={(value) => onChange({ ...situation, fault_ohms: value })}
        />
      )}
    </>
  );
}

/** A figure of a situation; one that is out of bounds stays in its field, with the bounds told, and is not asked about. */
export function Amount({
  label,
  unit,
  least,
  most,
  value,
  placeholder,
  onChange,
}: {
  label: string;
  unit: string;
  least: number;
  most: number;
  value: number | "";
  placeholder?: string;
  onChange: (value: number) => void;
}) {
  const told = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const entered = Number(draft);
  const wrong = draft !== null && draft !== "" && !(entered >= least && entered <= most);
  return (
    <span className="flex items-center gap-1">
      <input
        type="number"
        inputMode="decimal"
        step="any"
        aria-label={label}
        aria-invalid={wrong}
        aria-describedby={wrong ? told : undefined}
        className={`${SELECT} w-24 tabular-nums ${wrong ? "border-fix" : ""}`}
        min={least}
        max={most}
        placeholder={placeholder}
        value={draft ?? value}
        onChange={(event) => {
          const text = event.target.value;
          setDraft(text);
          if (text !== "" && Number(text) >= least && Number(text) <= most) onChange(Number(text));
        }}
        onBlur={() => !wrong && setDraft(null)}
      />
      {unit}
      {wrong ? (
        <span id={told} role="alert" className="narrow text-fix">
          from {least} to {most.toLocaleString("en-US")} {unit}
        </span>
      ) : null}
    </span>
  );
}
