/** The terminals that a run ends on: the torque that is marked on them, or the screw by which the annex tells it. */
import { find, type Document, type Run, type Thing } from "../core/document";
import { useWork } from "../core/context";
import { ThingField } from "./ThingField";
import { Group } from "./parts";

const LISTS = ["devices", "lugs", "bars"] as const;

interface Terminal {
  list: (typeof LISTS)[number];
  thing: Thing & { name?: string; enclosure_id: string };
}

function terminalsOf(site: Document, run: Run): Terminal[] {
  const ends = (site.conductors ?? [])
    .filter((item) => item.run_id === run.id)
    .flatMap((item) => [item.from_part, item.to_part]);
  return [...new Set(ends)].flatMap((id) =>
    LISTS.flatMap((list) => {
      const thing = find(site[list] as Terminal["thing"][] | undefined, id);
      return thing ? [{ list, thing }] : [];
    }),
  );
}

export function Terminals({ run }: { run: Run }) {
  const { site } = useWork("site");
  const terminals = terminalsOf(site, run);
  if (terminals.length === 0) return null;
  return (
    <Group title="Terminals">
      <details>
        <summary className="cursor-pointer text-soft">Torque marked on each, or its screw</summary>
        {terminals.map(({ list, thing }) => {
          const own = { list, thing } as const;
          const home = find(site.enclosures, thing.enclosure_id)?.name ?? "";
          const name = [home, thing.name].filter(Boolean).join(": ") || thing.id;
          return (
            <div key={thing.id} className="border-b border-rule py-1">
              <ThingField {...own} kind="number" field="torque_lb_in" label={name} unit="lb-in" empty="not marked" />
              <ThingField {...own} kind="choice" field="screw" label="Its screw" empty="not entered" />
            </div>
          );
        })}
      </details>
    </Group>
  );
}
