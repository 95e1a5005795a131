/** The sheet of an enclosure: its label, its main, what neutral and ground do inside, and its load. */
import { FigureLine } from "../../kit/Figure";
import { ChoiceField, NumberField, TextField } from "../../kit/Field";
import { Button } from "../../kit/Button";
import { feedingRun } from "../../model/building";
import { find, owners, type Enclosure } from "../../model/document";
import { DECISION_WORDS, FOUND_WORDS } from "../../model/words";
import { useWork } from "../../work/context";
import { FedFrom } from "./RunSheet";
import { Group, SheetTitle } from "./Sheet";

const FIGURES: [string, string][] = [
  ["main_bonding_jumper", "Main bonding jumper"],
  ["electrode_conductor", "Electrode conductor"],
  ["electrode_conductor_rods", "to rods alone"],
  ["bus", "Bus"],
];

export function EnclosureSheet({
  enclosure,
  onFeedFrom,
}: {
  enclosure: Enclosure;
  onFeedFrom: (runId: string, fromId: string) => void;
}) {
  const { site, report, select } = useWork();
  const answer = report?.enclosures[enclosure.id];
  const run = feedingRun(site, enclosure.id);
  return (
    <>
      <SheetTitle title={enclosure.name || enclosure.id}>
        {enclosure.kind?.replaceAll("_", " ")}
        {enclosure.standing === "added" ? ", proposed" : ", standing"}
      </SheetTitle>
      <LabelFields enclosure={enclosure} />
      {run ? (
        <FedFrom
          runId={run.id}
          fedId={enclosure.id}
          fromId={owners(site).get(run.from_part) ?? ""}
          onFeedFrom={onFeedFrom}
        />
      ) : null}
      {run ? (
        <Button kind="quiet" onClick={() => select(run.id)}>
          Sheet of the feeding run
        </Button>
      ) : null}
      {answer ? (
        <>
          <Group title="Neutral and ground">
            <p className="py-1">
              <strong>{DECISION_WORDS[answer.decision]}.</strong> Found: {FOUND_WORDS[answer.found] ?? answer.found}.{" "}
              {answer.reason} <span className="narrow text-soft">{answer.section}</span>
            </p>
            {FIGURES.map(([name, label]) =>
              answer.figures[name] ? <FigureLine key={name} label={label} figure={answer.figures[name]} /> : null,
            )}
          </Group>
          <Group title="Load here and beneath">
            <FigureLine label="Calculated" figure={answer.level.demand ?? undefined} gap={answer.level.gap} />
            {answer.level.legs.map((leg) => (
              <FigureLine key={leg.leg} label={leg.leg} figure={leg.load} note={`sized for ${leg.design.value} A`} />
            ))}
            <FigureLine label="Neutral" figure={answer.level.neutral ?? undefined} gap={answer.level.gap} />
          </Group>
        </>
      ) : null}
    </>
  );
}

function LabelFields({ enclosure }: { enclosure: Enclosure }) {
  const { document, site, put, seal, mayWrite } = useWork();
  const changed = new Set(Object.keys(find(document.enclosures, enclosure.id)?.proposed ?? {}));
  const main = (site.devices ?? []).find((item) => item.enclosure_id === enclosure.id && item.role === "main");
  const feeders = (site.devices ?? []).filter((item) => item.enclosure_id === enclosure.id && item.role === "feeder");
  const ratingWord = enclosure.kind === "panel" ? "Bus rating" : enclosure.kind === "meter" ? "Class" : "Rating";
  const choice = (
    label: string,
    field: keyof Enclosure & string,
    options?: { value: string | number; label: string }[],
    empty?: string,
  ) => (
    <ChoiceField
      label={label}
      list="enclosures"
      field={field}
      options={options}
      empty={empty}
      value={(enclosure[field] as string | number | null | undefined) ?? null}
      changed={changed.has(field)}
      disabled={!mayWrite}
      onChange={(value) => put("enclosures", enclosure.id, field, value)}
    />
  );
  return (
    <>
      <TextField
        label="Name"
        list="enclosures"
        field="name"
        value={enclosure.name ?? ""}
        changed={changed.has("name")}
        disabled={!mayWrite}
        onChange={(value) => put("enclosures", enclosure.id, "name", value)}
        onLeave={seal}
      />
      <NumberField
        label={ratingWord}
        list="enclosures"
        field="rating_a"
        unit="A"
        value={enclosure.rating_a ?? null}
        changed={changed.has("rating_a")}
        disabled={!mayWrite}
        onChange={(value) => put("enclosures", enclosure.id, "rating_a", value)}
        onLeave={seal}
      />
      {[main, ...feeders].map((device) =>
        device ? (
          <NumberField
            key={device.id}
            label={device.role === "main" ? "Main" : device.name || "Feeder"}
            list="devices"
            field="rating_a"
            unit="A"
            value={device.rating_a ?? null}
            changed={find(document.devices, device.id)?.proposed?.rating_a !== undefined}
            disabled={!mayWrite}
            hint={device.rating_a === null && device.role !== "main" ? "chosen for the load" : undefined}
            onChange={(value) => put("devices", device.id, "rating_a", value)}
            onLeave={seal}
          />
        ) : null,
      )}
      {choice(
        "Building",
        "building_id",
        (site.buildings ?? []).map((item) => ({ value: item.id, label: item.name || item.id })),
        "none, stands alone",
      )}
      {choice("Placed", "placement")}
      {choice(
        "Lugs marked",
        "termination_c",
        [60, 75, 90].map((value) => ({ value, label: `${value} °C` })),
      )}
      {enclosure.kind !== "meter" ? choice("Marking", "service_marking") : null}
      {enclosure.kind !== "panel" && enclosure.kind !== "meter" ? choice("Emergency", "emergency_marking") : null}
      {enclosure.kind === "panel" ? (
        <NumberField
          label="Spaces"
          list="enclosures"
          field="spaces"
          value={enclosure.spaces ?? null}
          changed={changed.has("spaces")}
          disabled={!mayWrite}
          onChange={(value) => put("enclosures", enclosure.id, "spaces", value)}
          onLeave={seal}
        />
      ) : null}
    </>
  );
}
