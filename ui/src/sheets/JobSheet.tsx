/** The sheet of the job itself: edition, limits, buildings, dwelling units and local amendments. */
import { useState } from "react";
import { Button } from "../kit/Button";
import { ChoiceField, NumberField, Row, TextField, YesNoField } from "../kit/Field";
import { EnteredFacts } from "./EnteredFacts";
import { ThingField } from "./ThingField";
import { freshId, type ListName } from "../core/document";
import { insert } from "../core/changes";
import { useWork } from "../core/context";
import { EditionWindow } from "./EditionWindow";
import { LOCAL_RULES } from "../shop/rules";
import { Group, SheetTitle } from "./parts";
import { ShopRules } from "./ShopRules";

const EDITIONS = ["2017", "2020", "2023"];

export function JobSheet() {
  return (
    <>
      <SheetTitle id="job-sheet" title="The job">
        Select something in the drawing for its own sheet.
      </SheetTitle>
      <SettingFields />
      <Group title="Buildings">
        <Buildings />
      </Group>
      <Group title="Dwelling units">
        <DwellingUnits />
      </Group>
      <Group title="Local amendments">
        <Amendments />
      </Group>
    </>
  );
}

const TITLE_BLOCK = [
  ["authority", "Authority"],
  ["address", "Address"],
  ["owner", "Owner"],
  ["contractor", "Contractor"],
  ["license", "License"],
  ["permit_number", "Permit number"],
] as const;

function SettingFields() {
  const { document, act, seal, mayWrite } = useWork("document", "act", "seal", "mayWrite");
  const { settings } = document;
  const withSources = (document.sources ?? []).some((source) => source.kind !== "utility");
  const [wished, setWished] = useState<string | null>(null);
  const set = (field: string, value: unknown) =>
    act(`Change ${field.replaceAll("_", " ")}`, [{ op: "setting", field, value }], `settings.${field}`);
  return (
    <>
      <TextField
        label="Name"
        list="settings"
        field=""
        value={document.name}
        disabled={!mayWrite}
        onChange={(value) => set("name", value)}
        onLeave={seal}
      />
      <ChoiceField
        label="Code edition"
        list="settings"
        field="edition"
        value={settings.edition}
        options={EDITIONS.map((value) => ({ value, label: value }))}
        disabled={!mayWrite}
        onChange={(value) => value !== settings.edition && setWished(String(value))}
      />
      <EditionWindow
        edition={wished}
        onClose={() => setWished(null)}
        onAccept={(edition) => {
          set("edition", edition);
          setWished(null);
        }}
      />
      <ChoiceField
        label="Status"
        list="settings"
        field="status"
        value={settings.status}
        disabled={!mayWrite}
        onChange={(value) => set("status", value)}
      />
      {TITLE_BLOCK.map(([field, label]) => (
        <TextField
          key={field}
          label={label}
          list="settings"
          field={field}
          value={settings[field]}
          disabled={!mayWrite}
          onChange={(value) => set(field, value)}
          onLeave={seal}
        />
      ))}
      {(
        [
          ["Feeder drop limit", "feeder_drop_limit_percent", "%"],
          ["Drop to the outlet", "total_drop_limit_percent", "%"],
          ["Power factor", "power_factor", ""],
          ["Ambient", "ambient_c", "°C"],
        ] as const
      ).map(([label, field, unit]) => (
        <NumberField
          key={field}
          label={label}
          list="settings"
          thing="job"
          field={field}
          unit={unit}
          value={settings[field]}
          disabled={!mayWrite}
          onChange={(value) => value !== null && set(field, value)}
          onLeave={seal}
        />
      ))}
      <ChoiceField
        label="Drop by"
        list="settings"
        field="drop_method"
        value={settings.drop_method}
        disabled={!mayWrite}
        onChange={(value) => set("drop_method", value)}
      />
      {withSources ? (
        <YesNoField
          label="Count breakers"
          list="settings"
          field="count_source_breakers"
          value={settings.count_source_breakers}
          disabled={!mayWrite}
          hint="of sources on a bus, where they are more than 125 % of the output, as some offices ask"
          onChange={(value) => set("count_source_breakers", value ?? false)}
        />
      ) : null}
    </>
  );
}

/** Add and remove for a short list of things of the job. */
function Adding({
  label,
  list,
  thing,
}: {
  label: string;
  list: ListName;
  thing: Record<string, unknown> & { name?: string };
}) {
  const { document, act, state, mayWrite } = useWork("document", "act", "state", "mayWrite");
  if (!mayWrite) return null;
  const standing = state === "existing" ? "existing" : "added";
  return (
    <Button
      kind="quiet"
      onClick={() => act(label, [insert(list, { ...thing, id: freshId(document, thing.name ?? list), standing })])}
    >
      {label}
    </Button>
  );
}

function RemoveButton({ list, id, name }: { list: ListName; id: string; name: string }) {
  const { remove, mayWrite } = useWork("remove", "mayWrite");
  if (!mayWrite) return null;
  return (
    <Button kind="quiet" aria-label={`Remove ${name}`} onClick={() => remove(`Remove ${name}`, list, id)}>
      Remove
    </Button>
  );
}

function Buildings() {
  const { site } = useWork("site");
  return (
    <>
      {(site.buildings ?? []).map((building) => {
        const own = { list: "buildings", thing: building } as const;
        return (
          <div key={building.id} className="border-b border-rule py-1">
            <ThingField {...own} kind="text" field="name" label="Name" />
            <ThingField {...own} kind="choice" field="use" label="Use" />
            <EnteredFacts list="buildings" ids={[building.id]} />
            <ThingField {...own} kind="yes-no" field="metal_path_to_supply" label="Metal path between" />
            <ThingField {...own} kind="choice" field="water_piping" label="Metal water pipe" />
            <ThingField {...own} kind="choice" field="gas_piping" label="Metal gas pipe" />
            {building.use === "dwelling" ? null : (
              <ThingField {...own} kind="choice" field="steel_frame" label="Steel frame" />
            )}
            <ThingField
              {...own}
              kind="yes-no"
              field="intersystem_terminal"
              label="Bonding terminal"
              hint="outside, for telephone, cable, antenna"
            />
            <RemoveButton list="buildings" id={building.id} name={building.name || building.id} />
          </div>
        );
      })}
      <Adding label="Add a building" list="buildings" thing={{ name: "Building" }} />
    </>
  );
}

function DwellingUnits() {
  const { site } = useWork("site");
  return (
    <>
      {(site.dwelling_units ?? []).map((unit) => (
        <div key={unit.id} className="border-b border-rule py-1">
          <ThingField kind="text" list="dwelling_units" thing={unit} field="name" label="Name" />
          <RemoveButton list="dwelling_units" id={unit.id} name={unit.name || unit.id} />
        </div>
      ))}
      <Adding label="Add a dwelling unit" list="dwelling_units" thing={{ name: "Dwelling unit" }} />
    </>
  );
}

function Amendments() {
  const { site } = useWork("site");
  return (
    <>
      {(site.amendments ?? []).map((amendment) => {
        const known = LOCAL_RULES.find((item) => item.key === amendment.key);
        const own = { list: "amendments", thing: amendment } as const;
        return (
          <div key={amendment.id} className="border-b border-rule py-1">
            {known?.value === null ? (
              <Row label="Rule" htmlFor={amendment.id}>
                <output id={amendment.id}>{known.label}</output>
              </Row>
            ) : (
              <ThingField
                {...own}
                kind="number"
                field="value"
                label={known?.label ?? amendment.key}
                unit={known?.unit}
              />
            )}
            <ThingField {...own} kind="text" field="source_note" label="Written in" />
            <RemoveButton list="amendments" id={amendment.id} name={known?.label ?? amendment.key} />
          </div>
        );
      })}
      <ShopRules />
      {LOCAL_RULES.map(({ label, ...rule }) => (
        <Adding key={rule.key} label={label} list="amendments" thing={{ ...rule, source_note: "" }} />
      ))}
    </>
  );
}
