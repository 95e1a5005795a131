/** What a tap is judged by, and how each rule judges it. */
import type { Schemas } from "../api/client";
import { Glyph } from "../kit/Glyph";
import { ThingField } from "./ThingField";
import { useWork } from "../core/context";
import { Group } from "./parts";

export function TapGroup({ runId, rules }: { runId: string; rules: Schemas["TapRuleOut"][] }) {
  const { site } = useWork("site");
  const tap = (site.taps ?? []).find((item) => item.tap_run_id === runId);
  if (!tap) return null;
  const own = { list: "taps", thing: tap } as const;
  return (
    <Group title="Tap">
      <ThingField {...own} kind="length" field="at_ft" label="Joins at" />
      <ThingField {...own} kind="choice" field="rule" label="By rule" empty="the first that fits" />
      <ThingField {...own} kind="yes-no" field="protected_from_damage" label="Protected" />
      <ThingField {...own} kind="yes-no" field="leaves_enclosure" label="Leaves the box" />
      <ThingField {...own} kind="yes-no" field="outdoors_only" label="Outdoors alone" />
      <ThingField {...own} kind="number" field="bay_wall_ft" label="Wall height" unit="ft" />
      {tap.bay_wall_ft ? (
        <>
          <ThingField {...own} kind="number" field="level_length_ft" label="Level part" unit="ft" />
          <ThingField {...own} kind="yes-no" field="qualified_industry" label="Qualified only" />
        </>
      ) : null}
      <ul className="mt-1" aria-label="Tap rules">
        {rules.map((rule) => (
          <li key={rule.title} className="grid grid-cols-[1.2rem_1fr] items-baseline border-t border-rule py-0.5">
            {rule.fits === false ? (
              <span className="text-soft">–</span>
            ) : (
              <Glyph outcome={rule.fits ? "holds" : "cannot_tell"} />
            )}
            <span className={rule.fits ? "" : "text-soft"}>
              {rule.title}: {rule.why}. <span className="narrow">{rule.section}</span>
            </span>
          </li>
        ))}
      </ul>
    </Group>
  );
}
