/** What feeds into the bus besides its supply: the rules of the edition, each with the largest source that it allows, and
 * every other way to connect. */
import { useState } from "react";
import { Button } from "../../kit/Button";
import { FigureLine } from "../../sheets/FigureLine";
import { ThingField } from "../../sheets/ThingField";
import { SourcePlateFields } from "../../sheets/SourceSheet";
import { Group } from "../../sheets/parts";
import { pushIn, type Schedule } from "../../core/panel";
import { useWork } from "../../core/context";
import { find, type Source } from "../../core/document";
import { WaysWindow, type Sought } from "./WaysWindow";

const RULES: [string, string][] = [
  ["bus_100_sum", "All within the bus"],
  ["bus_120", "120 %, opposite end"],
  ["bus_center_fed", "120 %, fed in the middle"],
];

export function PushedIn({ schedule, onAdded }: { schedule: Schedule; onAdded: (id: string) => void }) {
  const { document, site, report, state, act, mayWrite } = useWork(
    "document",
    "site",
    "report",
    "state",
    "act",
    "mayWrite",
  );
  const figures = report?.enclosures[schedule.enclosure_id]?.figures ?? {};
  const told = RULES.filter(([key]) => figures[`${key} total`]);
  const verdict = report?.findings.find(
    (item) => item.code === "bus_source" && [schedule.enclosure_id, schedule.bus_id].includes(item.id),
  );
  const [sought, seek] = useState<Sought | null>(null);
  const enclosure = find(site.enclosures, schedule.enclosure_id);
  const sources = usePushing(schedule);
  const add = () => {
    const added = pushIn(document, site, state, schedule);
    if (!added) return;
    act(`A solar inverter on ${schedule.name}`, added.operations);
    onAdded(added.id);
  };
  return (
    <Group title="Fed in besides the supply">
      {verdict ? <p className="narrow">{verdict.text}</p> : null}
      {told.map(([key, label]) => (
        <div key={key} data-rule={key}>
          <FigureLine label={label} figure={figures[`${key} total`]} note="with the device ahead" />
          <FigureLine
            label="largest output"
            figure={figures[`${key} largest`]}
            gap="the device ahead takes all of the bus"
          />
        </div>
      ))}
      {mayWrite ? (
        <p className="flex flex-wrap gap-x-2">
          <Button kind="quiet" onClick={add}>
            A solar inverter feeds in here
          </Button>
          {state === "proposed" && enclosure ? (
            <>
              <Button kind="quiet" onClick={() => seek({ panel: enclosure })}>
                Ways to connect a source
              </Button>
              {sources.map((source) => (
                <Button key={source.id} kind="quiet" onClick={() => seek({ source })}>
                  {`Other ways for ${source.name || source.id}`}
                </Button>
              ))}
            </>
          ) : null}
        </p>
      ) : null}
      <WaysWindow
        sought={sought}
        onClose={() => seek(null)}
        onTaken={(device) => {
          seek(null);
          // The second frame comes after the window has given the focus back.
          if (device) requestAnimationFrame(() => requestAnimationFrame(() => onAdded(device)));
        }}
      />
    </Group>
  );
}

/** The sources whose runs end at breakers of this panel. */
function usePushing(schedule: Schedule): Source[] {
  const { site } = useWork("site");
  const breakers = new Set(schedule.circuits.map((item) => item.device_id));
  const runs = (site.runs ?? []).filter((run) => breakers.has(run.to_part));
  return runs.map((run) => find(site.sources, run.from_part)).filter((item) => item !== undefined);
}

/** The plate of the source behind a back-fed breaker. */
export function SourcePlate({ deviceId }: { deviceId: string }) {
  const { site } = useWork("site");
  const sources = (site.runs ?? [])
    .filter((run) => run.to_part === deviceId)
    .map((run) => (site.sources ?? []).find((item) => item.id === run.from_part))
    .filter((item) => item !== undefined);
  return sources.map((source) => (
    <Group key={source.id} title={source.name || "Source"}>
      <ThingField kind="text" list="sources" thing={source} field="name" label="Name" />
      <SourcePlateFields source={source} />
    </Group>
  ));
}
