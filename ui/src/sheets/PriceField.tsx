/** What the job holds as the price of one item; an empty field is no price. */
import { insert, type Operation } from "../core/changes";
import { useWork } from "../core/context";
import { freshId } from "../core/document";

export function PriceField({ item, price, label }: { item: string; price: number | null; label?: string }) {
  const { document, act, mayWrite } = useWork("document", "act", "mayWrite");
  const set = (text: string) => {
    const entered = text.trim() === "" ? null : Number(text.replace(",", "."));
    if (entered !== null && !(entered >= 0 && Number.isFinite(entered))) return;
    const own = (document.prices ?? []).find((entry) => entry.item === item);
    const operation: Operation = own
      ? { op: "put", list: "prices", id: own.id, field: "price", value: entered, proposed: false }
      : insert("prices", { id: freshId(document, `price ${item}`), item, price: entered });
    act(`Price of ${item}`, [operation], `prices.${item}`);
  };
  return (
    <input
      className="w-16 rounded-sm border border-rule bg-paper px-1 text-right pointer-coarse:min-h-11"
      inputMode="decimal"
      aria-label={label}
      disabled={!mayWrite}
      defaultValue={price ?? ""}
      placeholder="none"
      onBlur={(event) => event.target.value !== String(price ?? "") && set(event.target.value)}
    />
  );
}
