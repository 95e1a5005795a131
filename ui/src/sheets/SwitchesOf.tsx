/** The switches of a box that moves single circuits: what each moves, to which line of the set, behind which breaker of its own. */
import { useWork } from "../core/context";
import { find, type Transfer } from "../core/document";
import { ThingField } from "./ThingField";

export function SwitchesOf({ gear }: { gear: Transfer }) {
  const { site } = useWork("site");
  const switches = (site.circuit_switches ?? []).filter((item) => item.transfer_id === gear.id);
  if (switches.length === 0) return null;
  const buses = new Set((site.throws ?? []).filter((item) => item.transfer_id === gear.id).map((item) => item.part));
  const devices = (site.devices ?? [])
    .filter((item) => item.bus_id && buses.has(item.bus_id) && item.role !== "main" && item.role !== "source")
    .map((item) => ({ value: item.id, label: item.name || `space ${item.space ?? "?"}` }));
  return (
    <>
      <ThingField
        kind="yes-no"
        list="transfers"
        thing={gear}
        field="switches_protected"
        label="Own breakers"
        hint="each switch has a breaker or fuse of its own"
      />
      {switches.map((item) => {
        const own = { list: "circuit_switches", thing: item } as const;
        const moves = find(site.devices, item.device_id ?? "");
        const others = switches
          .filter((other) => other.id !== item.id)
          .map((other) => ({ value: other.id, label: other.name || other.id }));
        return (
          <details key={item.id} className="mt-1">
            <summary className="cursor-pointer">
              <span className="mono mr-2 rounded-sm border border-rule px-1">{item.name || item.id}</span>
              <span dir="auto">{moves ? moves.name || `space ${moves.space ?? "?"}` : "free"}</span>
              <span className="narrow text-soft">
                {item.leg ? ` on ${item.leg}` : ""}
                {item.rating_a ? `, ${item.rating_a} A` : ""}
              </span>
            </summary>
            <ThingField {...own} kind="choice" field="device_id" label="Moves" options={devices} empty="nothing" />
            <ThingField {...own} kind="choice" field="leg" label="To line" empty="not read" />
            {gear.switches_protected === false ? null : (
              <ThingField {...own} kind="number" field="rating_a" label="Its breaker" unit="A" empty="not read" />
            )}
            <ThingField {...own} kind="choice" field="tied_to" label="Tied to" options={others} empty="none" />
          </details>
        );
      })}
    </>
  );
}
