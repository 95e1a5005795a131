/** The run sheet: device, conductors, raceway, cover and drop, in both metals; what is locked is only checked. */
import { useState } from "react";
import type { Schemas } from "../api/client";
import { Button } from "../kit/Button";
import { FigureLine, figureText } from "./FigureLine";
import { FedFrom } from "./FedFrom";
import { Combo } from "../kit/Combo";
import { EnteredFacts } from "./EnteredFacts";
import { ThingField } from "./ThingField";
import { tapRun } from "../core/building";
import { toggleConductor } from "../core/conductors";
import { find, owners, type Run } from "../core/document";
import { limitOf } from "../core/limits";
import { FIELD_WORDS, word } from "../core/words";
import { useWork } from "../core/context";
import { CompareWindow } from "./CompareWindow";
import { BoxGroup } from "./BoxGroup";
import { Group, SheetTitle } from "./parts";
import { StretchGroup } from "./StretchGroup";
import { TapGroup } from "./TapGroup";
import { Terminals } from "./Terminals";

type RunOut = Schemas["RunOut"];
type SizeField = "hot_size" | "neutral_size" | "ground_size" | "raceway_size";

const KIND_WORDS: Record<string, string> = {
  service: "service conductors",
  utility: "the utility's own",
  secondary: "transformer secondary",
  branch: "branch circuit",
  source: "to a source",
  output: "output of a source",
  alone: "from a source to its first device",
  standby: "standby supply",
  cord: "cord",
  leads: "leads of a box of switches",
};

const SIZED: { part: string; field: SizeField }[] = [
  { part: "hots", field: "hot_size" },
  { part: "neutral", field: "neutral_size" },
  { part: "ground", field: "ground_size" },
  { part: "raceway", field: "raceway_size" },
];

export function RunSheet({ run, onFeedFrom }: { run: Run; onFeedFrom: (runId: string, fromId: string) => void }) {
  const { report, document, site, state, act, select, mayWrite } = useWork(
    "report",
    "document",
    "site",
    "state",
    "act",
    "select",
    "mayWrite",
  );
  const [comparing, setComparing] = useState(false);
  const isTap = (site.taps ?? []).some((item) => item.tap_run_id === run.id);
  const tap = () => {
    const { operations, id } = tapRun(document, state, run);
    act("Tap a run", operations);
    select(id);
  };
  const answer = report?.runs[run.id];
  const owner = owners(site);
  const nameOf = (part: string) => {
    const id = owner.get(part) ?? "";
    return find(site.enclosures, id)?.name || find(site.sources, id)?.name || id;
  };
  const changed = new Set(Object.keys(find(document.runs, run.id)?.proposed ?? {}));
  return (
    <>
      <SheetTitle title={`${nameOf(run.from_part)} → ${nameOf(run.to_part)}`}>
        {isTap ? "tap" : (KIND_WORDS[answer?.kind ?? ""] ?? "feeder")}
        {run.standing === "added" ? ", proposed" : ", standing"}
      </SheetTitle>
      <LengthAndFeed run={run} onFeedFrom={onFeedFrom} />
      {answer && answer.kind !== "utility" ? (
        <>
          <Group title="Worked out">
            <Figures run={run} answer={answer} changed={changed} />
          </Group>
          {answer.alternative ? <BothMetals run={run} answer={answer} /> : null}
          <p className="mt-2 flex flex-wrap gap-2">
            {isTap ? null : <Button onClick={() => setComparing(true)}>Compare lawful ways</Button>}
            {isTap || answer.kind !== "feeder" || !mayWrite ? null : <Button onClick={tap}>Tap this run</Button>}
          </p>
          <TapGroup runId={run.id} rules={answer.tap_rules} />
          <ToFit items={answer.to_fit} />
          <CompareWindow run={run} open={comparing} onClose={() => setComparing(false)} />
          <Group title="How it is run">
            <HowItIsRun run={run} answer={answer} />
          </Group>
          <StretchGroup run={run} answer={answer} />
          {answer.applies.includes("raceway_size") ? <BoxGroup run={run} /> : null}
          <Terminals run={run} />
        </>
      ) : null}
      {answer?.kind === "utility" ? (
        <Group title="As the utility tells">
          <ThingField kind="choice" list="runs" thing={run} field="hot_size" label="Hots" />
          <ThingField kind="choice" list="runs" thing={run} field="material" label="Metal" />
          <ThingField kind="number" list="runs" thing={run} field="sets" label="Sets" />
        </Group>
      ) : null}
    </>
  );
}

function LengthAndFeed({ run, onFeedFrom }: { run: Run; onFeedFrom: (runId: string, fromId: string) => void }) {
  const { site } = useWork("site");
  const owner = owners(site);
  const breaker = find(site.devices, run.from_part);
  return (
    <>
      <ThingField kind="text" list="runs" thing={run} field="name" label="Name" />
      <ThingField kind="length" list="runs" thing={run} field="length_ft" label="Length" />
      {breaker ? (
        <ThingField
          kind="number"
          list="devices"
          thing={breaker}
          field="rating_a"
          label="Its breaker"
          unit="A"
          hint={breaker.rating_a === null && breaker.standing === "added" ? "chosen for the load" : undefined}
        />
      ) : null}
      <FedFrom
        runId={run.id}
        fedId={owner.get(run.to_part) ?? ""}
        fromId={owner.get(run.from_part) ?? ""}
        onFeedFrom={onFeedFrom}
      />
    </>
  );
}

function Figures({ run, answer, changed }: { run: Run; answer: RunOut; changed: Set<string> }) {
  const { figures, gaps } = answer.chosen;
  return (
    <>
      <FigureLine
        label="Load"
        figure={figures.load}
        gap={gaps.load}
        note={figures.design ? `sized for ${figures.design.value} A` : null}
      />
      <FigureLine label="Device" figure={figures.device} gap={gaps.device} />
      {SIZED.map(({ part, field }) =>
        figures[part] || gaps[part] ? (
          <FigureLine
            key={part}
            label={FIELD_WORDS[part] ?? part}
            figure={figures[part]}
            gap={gaps[part]}
            changed={changed.has(field)}
            note={part === "hots" && figures.ampacity ? `${figures.ampacity.value} A` : null}
          >
            <SizeChoice run={run} field={field} part={part} answer={answer} />
          </FigureLine>
        ) : null,
      )}
      {figures.cover || gaps.cover ? <FigureLine label="Cover needed" figure={figures.cover} gap={gaps.cover} /> : null}
      {figures.drop_at_device ? (
        <FigureLine label="Drop" figure={figures.drop_at_device} note="here at the device's rating; no load entered" />
      ) : (
        <FigureLine
          label="Drop"
          figure={figures.total_drop}
          gap={gaps.drop}
          note={figures.drop ? `${figureText(figures.drop)} of it here` : null}
        />
      )}
    </>
  );
}

/** A size: chosen by the rules, or locked because it is in the ground or on the van. */
function SizeChoice({ run, field, part, answer }: { run: Run; field: SizeField; part: string; answer: RunOut }) {
  const { put, mayWrite } = useWork("put", "mayWrite");
  const locked = run[field] ?? null;
  const worked = answer.chosen.figures[part];
  const sizes = (limitOf("runs", field).enum ?? []).map(String);
  const unit = field === "raceway_size" ? " in" : "";
  const found = answer.unread.includes(field) ? "would do; not read yet" : "chosen";
  return (
    <Combo
      label={`${FIELD_WORDS[part] ?? part}, size`}
      value={locked}
      empty={worked && !locked ? `${worked.value}${unit}, ${found}` : "choose for me"}
      options={sizes.map((size) => ({ value: size, label: `${size}${unit}, locked` }))}
      disabled={!mayWrite}
      onChange={(size) => put("runs", run.id, field, size, size === null ? "Free a size" : "Lock a size")}
    />
  );
}

/** Bushings, seals, bending space and the rest that a run asks for. */
function ToFit({ items }: { items: RunOut["to_fit"] }) {
  if (items.length === 0) return null;
  return (
    <Group title="Fit and watch">
      {items.map((item) =>
        item.figure ? (
          <FigureLine
            key={item.name}
            label={FIELD_WORDS[item.name.split(" ")[0] ?? ""] ?? item.name}
            figure={item.figure}
          >
            {item.text} <span className="narrow text-soft">{item.section}</span>
          </FigureLine>
        ) : (
          <p key={item.name} className="border-b border-rule py-1">
            {item.text} <span className="narrow text-soft">{item.section}</span>
          </p>
        ),
      )}
    </Group>
  );
}

const COMPARED = ["hots", "neutral", "ground", "raceway", "total_drop"];

/** Copper and aluminum side by side, with all upstream unchanged. */
function BothMetals({ run, answer }: { run: Run; answer: RunOut }) {
  const { put, mayWrite } = useWork("put", "mayWrite");
  const columns = [answer.chosen, answer.alternative].filter((item) => item !== null);
  return (
    <Group title="Both metals">
      <table className="w-full">
        <thead>
          <tr>
            <td />
            {columns.map((column, at) => (
              <th key={at} scope="col" className="text-left">
                <button
                  type="button"
                  disabled={at === 0 || !mayWrite}
                  className="font-semibold text-copper underline decoration-dotted disabled:text-ink disabled:no-underline pointer-coarse:min-h-11"
                  onClick={() => put("runs", run.id, "material", column.material, "Change metal")}
                >
                  {column.material === "copper" ? "Copper" : "Aluminum"}
                  {at === 0 ? ", chosen" : ""}
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {COMPARED.map((part) => (
            <tr key={part} className="border-t border-rule">
              <th scope="row" className="narrow text-left font-normal text-soft">
                {FIELD_WORDS[part]}
              </th>
              {columns.map((column, at) => {
                const figure = column.figures[part];
                return <td key={at}>{figure ? figureText(figure) : column.gaps[part] ? "cannot tell" : "none"}</td>;
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </Group>
  );
}

interface Making {
  kind: "choice" | "number" | "yes-no";
  field: string;
  label: string;
  unit?: string;
}

const MAKING: Making[] = [
  { kind: "choice", field: "insulation", label: "Conductor type" },
  { kind: "choice", field: "material", label: "Metal" },
  { kind: "choice", field: "placement", label: "Placed" },
  { kind: "choice", field: "method", label: "Method" },
  { kind: "choice", field: "burial_location", label: "Above it" },
  { kind: "number", field: "cover_in", label: "Cover", unit: "in" },
  {
    kind: "number",
    field: "roof_clearance_in",
    label: "Above the roof",
    unit: "in",
  },
  {
    kind: "number",
    field: "temperature_span_f",
    label: "Temperature span",
    unit: "°F",
  },
  { kind: "number", field: "bends_deg", label: "Bends between pulls", unit: "°" },
  { kind: "yes-no", field: "exposed_to_damage", label: "Can be hit" },
  {
    kind: "yes-no",
    field: "in_thermal_insulation",
    label: "In insulation",
  },
  {
    kind: "yes-no",
    field: "jacket_marked_sunlight",
    label: "Marked for sun",
  },
  { kind: "yes-no", field: "armor_listed_ground", label: "Armor grounds" },
  { kind: "number", field: "sets", label: "Parallel sets" },
  { kind: "choice", field: "ground_material", label: "Ground metal" },
  { kind: "yes-no", field: "neutral_as_calculated", label: "Smaller neutral" },
  { kind: "yes-no", field: "ground_by_raceway", label: "Raceway grounds" },
  { kind: "yes-no", field: "ground_bare", label: "Ground bare" },
  { kind: "number", field: "ambient_c", label: "Ambient", unit: "°C" },
  { kind: "number", field: "other_current_carrying", label: "Others carrying" },
  {
    kind: "yes-no",
    field: "complied_when_installed",
    label: "Lawful when built",
  },
];

const ROLES = ["L1", "L2", "L3", "neutral", "ground"] as const;
const ROLE_WORDS: Record<string, string> = { neutral: "N", ground: "G" };

/** Which conductors the run has, each taken out or brought in by a touch. */
function Wires({ run }: { run: Run }) {
  const { site, document, state, act, mayWrite } = useWork("site", "document", "state", "act", "mayWrite");
  const there = new Set((site.conductors ?? []).filter((item) => item.run_id === run.id).map((item) => item.role));
  const threeLegs = (site.conductors ?? []).some((item) => item.role === "L3");
  return (
    <fieldset className="grid grid-cols-[7.5rem_minmax(0,1fr)] items-center gap-x-2 py-0.5" disabled={!mayWrite}>
      <legend className="narrow float-left text-soft">Conductors</legend>
      <span className="flex flex-wrap gap-x-2">
        {ROLES.filter((role) => role !== "L3" || threeLegs).map((role) => (
          <label key={role} className="flex items-center gap-1 pointer-coarse:min-h-11">
            <input
              type="checkbox"
              aria-label={`Conductor ${role}`}
              className="size-4 pointer-coarse:size-6"
              checked={there.has(role)}
              onChange={() =>
                act(
                  there.has(role) ? `Take out ${role}` : `Bring in ${role}`,
                  toggleConductor(document, state, run, role),
                )
              }
            />
            {ROLE_WORDS[role] ?? role}
          </label>
        ))}
      </span>
    </fieldset>
  );
}

const CIRCUITS = ["feeder", "branch"].map((value) => ({ value, label: word(value) }));

function HowItIsRun({ run, answer }: { run: Run; answer: RunOut }) {
  return (
    <>
      <Circuit run={run} branch={answer.kind === "branch"} />
      <Wires run={run} />
      {MAKING.filter((item) => answer.applies.includes(item.field)).map(({ kind, field, label, unit }) => (
        <ThingField key={field} list="runs" thing={run} kind={kind} field={field} label={label} unit={unit} />
      ))}
      <EnteredFacts list="runs" ids={[run.id]} />
    </>
  );
}

/** Whether the device ahead feeds a panel or the last stretch to outlets, and what the rules ask of a branch circuit. */
function Circuit({ run, branch }: { run: Run; branch: boolean }) {
  const device = find(useWork("site").site.devices, run.from_part);
  if (!device || (device.role !== "feeder" && device.role !== "branch")) return null;
  return (
    <>
      <ThingField kind="choice" list="devices" thing={device} field="role" label="Circuit" options={CIRCUITS} />
      {branch ? (
        <>
          <ThingField
            kind="yes-no"
            list="runs"
            thing={run}
            field="several_receptacles"
            label="Many receptacles"
            hint="more than one, for portable loads"
          />
          <ThingField
            kind="yes-no"
            list="devices"
            thing={device}
            field="ground_fault_protection"
            label="Ground-fault"
            hint="the device protects against ground faults"
          />
        </>
      ) : null}
    </>
  );
}
