/** The fewest moves that bring the legs within a figure, told as a list before they are taken. */
import { useState, type SubmitEvent } from "react";
import { ApiFailure, answered, api, messageOf, type Schemas } from "../../api/client";
import { Button } from "../../kit/Button";
import { edit } from "../../core/changes";
import type { Document } from "../../core/document";
import { useWork } from "../../core/context";
import type { Schedule } from "../../core/panel";

const USUAL_A = "5";
const MOST_A = 6000;

interface Told {
  of: Document;
  found: Schemas["BalanceOut"];
}

export function Balancing({ schedule }: { schedule: Schedule }) {
  const { document, state, act, mayWrite } = useWork("document", "state", "act", "mayWrite");
  const [within, setWithin] = useState(USUAL_A);
  const [told, tell] = useState<Told | null>(null);
  const [fault, setFault] = useState("");
  const [looking, setLooking] = useState(false);
  const ask = (event: SubmitEvent) => {
    event.preventDefault();
    const amperes = Number(within.replace(/\s*a$/i, ""));
    tell(null);
    if (within.trim() === "" || !(amperes >= 0 && amperes <= MOST_A)) {
      setFault(`Within: a number of amperes from 0 to ${MOST_A}.`);
      return;
    }
    setFault("");
    setLooking(true);
    answered(api.POST("/api/panels/balance", { body: { document, state, bus_id: schedule.bus_id, within_a: amperes } }))
      .then((found) => tell({ of: document, found }))
      .catch((failure: unknown) => {
        const issue = failure instanceof ApiFailure ? failure.issues[0] : undefined;
        setFault(issue ? `${issue.reason} ${issue.remedy}` : messageOf(failure));
      })
      .finally(() => setLooking(false));
  };
  const shown = told?.of === document ? told.found : null;
  const take = (moves: Schemas["MoveOut"][]) =>
    act(
      `Balance ${schedule.name}: ${moves.length} moves`,
      moves.flatMap((move) => [
        ...edit(document, state, "devices", move.device_id, "space", move.to_space),
        ...(move.from_half === move.to_half
          ? []
          : edit(document, state, "devices", move.device_id, "half", move.to_half)),
      ]),
    );
  if (!mayWrite) return null;
  return (
    <form onSubmit={ask} aria-label="Balance the legs" className="mt-1">
      <label className="flex flex-wrap items-center gap-2">
        <span className="narrow text-soft">Bring them within</span>
        <input
          inputMode="decimal"
          className="w-14 rounded-sm border border-rule bg-sheet px-1.5 py-0.5 pointer-coarse:min-h-11"
          value={within}
          aria-invalid={fault !== ""}
          onChange={(event) => setWithin(event.target.value)}
        />
        <span className="narrow text-soft">A</span>
        <Button type="submit" disabled={looking}>
          {looking ? "Looking…" : "Find the moves"}
        </Button>
      </label>
      {fault ? (
        <p role="alert" className="text-fix">
          {fault}
        </p>
      ) : null}
      {shown ? (
        <div className="mt-1 border-l-2 border-copper pl-2" data-testid="moves">
          <p role="status">{shown.words}</p>
          <ol className="ml-5 list-decimal">
            {shown.moves.map((move) => (
              <li key={move.device_id}>
                <span dir="auto">{move.name}</span>: space {move.from_space} to {move.to_space}
                {move.lifted ? ", lifted out first" : ""}
              </li>
            ))}
          </ol>
          {shown.moves.length > 0 ? (
            <>
              <p className="narrow text-soft">
                {shown.legs.map((leg) => `${leg.leg} ${leg.before} A, then ${leg.after} A`).join("; ")}.
              </p>
              <Button className="mt-1" onClick={() => take(shown.moves)}>
                Make {shown.moves.length === 1 ? "this move" : "these moves"}
              </Button>
            </>
          ) : null}
          {shown.stay.length > 0 ? (
            <p className="narrow text-soft">Left where they are: {shown.stay.join(", ")}.</p>
          ) : null}
        </div>
      ) : null}
    </form>
  );
}
