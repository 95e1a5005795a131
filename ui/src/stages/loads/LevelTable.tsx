/** Every level of the feed: existing and proposed load side by side, what is added, and what is left. */
import type { Schemas } from "../../api/client";

type Row = Schemas["LevelRowOut"];
type Side = Schemas["SideOut"] | null;

const AMPERES = "inline-block min-w-16 pr-1";
/** On a narrow screen amperes alone are told. */
const UNITS = (
  <>
    <span className="max-sm:hidden">VA and </span>A
  </>
);

export function LevelTable({
  rows,
  chosen,
  onChoose,
}: {
  rows: Row[];
  chosen: string;
  onChoose: (id: string) => void;
}) {
  return (
    <table className="w-full border-b border-ink" aria-label="Loads of every level">
      <thead>
        <tr className="narrow text-right text-soft">
          <th scope="col" className="text-left font-normal">
            Level
          </th>
          <th scope="col" className="font-normal">
            Existing, {UNITS}
          </th>
          <th scope="col" className="font-normal">
            Proposed, {UNITS}
          </th>
          <th scope="col" className="font-normal max-sm:hidden">
            Difference
          </th>
          <th scope="col" className="font-normal">
            Rating, A
          </th>
          <th scope="col" className="font-normal">
            Spare, A
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr
            key={row.id}
            data-level={row.id}
            className={`border-t border-rule ${row.id === chosen ? "bg-touched" : ""}`}
          >
            <th scope="row" className="py-0.5 text-left font-normal">
              <button
                type="button"
                aria-pressed={row.id === chosen}
                className="rounded-sm px-1 text-left hover:underline aria-pressed:font-semibold pointer-coarse:min-h-11"
                style={{ marginLeft: `${Math.max(0, row.depth - 1) * 0.8}rem` }}
                onClick={() => onChoose(row.id)}
              >
                {row.name}
              </button>
            </th>
            <SideCell side={row.existing} />
            <SideCell side={row.proposed} />
            <td className="text-right whitespace-nowrap text-soft max-sm:hidden">
              {row.more_va}
              <span className={AMPERES}>{row.more_a}</span>
            </td>
            <td className="text-right">{row.proposed?.rating_a ?? ""}</td>
            <td className={`pr-1 text-right font-semibold ${row.proposed?.over ? "text-fix" : ""}`}>
              {row.proposed?.spare_a ?? ""}
              {row.proposed?.over ? " over" : ""}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The chosen level leg by leg: what is connected, calculated, and on each leg and the neutral, in both states. */
export function LegTable({ row }: { row: Row | undefined }) {
  if (!row || row.quantities.length === 0) return null;
  return (
    <table className="mt-2" aria-label={`${row.name}, leg by leg`}>
      <thead>
        <tr className="narrow text-right text-soft">
          <th scope="col" className="pr-4 text-left font-normal">
            {row.name}, leg by leg
          </th>
          {["Existing", "Proposed", "Difference"].map((head) => (
            <th key={head} scope="col" className="min-w-20 pl-4 font-normal">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {row.quantities.map((item) => (
          <tr key={item.name} className="border-t border-rule text-right">
            <th scope="row" className="text-left font-normal">
              {item.name} <span className="narrow text-soft">{item.unit}</span>
            </th>
            <td>{item.existing || "–"}</td>
            <td className="font-semibold">{item.proposed || "–"}</td>
            <td className="text-soft">{item.more}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function SideCell({ side }: { side: Side }) {
  if (!side) return <td className="text-right text-soft">not there</td>;
  if (side.gap) return <td className="text-right text-tell">cannot tell</td>;
  return (
    <td className="text-right whitespace-nowrap">
      <span className="max-sm:hidden">{side.demand_va}</span>
      <span className={AMPERES}>
        <span className="narrow text-soft">{side.leg}</span> {side.load_a}
      </span>
    </td>
  );
}
