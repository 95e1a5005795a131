/** Panels: every circuit in its space, read as one reads a door; the chosen breaker's sheet at the side. */
import { useEffect, useRef, useState } from "react";
import { useWork } from "../../core/context";
import { find, type Enclosure } from "../../core/document";
import { CircuitList } from "./CircuitList";
import { CircuitSheet } from "./CircuitSheet";
import { CircuitTable } from "./CircuitTable";
import { DoorEntry } from "./DoorEntry";
import { FinderLog } from "./FinderLog";
import { LegBars } from "./LegBars";
import { PanelDrawing } from "./PanelDrawing";
import { PushedIn } from "./PushedIn";
import { PanelSheet } from "./PanelSheet";

export function PanelsStage() {
  const { site, report, selected, select } = useWork("site", "report", "selected", "select");
  const panels = usePanels();
  const chosen = find(site.devices, selected);
  const [last, setLast] = useState<string | null>(null);
  const shown = find(panels, chosen?.enclosure_id ?? selected) ?? find(panels, last) ?? panels[0];
  const panelId = shown?.id ?? null;
  if (panelId !== last) setLast(panelId); // it stays where a breaker that was chosen goes away
  const choose = (id: string | null) => select(id ?? panelId);
  useEffect(() => {
    if (panelId && panelId !== (chosen?.enclosure_id ?? selected)) select(panelId);
  }, [panelId, chosen, selected, select]);
  useLeavingTo(panelId);
  if (!shown)
    return (
      <section aria-label="Panels" className="p-8">
        <h2 className="wide text-lg font-bold">No panel yet</h2>
        <p className="max-w-md text-soft">
          Feed a panel on the path; its breakers are then put into their spaces here.
        </p>
      </section>
    );
  const bus = (site.buses ?? []).find((item) => item.enclosure_id === shown.id);
  const schedule = bus ? report?.schedules[bus.id] : undefined;
  const circuit = schedule?.circuits.find((item) => item.device_id === chosen?.id);
  return (
    <section
      aria-label="Panels"
      className="grid min-h-0 min-w-0 lg:grid-cols-[minmax(0,1fr)_21rem] max-lg:overflow-visible"
    >
      <div className="flex min-h-0 min-w-0 flex-col overflow-y-auto px-4 py-2">
        <Picker panels={panels} shown={shown.id} onPick={select} />
        {schedule && schedule.spaces.length > 0 ? (
          <>
            <PanelDrawing schedule={schedule} chosen={chosen?.id ?? null} onChoose={choose} />
            <DoorEntry key={schedule.bus_id} schedule={schedule} onAdded={choose} />
            <CircuitList key={`list ${schedule.bus_id}`} schedule={schedule} />
            <FinderLog key={`finder ${schedule.bus_id}`} schedule={schedule} />
            <CircuitTable schedule={schedule} onChoose={choose} />
          </>
        ) : bus ? (
          <p className="py-2 text-soft">Enter how many spaces the panel has, at the side: it is then drawn here.</p>
        ) : null}
      </div>
      <aside
        aria-label="Sheet"
        data-testid="panel-sheet"
        className="min-h-0 overflow-y-auto border-l border-rule bg-sheet px-3 pt-2 pb-4 max-lg:border-t max-lg:border-l-0"
      >
        {schedule && circuit ? (
          <CircuitSheet key={circuit.device_id} schedule={schedule} circuit={circuit} onLeave={() => choose(null)} />
        ) : (
          <>
            {schedule ? <LegBars schedule={schedule} /> : null}
            {schedule && schedule.spaces.length > 0 ? <PushedIn schedule={schedule} onAdded={choose} /> : null}
            {bus ? <PanelSheet enclosure={shown} bus={bus} schedule={schedule} /> : null}
          </>
        )}
      </aside>
    </section>
  );
}

/** Other stages know no breakers: the panel stays selected when this one is left. */
function useLeavingTo(panelId: string | null) {
  const { select } = useWork("select");
  const latest = useRef(panelId);
  useEffect(() => {
    latest.current = panelId;
  });
  useEffect(() => () => select(latest.current), [select]);
}

/** The enclosures that have a bus, in walking order. */
function usePanels(): Enclosure[] {
  const { site, report } = useWork("site", "report");
  const withBus = new Set((site.buses ?? []).map((item) => item.enclosure_id));
  const order = new Map((report?.walking_order ?? []).map((id, at) => [id, at]));
  const place = (item: Enclosure) => order.get(item.id) ?? Number.MAX_SAFE_INTEGER;
  return (site.enclosures ?? []).filter((item) => withBus.has(item.id)).sort((a, b) => place(a) - place(b));
}

function Picker({ panels, shown, onPick }: { panels: Enclosure[]; shown: string; onPick: (id: string) => void }) {
  return (
    <div role="group" aria-label="Which panel" className="mb-1.5 flex flex-wrap gap-x-3 gap-y-1">
      {panels.map((item) => (
        <button
          key={item.id}
          type="button"
          dir="auto"
          aria-pressed={item.id === shown}
          data-panel={item.id}
          className="border-b-2 border-transparent px-0.5 font-semibold text-soft hover:text-copper aria-pressed:border-copper aria-pressed:text-ink pointer-coarse:min-h-11"
          onClick={() => onPick(item.id)}
        >
          {item.name || item.id}
        </button>
      ))}
    </div>
  );
}
