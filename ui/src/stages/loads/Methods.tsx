/** The load methods that the office accepts: for each dwelling unit, for several together, for all other loads. */
import { ChoiceField, YesNoField } from "../../kit/Field";
import { ThingField } from "../../sheets/ThingField";
import { LOAD_METHODS } from "../../core/words";
import { useWork } from "../../core/context";

const OF_UNIT = ["standard", "optional", "existing"];
const OF_OTHER = ["connected", "demand_factors", "farm"];

function options(names: string[]) {
  return names.map((value) => ({ value, label: LOAD_METHODS[value] ?? value }));
}

export function Methods() {
  const { site, document, act, mayWrite } = useWork("site", "document", "act", "mayWrite");
  const { settings } = document;
  const units = site.dwelling_units ?? [];
  const set = (field: string, value: unknown) => act("Change the load method", [{ op: "setting", field, value }]);
  return (
    <details className="mt-4 border-t border-rule pt-1" open>
      <summary className="cursor-pointer font-semibold">Methods the office accepts</summary>
      <div className="max-w-lg">
        {units.map((unit) => (
          <ThingField
            key={unit.id}
            kind="choice"
            list="dwelling_units"
            thing={unit}
            field="load_method"
            label={unit.name || unit.id}
            options={options(OF_UNIT)}
          />
        ))}
        {units.length > 1 ? (
          <YesNoField
            label="Units together"
            list="settings"
            field="multifamily_optional"
            value={settings.multifamily_optional}
            disabled={!mayWrite}
            onChange={(value) => set("multifamily_optional", value ?? false)}
          />
        ) : null}
        <ChoiceField
          label="Other loads"
          list="settings"
          field="other_load_method"
          value={settings.other_load_method}
          options={options(OF_OTHER)}
          disabled={!mayWrite}
          onChange={(value) => set("other_load_method", value)}
        />
      </div>
    </details>
  );
}
