/** What the rules ask of transfer gear, of an interlock and of a generator's plate, on the sheet of their enclosure. */
import type { Enclosure } from "../core/document";
import { useWork } from "../core/context";
import { Group } from "./parts";
import { EnteredFacts } from "./EnteredFacts";
import { SourcePlateFields } from "./SourceSheet";
import { SwitchesOf } from "./SwitchesOf";
import { ThingField } from "./ThingField";

export function StandbyFields({ enclosure }: { enclosure: Enclosure }) {
  const { site } = useWork("site");
  const own = (item: { enclosure_id?: string | null }) => item.enclosure_id === enclosure.id;
  const devices = new Set((site.devices ?? []).filter(own).map((item) => item.id));
  const interlocks = (site.interlocks ?? []).filter((item) => devices.has(item.device_b));
  return (
    <>
      {(site.transfers ?? []).filter(own).map((gear) => {
        const thing = { list: "transfers", thing: gear } as const;
        return (
          <Group key={gear.id} title="Transfer gear">
            <ThingField {...thing} kind="number" field="rating_a" label="Rating" unit="A" />
            <ThingField
              {...thing}
              kind="yes-no"
              field="switches_neutral"
              label="Opens neutral"
              hint="counts the poles on its diagram"
            />
            <ThingField {...thing} kind="yes-no" field="automatic" label="By itself" hint="transfers without a hand" />
            <ThingField
              {...thing}
              kind="yes-no"
              field="sheds_load"
              label="Sheds load"
              hint="takes off by itself what the set does not carry"
            />
            <ThingField {...thing} kind="yes-no" field="service_rated" label="Service-rated" />
            <ThingField
              {...thing}
              kind="yes-no"
              field="lines_only"
              label="Lines alone"
              hint="the neutrals of its circuits stay in their panel"
            />
            <ThingField {...thing} kind="yes-no" field="meter_mounted" label="At the meter" />
            <SwitchesOf gear={gear} />
            <EnteredFacts list="transfers" ids={[gear.id]} />
          </Group>
        );
      })}
      {interlocks.map((item) => (
        <Group key={item.id} title="Interlock">
          <ThingField
            kind="yes-no"
            list="interlocks"
            thing={item}
            field="listed"
            label="Listed for it"
            hint="the panel's label or the kit's names this panel"
          />
        </Group>
      ))}
      {(site.sources ?? []).filter(own).map((source) => (
        <Group key={source.id} title="On its plate">
          <SourcePlateFields source={source} />
        </Group>
      ))}
    </>
  );
}
