/** The sheet of an enclosure: its label, its main, what neutral and ground do inside, and its load. */
import { EnteredFacts } from "./EnteredFacts";
import { FigureLine } from "./FigureLine";
import { ThingField } from "./ThingField";
import { Button } from "../kit/Button";
import { ChoiceField } from "../kit/Field";
import { feedingRun } from "../core/feeds";
import { owners, type Bus, type Device, type Enclosure, type Transformer } from "../core/document";
import { DECISION_WORDS, FOUND_WORDS } from "../core/words";
import { useSite, useWork } from "../core/context";
import { formsNeutral } from "../core/fitOut";
import { landOn, landsOn } from "../core/refitting";
import { FedFrom } from "./FedFrom";
import { PlacePlan } from "./PlacePlan";
import { StandbyFields } from "./StandbyFields";
import { Group, SheetTitle } from "./parts";

const FIGURES: [string, string][] = [
  ["main_bonding_jumper", "Main bonding jumper"],
  ["electrode_conductor", "Electrode conductor"],
  ["electrode_conductor_rods", "to rods alone"],
  ["water_bond", "Water pipe bond"],
  ["rods", "Rods asked"],
  ["bus", "Bus"],
  ["disconnect_floor", "Disconnect, least"],
  ["fault_current", "Fault current, most"],
  ["standby_supply", "Standby gives"],
  ["standby_load", "of a load of"],
];

export function EnclosureSheet({
  enclosure,
  onFeedFrom,
}: {
  enclosure: Enclosure;
  onFeedFrom: (runId: string, fromId: string) => void;
}) {
  const { site, report, select } = useWork("site", "report", "select");
  const answer = report?.enclosures[enclosure.id];
  const run = feedingRun(site, enclosure.id);
  return (
    <>
      <SheetTitle title={enclosure.name || enclosure.id}>
        {enclosure.kind.replaceAll("_", " ")}
        {enclosure.standing === "added" ? ", proposed" : ", standing"}
      </SheetTitle>
      <LabelFields enclosure={enclosure} />
      <StandbyFields enclosure={enclosure} />
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
      {EXAMINED.has(enclosure.kind) ? <WhereItStands enclosure={enclosure} decision={answer?.decision} /> : null}
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
          {answer.notes.map((note) => (
            <p key={note} className="narrow mt-1 text-soft">
              {note}
            </p>
          ))}
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

const EXAMINED = new Set(["panel", "disconnect", "meter_disconnect", "transfer_switch"]);

const FACING = [
  { value: "insulated", label: "nothing live or grounded" },
  { value: "grounded", label: "grounded: concrete, brick, tile" },
  { value: "live", label: "live parts" },
];

/** The place of the equipment: the room, the height of its handles, the space to work before it. */
function WhereItStands({ enclosure, decision }: { enclosure: Enclosure; decision?: string }) {
  const own = { list: "enclosures", thing: enclosure } as const;
  const indoors = enclosure.placement !== "outdoors";
  const entered =
    enclosure.place_as_required ?? enclosure.room ?? enclosure.handle_height_in ?? enclosure.working_depth_in ?? null;
  return (
    <details className="mt-3" open={entered !== null || enclosure.standing === "added"}>
      <summary className="wide mb-0.5 cursor-pointer border-b border-ink text-xs font-bold tracking-wide uppercase">
        Where it stands
      </summary>
      <ThingField
        {...own}
        kind="yes-no"
        field="place_as_required"
        label="All as required"
        hint="room, handles, working space looked at and right; or each by itself:"
      />
      {indoors ? <ThingField {...own} kind="choice" field="room" label="Room" /> : null}
      <ThingField {...own} kind="number" field="handle_height_in" label="Highest handle" unit="in" />
      <ThingField {...own} kind="number" field="working_depth_in" label="Clear depth" unit="in" />
      <ThingField {...own} kind="number" field="working_width_in" label="Clear width" unit="in" />
      {indoors ? <ThingField {...own} kind="number" field="working_height_in" label="Headroom" unit="in" /> : null}
      <ThingField {...own} kind="choice" field="facing" label="Across from it" options={FACING} />
      {indoors ? <ThingField {...own} kind="yes-no" field="dedicated_space" label="Space kept clear" /> : null}
      {decision === "bond" ? (
        <>
          {indoors ? <ThingField {...own} kind="yes-no" field="near_entrance" label="Near the entrance" /> : null}
          <ThingField {...own} kind="yes-no" field="marked_as_disconnect" label="Marked disconnect" />
        </>
      ) : null}
      <PlacePlan enclosureId={enclosure.id} />
    </details>
  );
}

function TransformerFields({ transformer }: { transformer: Transformer }) {
  const own = { list: "transformers", thing: transformer } as const;
  const { bars } = useSite("bars");
  const forms = formsNeutral({ bars }, transformer);
  return (
    <>
      <ThingField {...own} kind="number" field="kva" label="Rating" unit="kVA" />
      {forms ? (
        <>
          <ThingField
            {...own}
            kind="yes-no"
            field="listed_for_neutral"
            label="Listed for it"
            hint="for forming the neutral of a source that has none; on its label"
          />
          <ThingField
            {...own}
            kind="yes-no"
            field="opens_source"
            label="Opens the source"
            hint="its breaker and that of the source open together"
          />
        </>
      ) : (
        <>
          <ThingField {...own} kind="choice" field="secondary_system" label="Secondary" />
          <ThingField
            {...own}
            kind="yes-no"
            field="isolating"
            label="Windings apart"
            hint={
              transformer.isolating === false ? "an autotransformer: its rating as it is connected here" : undefined
            }
          />
        </>
      )}
      <ThingField {...own} kind="number" field="impedance_percent" label="Impedance" unit="%" />
      <EnteredFacts list="transformers" ids={[transformer.id]} />
    </>
  );
}

/** What is rated by its gear or its set, on a part of the sheet of their own. */
const RATED_ELSEWHERE = new Set(["transfer_switch", "switch_box", "generator", "inlet", "inverter"]);

/** What is never a disconnect of a service or a building. */
const NO_DISCONNECT = new Set(["meter", "switch_box", "generator", "inlet", "inverter", "transformer"]);

/** The rating on the label: of a bus, of a meter's class, of the frame that holds the main. */
function RatingField({ enclosure, bus, main }: { enclosure: Enclosure; bus?: Bus; main?: Device }) {
  if (enclosure.kind === "meter")
    return (
      <ThingField kind="number" list="enclosures" thing={enclosure} field="meter_class_a" label="Class" unit="A" />
    );
  if (bus) return <ThingField kind="number" list="buses" thing={bus} field="rating_a" label="Bus rating" unit="A" />;
  if (RATED_ELSEWHERE.has(enclosure.kind)) return null;
  if (main) return <ThingField kind="number" list="devices" thing={main} field="frame_a" label="Rating" unit="A" />;
  return null;
}

const LANDINGS = [
  { value: "main", label: "a main of its own" },
  { value: "lugs", label: "main lugs only" },
];

/** What the feed of a panel lands on: a main of its own, or lugs. */
function LandsOn({ enclosureId }: { enclosureId: string }) {
  const { document, state, act, mayWrite } = useWork("document", "state", "act", "mayWrite");
  const now = landsOn(document, state, enclosureId);
  if (now === null) return null;
  return (
    <ChoiceField
      label="Feed lands on"
      list="enclosures"
      field="kind"
      value={now}
      options={LANDINGS}
      disabled={!mayWrite}
      onChange={(wanted) =>
        act(
          wanted === "lugs" ? "Use main lugs" : "Fit a main",
          landOn(document, state, enclosureId, wanted === "lugs" ? "lugs" : "main"),
        )
      }
    />
  );
}

function BusFields({ bus }: { bus: Bus }) {
  const own = { list: "buses", thing: bus } as const;
  return (
    <>
      <ThingField {...own} kind="number" field="spaces" label="Spaces" />
      <ThingField {...own} kind="choice" field="main_end" label="Main at" />
      <ThingField {...own} kind="choice" field="numbering" label="Numbered" />
    </>
  );
}

const LUG_MARKINGS = [60, 75, 90].map((value) => ({ value, label: `${value} °C` }));

/** Up to so many branch circuits, a disconnect may be smaller where there are no others. */
const FEW_CIRCUITS = 2;

/** From here on a main may have to protect against ground faults. */
const LARGE_MAIN_A = 1000;

function LabelFields({ enclosure }: { enclosure: Enclosure }) {
  const { site } = useWork("site");
  const kind = enclosure.kind;
  const devices = (site.devices ?? []).filter((item) => item.enclosure_id === enclosure.id);
  const main = devices.find((item) => item.role === "main");
  const bus = (site.buses ?? []).find((item) => item.enclosure_id === enclosure.id);
  const transformer = (site.transformers ?? []).find((item) => item.enclosure_id === enclosure.id);
  const rated = [
    ...devices.filter((item) => item.role === "main"),
    ...devices.filter((item) => item.role === "feeder" || item.role === "branch"),
  ];
  const faultKnown = (site.sources ?? []).some((item) => (item.fault_current_a ?? null) !== null);
  const largeMain = Math.max(main?.rating_a ?? 0, main?.frame_a ?? 0) >= LARGE_MAIN_A;
  const circuits = devices.filter((item) => item.role === "branch");
  const buildings = (site.buildings ?? []).map((item) => ({ value: item.id, label: item.name || item.id }));
  const own = { list: "enclosures", thing: enclosure } as const;
  return (
    <>
      <ThingField {...own} kind="text" field="name" label="Name" />
      <RatingField enclosure={enclosure} bus={bus} main={main} />
      {kind === "panel" ? <LandsOn enclosureId={enclosure.id} /> : null}
      {rated.map((device) => (
        <ThingField
          key={device.id}
          kind="number"
          list="devices"
          thing={device}
          field="rating_a"
          label={device.role === "main" ? "Main" : device.name || "Feeder"}
          unit="A"
          hint={device.rating_a === null && device.role !== "main" ? "chosen for the load" : undefined}
        />
      ))}
      <ThingField
        {...own}
        kind="choice"
        field="building_id"
        label="Building"
        options={buildings}
        empty="none, stands alone"
      />
      <ThingField {...own} kind="choice" field="placement" label="Placed" />
      <ThingField {...own} kind="choice" field="termination_c" label="Lugs marked" options={LUG_MARKINGS} />
      {!NO_DISCONNECT.has(kind) && !transformer ? (
        <ThingField {...own} kind="choice" field="service_marking" label="Marking" />
      ) : null}
      {(kind !== "panel" || enclosure.placement === "outdoors") && !NO_DISCONNECT.has(kind) && !transformer ? (
        <ThingField {...own} kind="choice" field="emergency_marking" label="Emergency" />
      ) : null}
      {kind === "disconnect" && (site.buildings ?? []).some((item) => item.use === "farm") ? (
        <ThingField
          {...own}
          kind="yes-no"
          field="site_isolating"
          label="Isolates the farm"
          hint="the switch at the point from which the buildings of a farm are fed"
        />
      ) : null}
      {kind === "inlet" ? <ThingField {...own} kind="number" field="inlet_a" label="Inlet rated" unit="A" /> : null}
      {kind === "meter" && site.enclosures?.some((item) => item.kind === "disconnect") ? (
        <ThingField
          {...own}
          kind="yes-no"
          field="beside_service"
          label="Beside the service"
          hint="immediately beside the service disconnect that is ahead of it"
        />
      ) : null}
      {kind === "panel" || kind === "disconnect" ? (
        <ThingField {...own} kind="yes-no" field="surge_protection" label="Surge device" hint="in it or beside it" />
      ) : null}
      {kind === "panel" ? (
        <ThingField {...own} kind="yes-no" field="openings_closed" label="Openings closed" hint="spaces, knockouts" />
      ) : null}
      {kind === "panel" && circuits.length > 0 && circuits.length <= FEW_CIRCUITS ? (
        <ThingField
          {...own}
          kind="yes-no"
          field="no_other_circuits"
          label="Circuits complete"
          hint="it supplies no others than those drawn"
        />
      ) : null}
      {bus ? <BusFields bus={bus} /> : null}
      {main ? <ThingField kind="choice" list="devices" thing={main} field="kind" label="Main is" /> : null}
      {kind === "panel" && faultKnown ? (
        <ThingField {...own} kind="number" field="interrupting_a" label="Marked to break" unit="A" />
      ) : null}
      {main && faultKnown ? (
        <ThingField kind="number" list="devices" thing={main} field="interrupting_a" label="Main breaks" unit="A" />
      ) : null}
      {main && largeMain ? (
        <ThingField
          kind="yes-no"
          list="devices"
          thing={main}
          field="ground_fault_protection"
          label="Ground-fault"
          hint="the main protects equipment against ground faults"
        />
      ) : null}
      {main?.kind === "switch" ? (
        <ThingField
          {...own}
          kind="yes-no"
          field="protection_adjacent"
          label="Protection"
          hint="fuses or breakers stand immediately beside it"
        />
      ) : null}
      {transformer ? <TransformerFields transformer={transformer} /> : null}
      <EnteredFacts list="enclosures" ids={[enclosure.id]} />
      <EnteredFacts list="devices" ids={devices.map((device) => device.id)} />
    </>
  );
}
