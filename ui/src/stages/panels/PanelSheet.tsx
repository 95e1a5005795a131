/** The panel itself: what its label says of the bus and its spaces, and the loads that no circuit carries yet. */
import { ThingField } from "../../sheets/ThingField";
import { Group, SheetTitle } from "../../sheets/parts";
import { find, type Bar, type Bus, type Enclosure } from "../../core/document";
import type { Schedule } from "../../core/panel";
import { PlannedLoads } from "./PlannedLoads";
import { SwitchedCircuits } from "./SwitchedCircuits";
import { TakeOver } from "./TakeOver";
import { useWork } from "../../core/context";

const NUMBERINGS = [
  { value: "odd_even", label: "odd left, even right" },
  { value: "sequential", label: "down the left, then the right" },
  { value: "inverted", label: "hangs upside down" },
];
const ROWS = [
  { value: 2, label: "two" },
  { value: 1, label: "one" },
];

/** The bar of the neutrals; its rating is asked where one line feeds both legs, and it carries their sum. */
function NeutralBar({ bar, carriesBothLegs }: { bar: Bar; carriesBothLegs: boolean }) {
  const own = { kind: "number", list: "bars", thing: bar } as const;
  const name = bar.name || "Neutral bar";
  return (
    <>
      <ThingField {...own} field="terminals" label={`${name}, terminals`} empty="not counted" />
      {carriesBothLegs || bar.rating_a !== null ? (
        <ThingField {...own} field="rating_a" label={`${name}, rating`} unit="A" empty="not read" />
      ) : null}
    </>
  );
}

export function PanelSheet({ enclosure, bus, schedule }: { enclosure: Enclosure; bus: Bus; schedule?: Schedule }) {
  const { site } = useWork("site");
  const own = { list: "buses", thing: bus } as const;
  const hasSources = (site.sources ?? []).some((item) => item.kind !== "utility");
  const oneLineFeedsBoth = (site.sources ?? []).some((item) => item.output === "two_wire_120");
  const bars = (site.bars ?? []).filter((item) => item.enclosure_id === enclosure.id && item.kind === "neutral");
  return (
    <>
      <SwitchedCircuits bus={bus} />
      <Group title="Panel">
        <SheetTitle title={enclosure.name || enclosure.id} />
        <ThingField {...own} kind="number" field="spaces" label="Spaces" />
        <ThingField
          {...own}
          kind="choice"
          field="numbering"
          label="Numbering"
          options={NUMBERINGS}
          empty="odd left, even right"
        />
        <ThingField {...own} kind="choice" field="rows" label="Rows of breakers" options={ROWS} empty="two" />
        <ThingField {...own} kind="choice" field="main_end" label="Fed from" empty="not known" />
        <ThingField {...own} kind="yes-no" field="half_size_spaces" label="Half-size marked" />
        {bus.half_size_spaces ? (
          <>
            <ThingField {...own} kind="number" field="half_size_from" label="from space" />
            <ThingField {...own} kind="number" field="half_size_to" label="to space" />
          </>
        ) : null}
        <ThingField {...own} kind="number" field="rating_a" label="Bus rating" unit="A" />
        {hasSources ? (
          <ThingField {...own} kind="choice" field="combining" label="Sources join by" empty="the rules of the code" />
        ) : null}
        <ThingField
          {...own}
          kind="number"
          field="control_setting_a"
          label="Power control"
          unit="A"
          empty="none"
          hint="its setting: to what it holds the sources of this bus"
        />
        {bus.control_setting_a ? (
          <>
            <ThingField
              {...own}
              kind="yes-no"
              field="control_listed"
              label="Listed, locked"
              hint="the control is listed for it, and its settings are out of the user's reach"
            />
            <ThingField
              {...own}
              kind="yes-no"
              field="control_watches_supply"
              label="Watches supply"
              hint="it measures the current of the supply and holds the sum within the setting"
            />
          </>
        ) : null}
        <ThingField kind="text" list="enclosures" thing={enclosure} field="series" label="Takes series" />
        <ThingField
          kind="yes-no"
          list="enclosures"
          thing={enclosure}
          field="no_other_circuits"
          label="Circuits complete"
          hint="no other breakers stand in it than those drawn"
        />
      </Group>
      {bars.map((bar) => (
        <NeutralBar key={bar.id} bar={bar} carriesBothLegs={oneLineFeedsBoth} />
      ))}
      {schedule ? <TakeOver key={schedule.bus_id} schedule={schedule} /> : null}
      {schedule ? (
        <Group title="Room">
          <p data-free={schedule.free_spaces}>
            {schedule.free_spaces === 0
              ? "No space is free."
              : `${schedule.free_spaces} of ${schedule.spaces.length} spaces are free.`}
          </p>
          {schedule.without_circuit.length > 0 ? (
            <>
              <p className="mt-1 text-soft">On no circuit yet:</p>
              <ul className="ml-4 list-disc">
                {schedule.without_circuit.map((id) => (
                  <li key={id} dir="auto">
                    {find(site.loads, id)?.name || id}
                  </li>
                ))}
              </ul>
            </>
          ) : null}
          <PlannedLoads schedule={schedule} />
        </Group>
      ) : null}
    </>
  );
}
