/** Lawful alternatives for one run: metal, size and wiring method, with drop, trade size, what limits them, and price. */
import { useState } from "react";
import { answered, api, type Schemas } from "../api/client";
import { Button } from "../kit/Button";
import { Window } from "../kit/Window";
import { PriceField } from "./PriceField";
import { edit, type Operation } from "../core/changes";
import { type Run } from "../core/document";
import { useWork } from "../core/context";
import { useAnswer } from "../core/useAnswer";

type Alternative = Schemas["AlternativeOut"];
type Order = "work" | "price" | "drop_percent" | "hots" | "raceway";

const COLUMNS: { order: Order | null; title: string; right?: boolean }[] = [
  { order: "work", title: "Way, least work first" },
  { order: "hots", title: "Hots" },
  { order: null, title: "N, G" },
  { order: "raceway", title: "Trade size" },
  { order: "drop_percent", title: "Drop", right: true },
  { order: null, title: "Goes to", right: true },
  { order: "price", title: "Price", right: true },
  { order: null, title: "" },
];
const SIZE_FIELDS = ["neutral_size", "ground_size", "ground_material", "raceway_size"];

export function CompareWindow({ run, open, onClose }: { run: Run; open: boolean; onClose: () => void }) {
  return (
    <Window title="Compare lawful ways" open={open} onClose={onClose} wide>
      {open ? <Comparison run={run} onClose={onClose} /> : null}
    </Window>
  );
}

function Comparison({ run, onClose }: { run: Run; onClose: () => void }) {
  const { document, state, act, mayWrite } = useWork("document", "state", "act", "mayWrite");
  const { answer, fault } = useAnswer({ document, state, run_id: run.id }, (body, signal) =>
    answered(api.POST("/api/runs/compare", { body, signal })),
  );
  const [wished, setOrder] = useState<Order | null>(null);
  const [within, setWithin] = useState(false);
  if (fault) return <p className="text-fix">{fault}</p>;
  if (!answer) return <p>Working out the ways…</p>;
  // Prices decide only where the job has them all.
  const order = wished && (wished !== "price" || answer.priced) ? wished : answer.priced ? "price" : "work";
  const ways = folded(
    answer.alternatives.filter((row) => !within || row.within_limit),
    order,
  );
  const take = (row: Alternative) => {
    const put = (field: string, value: unknown) => edit(document, state, "runs", run.id, field, value);
    const operations: Operation[] = [
      ...put("material", row.material),
      ...put("insulation", row.insulation),
      ...put("method", row.method),
      ...put("hot_size", row.free ? null : row.hots),
      ...SIZE_FIELDS.flatMap((field) => put(field, null)),
    ];
    act(`Use ${row.words}`, operations);
    onClose();
  };
  return (
    <>
      <p className="mb-2 text-soft">
        Every way below is lawful for this load and device, in sizes that are made. The limit of {answer.limit_percent}{" "}
        % is advice.{" "}
        {answer.priced
          ? "All prices are the job's own."
          : "Prices are the job's own where entered, made-up ones elsewhere: enter them all below to sort by price."}
      </p>
      <label className="mb-2 flex items-center gap-2">
        <input type="checkbox" checked={within} onChange={(event) => setWithin(event.target.checked)} />
        only within the drop limit
      </label>
      {ways.length === 0 ? <p className="text-tell">No way is lawful here as it stands; see the findings.</p> : null}
      <table className="w-full text-sm" aria-label="Lawful ways">
        <thead>
          <tr>
            {COLUMNS.map(({ order: by, title, right }, at) => (
              <th
                key={at}
                scope="col"
                className={`pr-2 font-normal text-soft ${right ? "text-right" : "text-left"}`}
                aria-sort={by && by === order ? "ascending" : undefined}
              >
                {by && (by !== "price" || answer.priced) ? (
                  <button
                    type="button"
                    className="underline decoration-dotted aria-pressed:font-semibold aria-pressed:text-copper"
                    aria-pressed={by === order}
                    onClick={() => setOrder(by)}
                  >
                    {title}
                  </button>
                ) : (
                  title
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ways.map((sizes) => (
            <WayRows key={sizes[0]?.words} sizes={sizes} mayWrite={mayWrite} onTake={take} />
          ))}
        </tbody>
      </table>
      <PriceList prices={answer.prices} />
    </>
  );
}

interface WayRowsProps {
  /** The sizes of one way, the smallest first. */
  sizes: Alternative[];
  mayWrite: boolean;
  onTake: (row: Alternative) => void;
}

/** One way as a row; its larger sizes beneath it, when they are asked for or one of them is chosen. */
function WayRows({ sizes, mayWrite, onTake }: WayRowsProps) {
  const [open, setOpen] = useState(false);
  const larger = sizes.length - 1;
  const shown = open ? sizes : sizes.filter((row, at) => at === 0 || row.chosen);
  return (
    <>
      {shown.map((row, at) => (
        <tr
          key={row.hots}
          data-step={row.step}
          className={`align-baseline ${at === 0 ? "border-t border-rule" : ""} ${row.chosen ? "bg-touched" : ""}`}
        >
          <td className="pr-2">
            {at === 0 ? row.words : null}
            <span className="narrow block text-soft">
              {at === 0 ? [row.limited_by, row.change].filter(Boolean).join(". ") : "a larger size"}
            </span>
            {at === 0 && larger > 0 ? (
              <button
                type="button"
                aria-expanded={open}
                className="narrow text-copper hover:underline pointer-coarse:min-h-11"
                onClick={() => setOpen(!open)}
              >
                {open ? "fewer sizes" : `${larger} larger ${larger === 1 ? "size" : "sizes"}`}
              </button>
            ) : null}
          </td>
          <td className="pr-2 font-semibold">{row.hots}</td>
          <td className="pr-2">
            {row.neutral || "–"}, {row.ground || "–"}
          </td>
          <td className="pr-2">{row.raceway ? `${row.raceway} in` : "–"}</td>
          <td className={`pr-2 text-right ${row.within_limit ? "" : "text-advice"}`}>
            {row.drop_percent === null ? "?" : `${row.drop_percent.toFixed(1)} %`}
          </td>
          <td className="pr-2 text-right">{row.longest_ft === null ? "?" : `${Math.floor(row.longest_ft)} ft`}</td>
          <td className="pr-2 text-right">
            {row.price === null ? (
              <span title={`No price: ${row.without_price.join(", ")}`}>no price</span>
            ) : (
              row.price.toFixed(0)
            )}
          </td>
          <td className="text-right">
            {row.chosen ? (
              "chosen"
            ) : (
              <Button
                kind="quiet"
                disabled={!mayWrite}
                aria-label={`Use ${row.words} ${row.hots}`}
                onClick={() => onTake(row)}
              >
                Use
              </Button>
            )}
          </td>
        </tr>
      ))}
    </>
  );
}

/** The ways with their sizes, the smallest first; the ways in an order of their smallest one. */
function folded(rows: Alternative[], order: Order): Alternative[][] {
  const ways = new Map<string, Alternative[]>();
  for (const row of [...rows].sort((left, right) => left.step - right.step))
    ways.set(row.words, [...(ways.get(row.words) ?? []), row]);
  const at = (row: Alternative | undefined) =>
    !row
      ? Number.MAX_VALUE
      : order === "price" || order === "drop_percent"
        ? (row[order] ?? Number.MAX_VALUE)
        : row[`${order}_place`];
  return [...ways.values()].sort((left, right) => at(left[0]) - at(right[0]));
}

function PriceList({ prices }: { prices: Record<string, number | null> }) {
  return (
    <details className="mt-4 border-t border-rule pt-1">
      <summary className="cursor-pointer font-semibold">Price list, per foot</summary>
      <div className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-x-4 gap-y-1">
        {Object.entries(prices).map(([item, price]) => (
          <label key={item} className="flex items-center justify-between gap-2">
            <span className="narrow">{item.replace("pvc", "PVC ").replace("emt", "EMT").replace("rmc", "RMC")}</span>
            <PriceField item={item} price={price} />
          </label>
        ))}
      </div>
    </details>
  );
}
