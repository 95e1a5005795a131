/** Bars and joints of an enclosure as they are found, part by part, to edit. */
import { insert } from "../../core/changes";
import { useWork } from "../../core/context";
import { freshId, type Bond } from "../../core/document";
import { word } from "../../core/words";
import { Button } from "../../kit/Button";
import { ChoiceField } from "../../kit/Field";
import { ThingField } from "../../sheets/ThingField";

export function FoundParts({ enclosureId }: { enclosureId: string }) {
  const { site, document, state, act, remove, mayWrite } = useWork(
    "site",
    "document",
    "state",
    "act",
    "remove",
    "mayWrite",
  );
  const bars = (site.bars ?? []).filter((bar) => bar.enclosure_id === enclosureId);
  const bonds = (site.bonds ?? []).filter((bond) => bond.enclosure_id === enclosureId);
  const neutral = bars.find((bar) => bar.kind === "neutral");
  const ground = bars.find((bar) => bar.kind === "ground");
  const addBond = (kind: Bond["kind"]) => {
    if (!neutral) return;
    const across = kind === "tied_bars" || kind === "branch_neutral" || kind === "branch_ground";
    const thing = {
      id: freshId(document, `${enclosureId.slice(0, 20)}-${kind.slice(0, 6)}`),
      standing: state === "existing" ? "existing" : "added",
      enclosure_id: enclosureId,
      kind,
      part_a: neutral.id,
      part_b: across && ground ? ground.id : enclosureId,
      made: true,
    };
    act(`Add: ${word(kind).toLowerCase()}`, [insert("bonds", thing)]);
  };
  return (
    <>
      {bars.map((bar) => (
        <ThingField
          key={bar.id}
          kind="yes-no"
          list="bars"
          thing={bar}
          field="insulated"
          label={`${bar.name || bar.kind} insulated`}
        />
      ))}
      {bonds.map((bond) => (
        <div key={bond.id} className="flex items-start gap-1">
          <div className="min-w-0 flex-1">
            <ThingField
              kind="yes-no"
              list="bonds"
              thing={bond}
              field="made"
              label={`${word(bond.kind)}: joins`}
              hint={bond.note || undefined}
            />
          </div>
          {mayWrite ? (
            <Button
              kind="quiet"
              aria-label={`Remove ${word(bond.kind)}`}
              onClick={() => remove("Remove a bond", "bonds", bond.id)}
            >
              Remove
            </Button>
          ) : null}
        </div>
      ))}
      {mayWrite && neutral ? (
        <ChoiceField
          label="Also found"
          list="found"
          field="kind"
          value={null}
          options={["", "screw", "strap", "wire", "tied_bars", "branch_neutral", "branch_ground"].map((value) => ({
            value,
            label: value ? word(value) : "choose what is there",
          }))}
          onChange={(value) => value && addBond(value as Bond["kind"])}
        />
      ) : null}
    </>
  );
}
