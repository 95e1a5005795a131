/** The amperes of each leg as the circuits stand, and how far the legs are apart. */
import { FigureLine } from "../../sheets/FigureLine";
import { Group } from "../../sheets/parts";
import type { Schedule } from "../../core/panel";
import { legColour } from "./legs";

export function LegBars({ schedule }: { schedule: Schedule }) {
  const legs = schedule.legs.map((leg) => ({
    leg,
    figure: schedule.amperes[leg],
    a: schedule.amperes[leg]?.number ?? 0,
  }));
  const most = Math.max(1, ...legs.map((item) => item.a));
  const apart = Math.max(...legs.map((item) => item.a)) - Math.min(...legs.map((item) => item.a));
  return (
    <Group title="Legs, by the circuits in their spaces">
      {legs.map(({ leg, figure, a }) => (
        <div key={leg} className="grid grid-cols-[1fr_6rem] items-center gap-2">
          <FigureLine label={leg} figure={figure} />
          <span className="h-2 border border-rule bg-plot" aria-hidden="true">
            <span
              className="block h-full"
              style={{ width: `${(a / most) * 100}%`, background: legColour(schedule, leg) }}
            />
          </span>
        </div>
      ))}
      <p className="narrow text-soft" data-apart={apart.toFixed(1)}>
        {apart < 0.05 ? "The legs carry the same." : `The legs are ${apart.toFixed(1)} A apart.`} Each circuit at its
        own load; what the panel as a whole is sized for stands under Loads.
      </p>
    </Group>
  );
}
