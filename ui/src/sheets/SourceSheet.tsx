import { EnteredFacts } from "./EnteredFacts";
import { FromPlates } from "./FromPlates";
import { ThingField } from "./ThingField";
import type { Source } from "../core/document";
import { SheetTitle } from "./parts";
import { UtilityDesk } from "./UtilityDesk";

export function SourceSheet({ source }: { source: Source }) {
  return (
    <>
      <SheetTitle title={source.name || source.id}>{source.kind}</SheetTitle>
      <ThingField kind="text" list="sources" thing={source} field="name" label="Name" />
      <ThingField kind="choice" list="sources" thing={source} field="kind" label="Kind" />
      <ThingField kind="choice" list="sources" thing={source} field="system" label="System" />
      {source.kind === "utility" ? null : <SourcePlateFields source={source} />}
      <ThingField
        kind="number"
        list="sources"
        thing={source}
        field="fault_current_a"
        label="Fault current"
        unit="A"
        hint="what can flow into a fault here, from the utility"
      />
      {source.kind === "utility" ? <UtilityTransformer source={source} /> : null}
    </>
  );
}

/** What the plate of the utility's transformer says, where its letter is not there; and its desk. */
function UtilityTransformer({ source }: { source: Source }) {
  const own = { list: "sources", thing: source } as const;
  return (
    <>
      <ThingField
        {...own}
        kind="number"
        field="transformer_kva"
        label="its transformer"
        unit="kVA"
        hint="tells the most that there can be"
      />
      <ThingField {...own} kind="number" field="impedance_percent" label="its impedance" unit="%" hint="on its plate" />
      <UtilityDesk source={source} />
    </>
  );
}

/** What stands on the plate of a source of the premises, as far as the rules ask for it. */
export function SourcePlateFields({ source }: { source: Source }) {
  const own = { list: "sources", thing: source } as const;
  return (
    <>
      <FromPlates source={source} />
      <ThingField
        {...own}
        kind="number"
        field="rated_output_a"
        label="Rated output"
        unit="A"
        hint="continuous, on its plate"
      />
      <ThingField {...own} kind="number" field="rated_kva" label="or its rating" unit="kVA" />
      {source.kind === "generator" ? null : (
        <>
          <ThingField {...own} kind="number" field="largest_device_a" label="Largest device" unit="A" />
          <ThingField {...own} kind="yes-no" field="interactive" label="Runs with utility" />
          <ThingField {...own} kind="yes-no" field="forms_supply" label="Makes a supply" />
        </>
      )}
      <ThingField
        {...own}
        kind="number"
        field="fault_contribution_a"
        label="Into a fault"
        unit="A"
        hint="what it gives into a short, by its data sheet"
      />
      <ThingField
        {...own}
        kind="number"
        field="fault_contribution_s"
        label="for at most"
        unit="s"
        hint="where it shuts itself off"
      />
      {source.unbalance_accepted === null ? null : (
        <ThingField {...own} kind="yes-no" field="unbalance_accepted" label="Legs balanced" hint="within 3 %" />
      )}
      <EnteredFacts list="sources" ids={[source.id]} />
      <ThingField {...own} kind="choice" field="output" label="Gives" />
      {source.kind === "inverter" || source.kind === "battery" ? (
        <>
          <ThingField
            {...own}
            kind="choice"
            field="neutral_path"
            label="Neutral in it"
            hint="from its input to its output, by its manual"
          />
          {source.interactive ? (
            <ThingField
              {...own}
              kind="yes-no"
              field="neutral_senses_only"
              label="Neutral measures"
              hint="and carries no power, by its manual"
            />
          ) : null}
          <ThingField {...own} kind="choice" field="relay" label="Bond relay" />
        </>
      ) : null}
      <ThingField {...own} kind="choice" field="marking" label="Its neutral" hint="as its label says" />
    </>
  );
}
