/** Loads of each panel from a catalogue, and the calculated load with every line. */
import { useState } from "react";
import facts from "../../api/model.json";
import { answered, api, type Schemas } from "../../api/client";
import { FigureLine } from "../../sheets/FigureLine";
import { find, freshId, type Load } from "../../core/document";
import { insert } from "../../core/changes";
import { LOAD_METHODS } from "../../core/words";
import { useWork } from "../../core/context";
import { Combo } from "../../kit/Combo";
import { useAnswer } from "../../core/useAnswer";
import { LegTable, LevelTable } from "./LevelTable";
import { LoadList } from "./LoadList";
import { LoadRow } from "./LoadRow";
import { MeterRecord } from "./MeterRecord";
import { Methods } from "./Methods";

interface NewLoad {
  label: string;
  name: string;
  unit: string;
  amount: number | null;
  volts: number | null;
  continuous: boolean;
  spellings: string[];
}

const CATALOGUE: Record<string, NewLoad> = facts.new_loads;
const KINDS = Object.entries(CATALOGUE).map(([value, { label, name, spellings }]) => ({
  value,
  label,
  also: [name, ...spellings],
}));
const DWELLING_ONLY = new Set(["small_appliance", "laundry"]);

const VOLTS: Record<"between_lines" | "to_neutral", Record<string, number>> = facts.volts;
const THREE_PHASE = new Set(facts.three_phase);

/** What a kind of load begins with on a panel of a system: its volts, and three phases for a motor where there are three. */
function asFound(category: string, entry: NewLoad, system: string | null): Partial<Load> {
  const usual = entry.volts;
  if (usual === null || system === null || category === "receptacles") return { volts: usual };
  const volts = VOLTS[usual > 150 ? "between_lines" : "to_neutral"][system] ?? usual;
  return { volts, three_phase: category === "motor" && THREE_PHASE.has(system) };
}

export function LoadsStage({ jobId }: { jobId: string }) {
  const { site, document, selected, select, report } = useWork("site", "document", "selected", "select", "report");
  const table = useAnswer({ document }, (body, signal) => answered(api.POST("/api/levels", { body, signal })));
  const [chosen, setChosen] = useState<string | null>(null);
  const walking = (report?.walking_order ?? []).filter((id) => find(site.enclosures, id));
  const withLoads = walking.find((id) => (site.loads ?? []).some((load) => load.enclosure_id === id));
  const fromSelection = find(site.enclosures, selected)?.id;
  const panelId = fromSelection ?? (chosen && walking.includes(chosen) ? chosen : (withLoads ?? walking.at(-1)));
  if (walking.length === 0 || !panelId)
    return <p className="p-8 text-soft">Draw the path first: loads stand on its panels.</p>;
  return (
    <div className="grid min-h-0 min-w-0 lg:grid-cols-[minmax(0,1fr)_20rem]">
      <section aria-label="Loads" className="min-h-0 min-w-0 overflow-auto px-3 py-3">
        <LevelTable
          rows={table.answer?.levels ?? []}
          chosen={panelId}
          onChoose={(id) => {
            setChosen(id);
            select(id);
          }}
        />
        <LegTable row={table.answer?.levels.find((row) => row.id === panelId)} />
        <h2 className="wide mt-3 mb-1 text-base font-bold">
          Loads on {find(site.enclosures, panelId)?.name || panelId}
        </h2>
        <PanelLoads panelId={panelId} />
        <Methods />
        <MeterRecord panelId={panelId} key={panelId} />
        <LoadList panelId={panelId} jobId={jobId} />
      </section>
      <LevelSheet level={report?.enclosures[panelId]?.level} name={find(site.enclosures, panelId)?.name ?? panelId} />
    </div>
  );
}

function PanelLoads({ panelId }: { panelId: string }) {
  const { site, document, state, act, mayWrite, report } = useWork(
    "site",
    "document",
    "state",
    "act",
    "mayWrite",
    "report",
  );
  const loads = (site.loads ?? []).filter((load) => load.enclosure_id === panelId);
  const enclosure = find(site.enclosures, panelId);
  const building = site.buildings?.find((item) => item.id === enclosure?.building_id);
  const add = (wish: string) => {
    const entry = CATALOGUE[wish];
    if (!entry) return;
    const units = site.dwelling_units ?? [];
    const inDwelling =
      loads.some((load) => load.dwelling_unit_id) ||
      DWELLING_ONLY.has(wish) ||
      (units.length === 1 && building?.use === "dwelling");
    const thing: Load = {
      id: freshId(document, entry.name),
      standing: state === "existing" ? "existing" : "added",
      enclosure_id: panelId,
      name: entry.name,
      category: wish as Load["category"],
      unit: entry.unit as Load["unit"],
      amount: entry.amount,
      ...asFound(wish, entry, report?.enclosures[panelId]?.level.system ?? null),
      continuous: entry.continuous,
      dwelling_unit_id: inDwelling ? (units[0]?.id ?? null) : null,
    } as Load;
    act(`Add ${entry.name.toLowerCase()}`, [insert("loads", thing)]);
  };
  return (
    <>
      {loads.length === 0 ? (
        <p className="mb-3 text-soft">No load stands on this panel itself. Add one from the catalogue.</p>
      ) : null}
      {loads.length ? (
        <table className="w-full">
          <thead className="max-sm:hidden">
            <tr className="narrow text-left text-soft">
              {["Load", "Kind", "Amount", "", "Pieces", "Volts", "On", "Cont.", "Unit", ""].map((head, at) => (
                <th key={at} scope="col" className="pr-1 font-normal">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {loads.map((load) => (
              <LoadRow key={load.id} load={load} />
            ))}
          </tbody>
        </table>
      ) : null}
      {mayWrite ? (
        <div className="mt-3 max-w-64">
          <Combo
            label="Add a load"
            value={null}
            empty="Add a load"
            options={KINDS}
            onChange={(kind) => kind !== null && add(String(kind))}
          />
        </div>
      ) : null}
    </>
  );
}

/** What is connected, where the demand is less. */
function ofConnected(connected: Schemas["FigureOut"], demand: Schemas["FigureOut"], factor = ""): string | null {
  return connected.value === demand.value ? null : `${factor} of ${connected.value}`.trim();
}

function LevelSheet({ level, name }: { level: Schemas["LevelOut"] | undefined; name: string }) {
  if (!level) return null;
  return (
    <aside
      aria-label="Calculated load"
      className="min-h-0 overflow-y-auto border-l border-rule bg-sheet px-3 py-2 max-lg:border-t max-lg:border-l-0"
    >
      <h2 className="text-lg font-bold">Load at {name} and beneath</h2>
      {level.gap ? <p className="text-tell">Cannot tell: {level.gap}</p> : null}
      {level.groups.map((group) => (
        <section key={group.name} className="mt-3">
          <h3 className="wide border-b border-ink text-xs font-bold uppercase">
            {group.name}
            <span className="narrow ml-2 font-normal normal-case">{LOAD_METHODS[group.method]}</span>
          </h3>
          {group.lines.map((line) => (
            <FigureLine
              key={line.label}
              label={line.label}
              figure={line.demand}
              note={ofConnected(line.connected, line.demand, line.factor)}
            />
          ))}
        </section>
      ))}
      <section className="mt-3 border-t border-ink">
        <FigureLine
          label="Calculated"
          figure={level.demand ?? undefined}
          note={level.connected && level.demand ? ofConnected(level.connected, level.demand) : null}
        />
        {level.legs.map((leg) => (
          <FigureLine key={leg.leg} label={leg.leg} figure={leg.load} note={`sized for ${leg.design.value} A`} />
        ))}
        <FigureLine label="Neutral" figure={level.neutral ?? undefined} />
      </section>
    </aside>
  );
}
