/** The amperes of each leg as the circuits stand, how far the legs are apart, and the moves that bring them close. */
import { FigureLine } from "../../sheets/FigureLine";
import { Group } from "../../sheets/parts";
import type { Schedule } from "../../core/panel";
import { Balancing } from "./Balancing";
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
        <div key={leg}>
          <FigureLine label={leg} figure={figure} />
          <span className="block h-1.5 bg-plot" aria-hidden="true">
            <span
              className="block h-full"
              style={{ width: `${(a / most) * 100}%`, background: legColour(schedule, leg) }}
            />
          </span>
        </div>
      ))}
      <p className="narrow mt-1 text-soft" data-apart={apart.toFixed(1)}>
        {apart < 0.05 ? "The legs carry the same." : `The legs are ${apart.toFixed(1)} A apart.`} Each circuit at its
        own load; what the panel as a whole is sized for stands under Loads.
      </p>
      <Balancing schedule={schedule} />
    </Group>
  );
}
