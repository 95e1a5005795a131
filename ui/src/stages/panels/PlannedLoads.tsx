/** What may come later: each planned load with the breaker that it needs, whether it fits, and what comes first. */
import { api, answered } from "../../api/client";
import { Button } from "../../kit/Button";
import { Glyph } from "../../kit/Glyph";
import { Menu } from "../../kit/Menu";
import { ThingField } from "../../sheets/ThingField";
import { insert } from "../../core/changes";
import { freshId } from "../../core/document";
import type { Schedule } from "../../core/panel";
import { useAnswer } from "../../core/useAnswer";
import { useWork } from "../../core/context";

/** Usual amounts to begin with; the plate of what is bought takes their place. */
const USUAL = [
  { name: "Vehicle charger", category: "vehicle_charging", amount: 9600, volts: 240, continuous: true },
  { name: "Heat pump", category: "heat_pump", amount: 6000, volts: 240 },
  { name: "Hot tub", category: "fastened_appliance", amount: 12000, volts: 240 },
  { name: "Workshop", category: "other", amount: 5000, volts: 240 },
  { name: "Basement rooms", category: "other", amount: 1500, volts: 120 },
];

export function PlannedLoads({ schedule }: { schedule: Schedule }) {
  const { site, document, state, act, mayWrite } = useWork("site", "document", "state", "act", "mayWrite");
  const plans = (site.planned_loads ?? []).filter((item) => item.enclosure_id === schedule.enclosure_id);
  const add = (usual: (typeof USUAL)[number]) =>
    act(`Plan a ${usual.name.toLowerCase()}`, [
      insert("planned_loads", {
        ...usual,
        id: freshId(document, `plan ${usual.name}`),
        enclosure_id: schedule.enclosure_id,
        standing: state === "existing" ? "existing" : "added",
      }),
    ]);
  return (
    <div className="mt-2">
      <p className="text-soft">What may come later:</p>
      {plans.length > 0 ? <Told schedule={schedule} /> : null}
      {mayWrite ? (
        <Menu
          button="Plan a load"
          className="mt-1 rounded-sm border border-copper px-2.5 py-0.5 font-semibold text-copper hover:bg-touched pointer-coarse:min-h-11"
          upward
          acts={USUAL.map((usual) => ({ label: usual.name, onAct: () => add(usual) }))}
        />
      ) : null}
    </div>
  );
}

function Told({ schedule }: { schedule: Schedule }) {
  const { site, document, state, remove, mayWrite } = useWork("site", "document", "state", "remove", "mayWrite");
  const { answer } = useAnswer({ document, state, bus_id: schedule.bus_id }, (body, signal) =>
    answered(api.POST("/api/panels/room", { body, signal })),
  );
  return (
    <ul>
      {(site.planned_loads ?? [])
        .filter((item) => item.enclosure_id === schedule.enclosure_id)
        .map((item) => {
          const told = answer?.plans.find((plan) => plan.id === item.id);
          const outcome = told ? (told.fits ? "holds" : told.fits === null ? "cannot_tell" : "advice") : null;
          const own = { list: "planned_loads", thing: item } as const;
          return (
            <li key={item.id} data-plan={item.id} data-fits={told?.fits} className="border-b border-rule py-1">
              <details>
                <summary className="flex cursor-pointer items-baseline gap-1.5">
                  {outcome ? <Glyph outcome={outcome} /> : null}
                  <span dir="auto" className="font-semibold">
                    {item.name || item.id}
                  </span>
                  <span className="narrow text-soft">{told?.breaker}</span>
                </summary>
                <ThingField {...own} kind="text" field="name" label="Name" />
                <ThingField {...own} kind="number" field="amount" label="Amount" />
                <ThingField {...own} kind="choice" field="unit" label="in" />
                <ThingField {...own} kind="number" field="volts" label="Volts" unit="V" />
                {mayWrite ? (
                  <Button kind="quiet" onClick={() => remove("Plan no more", "planned_loads", item.id)}>
                    Plan it no more
                  </Button>
                ) : null}
              </details>
              {told?.fits ? <p className="narrow">Fits, in space {told.space}.</p> : null}
              <ul className="narrow ml-4 list-disc">
                {told?.first.map((text) => (
                  <li key={text}>{text}</li>
                ))}
              </ul>
            </li>
          );
        })}
    </ul>
  );
}
