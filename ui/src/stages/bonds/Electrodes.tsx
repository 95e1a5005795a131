/** The electrodes that join an enclosure, to edit. */
import { Button } from "../../kit/Button";
import { ThingField } from "../../sheets/ThingField";
import { find, freshId } from "../../core/document";
import { insert } from "../../core/changes";
import { word } from "../../core/words";
import { useDerived, useWork } from "../../core/context";

/** Where the bond of a derived system is: several of them may have one electrode conductor between them. */
const OF_DERIVED = new Set(["derived_bond", "bond_in_source"]);

export function Electrodes({ enclosureId }: { enclosureId: string }) {
  const { site, document, state, act, remove, mayWrite } = useWork(
    "site",
    "document",
    "state",
    "act",
    "remove",
    "mayWrite",
  );
  const parts = new Set([
    enclosureId,
    ...(site.bars ?? []).filter((bar) => bar.enclosure_id === enclosureId).map((bar) => bar.id),
  ]);
  const electrodes = (site.electrodes ?? []).filter((item) => item.connects_to && parts.has(item.connects_to));
  const add = () => {
    const bar = (site.bars ?? []).find((item) => item.enclosure_id === enclosureId && item.kind === "ground");
    const thing = {
      id: freshId(document, `${enclosureId.slice(0, 20)}-rod`),
      standing: state === "existing" ? "existing" : "added",
      kind: "rod",
      building_id: find(site.enclosures, enclosureId)?.building_id ?? null,
      connects_to: bar?.id ?? enclosureId,
      length_ft: 8,
    };
    act("Add a rod", [insert("electrodes", thing)]);
  };
  const ofDerived = useDerived(({ report }) => OF_DERIVED.has(report?.enclosures[enclosureId]?.decision ?? ""));
  if (electrodes.length === 0 && !mayWrite) return null;
  return (
    <details className="mt-1">
      <summary className="narrow text-soft">
        {electrodes.length === 0
          ? "No electrode joins here"
          : `Electrodes: ${electrodes.map((item) => word(item.kind).toLowerCase()).join(", ")}`}
      </summary>
      {electrodes.map((item) => (
        <div key={item.id} className="border-b border-rule py-1">
          <ThingField kind="choice" list="electrodes" thing={item} field="kind" label="Electrode" />
          <ThingField kind="choice" list="electrodes" thing={item} field="conductor_size" label="Its conductor" />
          {ofDerived || item.common_size ? (
            <ThingField
              kind="choice"
              list="electrodes"
              thing={item}
              field="common_size"
              label="Tap to a common"
              empty="its own conductor alone"
            />
          ) : null}
          {item.common_size ? (
            <ThingField kind="choice" list="electrodes" thing={item} field="common_material" label="Common one of" />
          ) : null}
          {item.kind === "rod" ? (
            <ThingField kind="number" list="electrodes" thing={item} field="resistance_ohm" label="Measured" unit="Ω" />
          ) : null}
          {mayWrite ? (
            <Button kind="quiet" onClick={() => remove("Remove an electrode", "electrodes", item.id)}>
              Remove
            </Button>
          ) : null}
        </div>
      ))}
      {mayWrite ? (
        <Button kind="quiet" onClick={add}>
          Add a rod
        </Button>
      ) : null}
    </details>
  );
}
