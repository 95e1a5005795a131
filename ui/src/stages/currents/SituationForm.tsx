/** What is asked: all well, a fault at a box, a conductor open along a run; and how much of the load is on. */
import type { Schemas } from "../../api/client";
import { find } from "../../core/document";
import { useWork } from "../../core/context";

export type Situation = Required<Pick<Schemas["Situation"], "kind" | "leg" | "fault_ohms" | "use">> & {
  place: string | null;
  bonds: Record<string, boolean>;
  loads_off: string[];
  /** Two boxes, or a box and the earth, that somebody touches at once. */
  between: string[];
};

export const AS_DESIGNED: Situation = {
  kind: "all_well",
  place: null,
  leg: "L1",
  fault_ohms: 0.01,
  use: "calculated",
  bonds: {},
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

const SELECT = "rounded-sm border border-rule bg-sheet px-1.5 py-0.5 pointer-coarse:min-h-11";

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
          <select
            aria-label="Through"
            className={SELECT}
            value={situation.fault_ohms}
            onChange={(event) => onChange({ ...situation, fault_ohms: Number(event.target.value) })}
          >
            {OHMS.map(([ohms, label]) => (
              <option key={ohms} value={ohms}>
                {label}
              </option>
            ))}
          </select>
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
