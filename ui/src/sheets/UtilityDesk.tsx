/** The desk of the utility is asked what it gives into a fault; its answer is taken over in one step that can be undone. */
import { useId, useState, type SubmitEvent } from "react";
import { answered, api, messageOf, type Schemas } from "../api/client";
import { edit } from "../core/changes";
import { useJobStore } from "../core/context";
import type { Source } from "../core/document";
import { Button } from "../kit/Button";

type Letter = Schemas["LetterOut"];

const FIELD = "w-28 rounded-sm border border-rule bg-sheet px-1.5 py-0.5 pointer-coarse:min-h-11";

export function UtilityDesk({ source }: { source: Source }) {
  const job = useJobStore();
  const told = useId();
  const [open, setOpen] = useState(false);
  const [premises, setPremises] = useState("");
  const [rating, setRating] = useState("200");
  const [letter, setLetter] = useState<Letter | null>(null);
  const [fault, setFault] = useState("");
  if (!job.getState().mayWrite) return null;
  if (!open)
    return (
      <p>
        <Button kind="quiet" onClick={() => setOpen(true)}>
          Ask the desk of the utility
        </Button>
      </p>
    );
  const ask = (event: SubmitEvent) => {
    event.preventDefault();
    if (!source.system) {
      setFault("Choose the system first.");
      return;
    }
    const body = { premises: premises.trim(), system: source.system, service_a: Number(rating) };
    answered(api.POST("/api/utility-desk", { body }))
      .then((answer) => {
        setLetter(answer);
        setFault("");
      })
      .catch((failure: unknown) => {
        setLetter(null);
        setFault(messageOf(failure));
      });
  };
  const take = () => {
    if (!letter) return;
    const { document, state, act, seal } = job.getState();
    const { fault_current_a, transformer_kva, impedance_percent } = letter;
    const facts = { fault_current_a, transformer_kva, impedance_percent };
    act(
      `${source.name || "Utility"}: as its desk tells`,
      Object.entries(facts).flatMap(([field, value]) => edit(document, state, "sources", source.id, field, value)),
    );
    seal();
    setOpen(false);
  };
  return (
    <form onSubmit={ask} aria-label="Desk of the utility" className="space-y-1.5 border-l-2 border-rule py-1 pl-2">
      <label className="flex flex-wrap items-center gap-2">
        <span className="min-w-0 flex-1">Number of the premises</span>
        <input
          className={FIELD}
          inputMode="numeric"
          maxLength={40}
          required
          autoFocus
          aria-describedby={told}
          placeholder="eight digits"
          value={premises}
          onChange={(event) => setPremises(event.target.value)}
        />
      </label>
      <label className="flex flex-wrap items-center gap-2">
        <span className="min-w-0 flex-1">Rating of the service, A</span>
        <input
          className={FIELD}
          type="number"
          min={1}
          max={20000}
          step="any"
          required
          value={rating}
          onChange={(event) => setRating(event.target.value)}
        />
      </label>
      <p id={told} role={fault ? "alert" : undefined} className={fault ? "text-fix" : "narrow text-soft"}>
        {fault || "A stand-in that ships with the program answers: its figures are made up."}
      </p>
      {letter ? (
        <p aria-live="polite">
          <strong>{letter.fault_current_a.toLocaleString("en-US")} A</strong> behind {letter.transformer_kva} kVA,{" "}
          {letter.impedance_percent} %; {letter.reference}, {letter.worked_out_on}, good until {letter.good_until}.
          {letter.simulated ? " Made up: not for real work." : ""}
        </p>
      ) : null}
      <p className="flex flex-wrap gap-2">
        <Button type="submit">Ask</Button>
        {letter ? (
          <Button kind="main" onClick={take}>
            Take it over
          </Button>
        ) : null}
        <Button kind="quiet" onClick={() => setOpen(false)}>
          Close
        </Button>
      </p>
    </form>
  );
}
