/** The sheet of one breaker: where it stands, what it is, its wires, and the loads on it. */
import { Button } from "../../kit/Button";
import { ChoiceField } from "../../kit/Field";
import { EnteredFacts } from "../../sheets/EnteredFacts";
import { ThingField } from "../../sheets/ThingField";
import { Group, SheetTitle } from "../../sheets/parts";
import { edit, insert } from "../../core/changes";
import { find, freshId, type Device } from "../../core/document";
import { standingIn } from "../../core/draft";
import { wordsOf, type PanelCircuit, type Schedule } from "../../core/panel";
import { useSite, useWork } from "../../core/context";
import { spacesOf, standingWord } from "./CircuitTable";
import { SourcePlate } from "./PushedIn";

interface SheetProps {
  schedule: Schedule;
  circuit: PanelCircuit;
  onLeave: () => void;
}

const ROLES = [
  { value: "branch", label: "circuit" },
  { value: "feeder", label: "feeder" },
  { value: "source", label: "back-fed by a source" },
  { value: "spare", label: "spare" },
];

export function CircuitSheet({ schedule, circuit, onLeave }: SheetProps) {
  const { site, remove, mayWrite } = useWork("site", "remove", "mayWrite");
  const device = find(site.devices, circuit.device_id);
  if (!device) return null;
  const word = standingWord(circuit);
  return (
    <div data-sheet={device.id}>
      <SheetTitle title={wordsOf(circuit)}>
        {schedule.name}, space {spacesOf(circuit)}, {circuit.legs.join(" and ") || "leg not known"}
        {word ? `, ${word}` : ""}
      </SheetTitle>
      <Button kind="quiet" onClick={onLeave}>
        Back to the panel
      </Button>
      <BreakerFields device={device} halves={schedule.spaces.some((item) => item.halves)} torque={circuit.torque} />
      {circuit.role === "source" ? <SourcePlate deviceId={device.id} /> : null}
      {circuit.role === "spare" || circuit.role === "source" ? null : (
        <Wires device={device} oldFrames={circuit.frames.length > 0} />
      )}
      {circuit.role === "spare" || circuit.role === "source" ? null : <Carries schedule={schedule} circuit={circuit} />}
      {mayWrite ? (
        <p className="mt-3">
          <Button kind="quiet" onClick={() => remove(`Take out ${wordsOf(circuit)}`, "devices", device.id)}>
            Take the breaker out
          </Button>
        </p>
      ) : null}
    </div>
  );
}

function BreakerFields({ device, halves, torque }: { device: Device; halves: boolean; torque: string }) {
  const own = { list: "devices", thing: device } as const;
  return (
    <Group title="Breaker">
      <ThingField {...own} kind="text" field="name" label="On the door" />
      <ThingField {...own} kind="choice" field="role" label="Serves" options={ROLES} />
      <ThingField {...own} kind="number" field="rating_a" label="Rating" unit="A" />
      <ThingField {...own} kind="number" field="poles" label="Poles" />
      <ThingField {...own} kind="number" field="space" label="Space" />
      {halves || device.half ? (
        <ThingField {...own} kind="choice" field="half" label="Half of it" empty="whole" />
      ) : null}
      {device.poles > 1 || device.tie ? (
        <ThingField {...own} kind="choice" field="tie" label="Poles joined by" />
      ) : null}
      <ThingField {...own} kind="choice" field="protection" label="Guards against" />
      <ThingField {...own} kind="text" field="series" label="Series on it" />
      <ThingField {...own} kind="number" field="interrupting_a" label="Marked to break" unit="A" empty="not read" />
      <ThingField
        {...own}
        kind="number"
        field="series_interrupting_a"
        label="Marked in series"
        unit="A"
        empty="no combination"
        hint="with the device ahead, on the panel's label"
      />
      <ThingField {...own} kind="yes-no" field="listed_for_panel" label="Panel names it" />
      <EnteredFacts list="devices" ids={[device.id]} />
      <ThingField {...own} kind="number" field="torque_lb_in" label="Torque" unit="lb-in" empty="not marked" />
      {device.torque_lb_in === null ? (
        <ThingField {...own} kind="choice" field="screw" label="Its screw" empty="not entered" />
      ) : null}
      {torque ? <p className="narrow text-soft">{torque}</p> : null}
    </Group>
  );
}

/** What leaves the breaker where no run is drawn: the wire, what it serves, and whose neutral it shares. */
function Wires({ device, oldFrames }: { device: Device; oldFrames: boolean }) {
  const { site, document, state, act, mayWrite } = useWork("site", "document", "state", "act", "mayWrite");
  const wires = (site.circuits ?? []).filter((item) => item.device_id === device.id);
  if ((site.runs ?? []).some((run) => run.from_part === device.id)) return null;
  const elsewhere = (site.bars ?? [])
    .filter((bar) => bar.kind === "neutral" && bar.enclosure_id !== device.enclosure_id)
    .map((bar) => ({ value: bar.id, label: find(site.enclosures, bar.enclosure_id)?.name || bar.enclosure_id }));
  const add = (use: unknown = null) => {
    const id = freshId(document, `${device.id} wires`);
    const dry = { material: "copper", insulation: "NM-B" };
    const circuit = { id, device_id: device.id, standing: standingIn(state), use, ...dry };
    act("Wires of a circuit", [insert("circuits", circuit)]);
  };
  return (
    <Group title="Wires">
      {wires.map((item) => {
        const own = { list: "circuits", thing: item } as const;
        return (
          <div key={item.id} data-wires={item.id}>
            <ThingField {...own} kind="choice" field="use" label="Used for" />
            <ThingField {...own} kind="many" field="serves" label="Serves" empty="by what it is used for" />
            <ThingField {...own} kind="choice" field="wire_size" label="Size" empty="not read yet" />
            <ThingField {...own} kind="choice" field="material" label="Metal" />
            <ThingField {...own} kind="choice" field="insulation" label="Type" />
            <ThingField {...own} kind="choice" field="ground_size" label="Ground" empty="not entered" />
            {oldFrames ? (
              <>
                {item.ground_size ? null : (
                  <ThingField {...own} kind="yes-no" field="has_ground" label="Has a ground" />
                )}
                <ThingField {...own} kind="choice" field="neutral_size" label="Neutral" empty="not read" />
                <ThingField {...own} kind="choice" field="neutral_covering" label="Neutral is" empty="not looked at" />
              </>
            ) : null}
            <ThingField {...own} kind="length" field="length_ft" label="Length" />
            <ThingField {...own} kind="length" field="reach_ft" label="Reaches further" />
            <ThingField
              {...own}
              kind="text"
              field="shared_neutral"
              label="Neutral shared"
              hint="the same word on circuits that share one"
            />
            {elsewhere.length > 0 || item.neutral_bar ? (
              <ThingField
                {...own}
                kind="choice"
                field="neutral_bar"
                label="Neutral lands in"
                options={elsewhere}
                empty="this panel"
              />
            ) : null}
            {item.standing === "existing" && state === "proposed" ? (
              <>
                <ThingField
                  {...own}
                  kind="number"
                  field="extended_ft"
                  label="Extended by"
                  unit="ft"
                  empty="not extended"
                />
                {item.extended_ft ? (
                  <ThingField {...own} kind="yes-no" field="extension_adds_outlets" label="adds outlets" />
                ) : null}
                <ThingField {...own} kind="yes-no" field="receptacles_replaced" label="Receptacles replaced" />
              </>
            ) : null}
          </div>
        );
      })}
      {wires.length === 0 && mayWrite ? (
        <>
          <ChoiceField list="circuits" field="use" label="Used for" value={null} onChange={add} />
          <Button kind="quiet" onClick={() => add()}>
            Enter its wire
          </Button>
        </>
      ) : null}
    </Group>
  );
}

/** The loads of the circuit; a load of the panel that is on none can be put on it. */
function Carries({ schedule, circuit }: { schedule: Schedule; circuit: PanelCircuit }) {
  const { site, document, state, act, mayWrite } = useWork("site", "document", "state", "act", "mayWrite");
  const puts = (loadId: string, deviceId: string | null) =>
    act(
      deviceId ? `Put a load on ${wordsOf(circuit)}` : `Take a load off ${wordsOf(circuit)}`,
      edit(document, state, "loads", loadId, "device_id", deviceId),
    );
  return (
    <Group title="Carries">
      {circuit.gap ? <p className="text-tell">{circuit.gap}</p> : null}
      {circuit.poles_a.length > 0 ? (
        <p data-poles-a={circuit.poles_a.join(" ")}>
          {circuit.legs.map((leg, at) => `${leg} ${circuit.poles_a[at] ?? "?"} A`).join(", ")}
        </p>
      ) : circuit.loads.length === 0 ? (
        <p className="text-soft">No load is entered on it.</p>
      ) : null}
      <ul>
        {circuit.loads.map((id) => (
          <li key={id} className="flex flex-wrap items-baseline justify-between gap-x-2">
            <span dir="auto">{find(site.loads, id)?.name || id}</span>
            {mayWrite ? (
              <Button kind="quiet" onClick={() => puts(id, null)}>
                Off this circuit
              </Button>
            ) : null}
            {circuit.frames.includes(id) ? <FrameField id={id} /> : null}
          </li>
        ))}
      </ul>
      {mayWrite && schedule.without_circuit.length > 0 ? (
        <label className="mt-1 flex items-center gap-2">
          <span className="narrow text-soft">Put on it</span>
          <select
            aria-label="Put a load on this circuit"
            className="min-w-0 flex-1 rounded-sm border border-rule bg-sheet px-1 py-0.5 pointer-coarse:min-h-11"
            value=""
            onChange={(event) => event.target.value && puts(event.target.value, circuit.device_id)}
          >
            <option value="">choose a load</option>
            {schedule.without_circuit.map((id) => (
              <option key={id} value={id}>
                {find(site.loads, id)?.name || id}
              </option>
            ))}
          </select>
        </label>
      ) : null}
    </Group>
  );
}

/** Whether the frame of a range or dryer hangs on the neutral, as on an old circuit of three wires. */
function FrameField({ id }: { id: string }) {
  const load = find(useSite("loads").loads, id);
  if (!load) return null;
  return (
    <div className="w-full">
      <ThingField kind="yes-no" list="loads" thing={load} field="frame_bonded" label="Frame on neutral" />
    </div>
  );
}
