/** Deleting a whole job: its name is written to be sure, and what goes with it is told. */
import { useState, type SyntheticEvent } from "react";
import { answered, api, messageOf, type Schemas } from "../api/client";
import { Button } from "../kit/Button";
import { Window } from "../kit/Window";

export function DeleteJob(props: { job: Schemas["JobLine"]; onClose: () => void; onDeleted: () => void }) {
  const { job, onClose, onDeleted } = props;
  const [name, setName] = useState("");
  const [fault, setFault] = useState("");
  const remove = (event: SyntheticEvent) => {
    event.preventDefault();
    answered(api.DELETE("/api/jobs/{job_id}", { params: { path: { job_id: job.id } }, body: { name } })).then(
      onDeleted,
      (failure: unknown) => setFault(messageOf(failure)),
    );
  };
  return (
    <Window title="Delete a job" open onClose={onClose}>
      <form onSubmit={remove} className="grid gap-3">
        <p>
          <strong dir="auto">{job.name}</strong> goes with all its revisions, remarks, links and its log on site.
          Nothing brings it back but a backup. That it was deleted stays in the history of the shop.
        </p>
        <label>
          Write its name to be sure
          <input
            className="mt-0.5 block min-h-11 w-full rounded-sm border border-rule bg-paper px-2"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        {fault ? (
          <p role="alert" className="text-fix">
            {fault}
          </p>
        ) : null}
        <div className="flex gap-3">
          <Button type="submit" kind="main" className="min-h-11" disabled={name !== job.name}>
            Delete it
          </Button>
          <Button kind="quiet" onClick={onClose}>
            Keep it
          </Button>
        </div>
      </form>
    </Window>
  );
}
