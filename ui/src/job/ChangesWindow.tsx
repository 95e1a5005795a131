/** What the proposal changes of what stands: as the order of the work, and thing by thing. */
import { Tab, TabGroup, TabList, TabPanel, TabPanels } from "@headlessui/react";
import { useEffect, useState } from "react";
import { answered, api, messageOf, type Schemas } from "../api/client";
import { Window } from "../kit/Window";
import { useWork } from "../core/context";
import { DifferenceLines, type Difference } from "./Differences";

interface Told {
  order: Schemas["OrderOfWork"];
  differences: Difference[];
}

const TAB =
  "border-b-2 border-transparent px-2 py-0.5 font-semibold text-soft data-selected:border-copper data-selected:text-ink pointer-coarse:min-h-11";

export function ChangesWindow({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Window title="From existing to proposed" open={open} onClose={onClose} wide>
      <Changes />
    </Window>
  );
}

function Changes() {
  const { document } = useWork("document");
  const [told, setTold] = useState<Told | null>(null);
  const [fault, setFault] = useState("");
  useEffect(() => {
    const body = { document };
    Promise.all([answered(api.POST("/api/order-of-work", { body })), answered(api.POST("/api/differences", { body }))])
      .then(([order, { differences }]) => setTold({ order, differences }))
      .catch((failure: unknown) => setFault(messageOf(failure)));
  }, [document]);
  return (
    <>
      {fault ? <p role="alert">{fault}</p> : null}
      {told ? (
        <TabGroup>
          <TabList aria-label="Shown as" className="mb-2 flex gap-2">
            <Tab className={TAB}>Order of work</Tab>
            <Tab className={TAB}>Thing by thing</Tab>
          </TabList>
          <TabPanels>
            <TabPanel>
              <Stages order={told.order} />
            </TabPanel>
            <TabPanel>
              {told.differences.length === 0 ? <p>The proposal changes nothing yet.</p> : null}
              <DifferenceLines differences={told.differences} />
            </TabPanel>
          </TabPanels>
        </TabGroup>
      ) : (
        <p>Comparing…</p>
      )}
    </>
  );
}

function Stages({ order }: { order: Schemas["OrderOfWork"] }) {
  if (order.stages.length === 0) return <p>The proposal changes nothing on site.</p>;
  return (
    <ol className="grid gap-x-6 sm:grid-cols-[auto_minmax(0,1fr)]">
      {order.stages.map((stage, at) => (
        <li key={stage.stage} className="contents">
          <h3 className="max-w-52 border-t border-rule py-1 font-semibold">
            {at + 1}. {stage.title}
          </h3>
          <ul className="border-t border-rule py-1 max-sm:border-t-0">
            {stage.steps.map((step) => (
              <li key={step.text} className="py-0.5 break-words">
                {step.text}
              </li>
            ))}
          </ul>
        </li>
      ))}
    </ol>
  );
}
