/** The run sheet: device, conductors, raceway, cover and drop, in both metals; what is locked is only checked. */
import type { Schemas } from "../../api/client";
import { FigureLine, figureText } from "../../kit/Figure";
import { ChoiceField, LengthField, NumberField, TextField, YesNoField } from "../../kit/Field";
import { possibleFeeds } from "../../model/building";
import { find, owners, type Run } from "../../model/document";
import { limitOf } from "../../model/limits";
import { FIELD_WORDS } from "../../model/words";
import { useWork } from "../../work/context";
import { Group, SheetTitle } from "./Sheet";

type RunOut = Schemas["RunOut"];
type SizeField = "hot_size" | "neutral_size" | "ground_size" | "raceway_size";

const SIZED: { part: string; field: SizeField }[] = [
  { part: "hots", field: "hot_size" },
  { part: "neutral", field: "neutral_size" },
  { part: "ground", field: "ground_size" },
  { part: "raceway", field: "raceway_size" },
];

export function RunSheet({ run, onFeedFrom }: { run: Run; onFeedFrom: (runId: string, fromId: string) => void }) {
  const { report, document, site } = useWork();
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
        {answer?.kind === "service"
          ? "service conductors"
          : answer?.kind === "utility"
            ? "the utility's own"
            : "feeder"}
        {run.standing === "added" ? ", proposed" : ", standing"}
      </SheetTitle>
      <LengthAndFeed run={run} changed={changed} onFeedFrom={onFeedFrom} />
      {answer && answer.kind !== "utility" ? (
        <>
          <Group title="Worked out">
            <Figures run={run} answer={answer} changed={changed} />
          </Group>
          {answer.alternative ? <BothMetals run={run} answer={answer} /> : null}
          <Group title="How it is run">
            <Making run={run} changed={changed} />
          </Group>
        </>
      ) : null}
    </>
  );
}

function LengthAndFeed({
  run,
  changed,
  onFeedFrom,
}: {
  run: Run;
  changed: Set<string>;
  onFeedFrom: (runId: string, fromId: string) => void;
}) {
  const { put, seal, site, mayWrite } = useWork();
  const owner = owners(site);
  const fed = owner.get(run.to_part) ?? "";
  return (
    <>
      <TextField
        label="Name"
        list="runs"
        field="name"
        value={run.name ?? ""}
        changed={changed.has("name")}
        disabled={!mayWrite}
        onChange={(value) => put("runs", run.id, "name", value)}
        onLeave={seal}
      />
      <LengthField
        label="Length"
        list="runs"
        field="length_ft"
        value={run.length_ft ?? null}
        changed={changed.has("length_ft")}
        disabled={!mayWrite}
        onChange={(value) => put("runs", run.id, "length_ft", value, "Change length")}
        onLeave={seal}
      />
      <FedFrom runId={run.id} fedId={fed} fromId={owner.get(run.from_part) ?? ""} onFeedFrom={onFeedFrom} />
    </>
  );
}

export function FedFrom({
  runId,
  fedId,
  fromId,
  onFeedFrom,
}: {
  runId: string;
  fedId: string;
  fromId: string;
  onFeedFrom: (runId: string, fromId: string) => void;
}) {
  const { site, mayWrite } = useWork();
  return (
    <div data-feed="">
      <ChoiceField
        label="Fed from"
        list="runs"
        field="from_part"
        value={fromId}
        disabled={!mayWrite}
        options={possibleFeeds(site, fedId).map((item) => ({ value: item.id, label: item.name }))}
        onChange={(value) => value !== null && value !== fromId && onFeedFrom(runId, String(value))}
      />
    </div>
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
      <FigureLine
        label="Drop"
        figure={figures.total_drop}
        gap={gaps.drop}
        note={figures.drop ? `${figureText(figures.drop)} of it here` : null}
      />
    </>
  );
}

/** A size: chosen by the rules, or locked because it is in the ground or on the van. */
function SizeChoice({ run, field, part, answer }: { run: Run; field: SizeField; part: string; answer: RunOut }) {
  const { put, mayWrite } = useWork();
  const locked = run[field] ?? null;
  const worked = answer.chosen.figures[part];
  const sizes = (limitOf("runs", field).enum ?? []).map(String);
  const unit = field === "raceway_size" ? " in" : "";
  return (
    <select
      aria-label={`${FIELD_WORDS[part] ?? part}, size`}
      className="max-w-full rounded-sm border border-rule bg-paper px-1 text-[15px] font-bold disabled:opacity-100 pointer-coarse:min-h-11"
      value={locked ?? ""}
      disabled={!mayWrite}
      onChange={(event) =>
        put("runs", run.id, field, event.target.value || null, event.target.value ? "Lock a size" : "Free a size")
      }
    >
      <option value="">{worked && !locked ? `${worked.value}${unit}, chosen` : "choose for me"}</option>
      {sizes.map((size) => (
        <option key={size} value={size}>
          {size}
          {unit}, locked
        </option>
      ))}
    </select>
  );
}

const COMPARED = ["hots", "neutral", "ground", "raceway", "total_drop"];

/** Copper and aluminium side by side, with all upstream unchanged. */
function BothMetals({ run, answer }: { run: Run; answer: RunOut }) {
  const { put, mayWrite } = useWork();
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
                  {column.material === "copper" ? "Copper" : "Aluminium"}
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

function Making({ run, changed }: { run: Run; changed: Set<string> }) {
  const { put, seal, mayWrite } = useWork();
  const choice = (label: string, field: keyof Run & string) => (
    <ChoiceField
      label={label}
      list="runs"
      field={field}
      value={(run[field] as string | null | undefined) ?? null}
      changed={changed.has(field)}
      disabled={!mayWrite}
      onChange={(value) => put("runs", run.id, field, value)}
    />
  );
  const number = (label: string, field: keyof Run & string, unit?: string) => (
    <NumberField
      label={label}
      list="runs"
      field={field}
      unit={unit}
      value={(run[field] as number | null | undefined) ?? null}
      changed={changed.has(field)}
      disabled={!mayWrite}
      onChange={(value) => put("runs", run.id, field, value)}
      onLeave={seal}
    />
  );
  return (
    <>
      {choice("Conductor type", "insulation")}
      {choice("Metal", "material")}
      {choice("Placed", "placement")}
      {choice("Method", "method")}
      {run.placement === "underground" ? choice("Above it", "burial_location") : null}
      {run.placement === "underground" ? number("Cover", "cover_in", "in") : null}
      {number("Parallel sets", "sets")}
      {choice("Ground metal", "ground_material")}
      <YesNoField
        label="Smaller neutral"
        list="runs"
        field="neutral_as_calculated"
        value={run.neutral_as_calculated ?? false}
        disabled={!mayWrite}
        onChange={(value) => put("runs", run.id, "neutral_as_calculated", value ?? false)}
      />
      <YesNoField
        label="Raceway grounds"
        list="runs"
        field="ground_by_raceway"
        value={run.ground_by_raceway ?? false}
        disabled={!mayWrite}
        onChange={(value) => put("runs", run.id, "ground_by_raceway", value ?? false)}
      />
      {number("Ambient", "ambient_c", "°C")}
      {number("Others carrying", "other_current_carrying")}
      {run.standing === "existing" ? (
        <YesNoField
          label="Lawful when built"
          list="runs"
          field="complied_when_installed"
          value={run.complied_when_installed ?? null}
          disabled={!mayWrite}
          onChange={(value) => put("runs", run.id, "complied_when_installed", value)}
        />
      ) : null}
    </>
  );
}
