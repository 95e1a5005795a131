/** What the proposal changes of what stands. */
import { useEffect, useState } from "react";
import { answered, api, messageOf } from "../api/client";
import { Window } from "../kit/Window";
import { useWork } from "../core/context";
import { DifferenceLines, type Difference } from "./Differences";

export function ChangesWindow({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { document } = useWork("document");
  const [differences, setDifferences] = useState<Difference[] | null>(null);
  const [fault, setFault] = useState("");
  useEffect(() => {
    if (!open) return;
    answered(api.POST("/api/differences", { body: { document } }))
      .then((answer) => setDifferences(answer.differences))
      .catch((failure: unknown) => setFault(messageOf(failure)));
  }, [open, document]);
  return (
    <Window title="From existing to proposed" open={open} onClose={onClose}>
      {fault ? <p role="alert">{fault}</p> : null}
      {differences?.length === 0 ? <p>The proposal changes nothing yet.</p> : null}
      {differences ? <DifferenceLines differences={differences} /> : <p>Comparing…</p>}
    </Window>
  );
}
