/** What a supply of one's own carries by itself, leg by leg. */
import type { Schemas } from "../../api/client";
import { Glyph } from "../../kit/Glyph";

/** How a leg is drawn that has more on it than the supply gives, by what is said of that. */
const OVER = { must_fix: "bg-fix", advice: "bg-advice", cannot_tell: "bg-tell", holds: "bg-soft" };

/** Each leg as a bar against what the supply gives on a line. */
export function CarriedAlone({ carried }: { carried: Schemas["CarriedAloneOut"] }) {
  const most = Math.max(carried.supply_a ?? 0, ...carried.legs.map((leg) => leg.after_a ?? 0), 1);
  const share = (amperes: number) => `${(100 * amperes) / most}%`;
  const { supply_a: supply } = carried;
  return (
    <section className="mt-2" aria-label={`What ${carried.name} carries alone`} data-testid="carried-alone">
      <h4 className="narrow text-soft">
        Alone behind <span dir="auto">{carried.name}</span>
        {supply === null ? "" : `, which gives ${round(supply)} A on each line`}
      </h4>
      {carried.legs.map((leg) => {
        const amperes = leg.after_a ?? 0;
        const over = supply !== null && amperes > supply;
        return (
          <p key={leg.leg} className="grid grid-cols-[2rem_1fr_4rem] items-center gap-2">
            <span className="mono">{leg.leg}</span>
            <span className="relative h-3 bg-rule/40">
              <span
                className={`absolute inset-y-0 left-0 ${over ? OVER[carried.outcome] : "bg-ink"}`}
                style={{ width: share(amperes) }}
              />
              {supply === null ? null : (
                <span className="absolute -inset-y-0.5 border-l-2 border-copper" style={{ left: share(supply) }} />
              )}
            </span>
            <span className="mono text-right">{leg.after_a === null ? "not known" : `${round(amperes)} A`}</span>
          </p>
        );
      })}
      <p className="mt-1 grid grid-cols-[1.2rem_1fr] items-baseline">
        <Glyph outcome={carried.outcome} />
        <span>{carried.text}</span>
      </p>
    </section>
  );
}

function round(amperes: number): string {
  return String(Math.round(amperes * 10) / 10);
}
