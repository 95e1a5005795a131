/** Every saved state: compare one with the newest, or bring it back. */
import { useEffect, useState } from "react";
import { answered, api, type Schemas, messageOf } from "../api/client";
import { Button } from "../kit/Button";
import { Window } from "../kit/Window";
import { useWork } from "../core/context";
import { DifferenceLines, type Difference } from "./Differences";

interface RevisionsProps {
  jobId: string;
  onClose: () => void;
  onRestored: () => void;
}

export function RevisionsWindow({ open, ...props }: RevisionsProps & { open: boolean }) {
  return (
    <Window title="Revisions" open={open} onClose={props.onClose}>
      <Revisions {...props} />
    </Window>
  );
}

function Revisions({ jobId, onClose, onRestored }: RevisionsProps) {
  const { mayWrite } = useWork("mayWrite");
  const [list, setList] = useState<Schemas["RevisionList"] | null>(null);
  const [compared, setCompared] = useState<{ number: number; differences: Difference[] } | null>(null);
  const [fault, setFault] = useState("");
  useEffect(() => {
    answered(api.GET("/api/jobs/{job_id}/revisions", { params: { path: { job_id: jobId } } }))
      .then(setList)
      .catch((failure: unknown) => setFault(messageOf(failure)));
  }, [jobId]);

  const older = () => {
    const last = list?.revisions.at(-1)?.number;
    if (!list || last === undefined) return;
    answered(
      api.GET("/api/jobs/{job_id}/revisions/before/{number}", { params: { path: { job_id: jobId, number: last } } }),
    )
      .then((more) => setList({ ...more, revisions: [...list.revisions, ...more.revisions] }))
      .catch((failure: unknown) => setFault(messageOf(failure)));
  };
  const compare = (number: number) =>
    answered(
      api.GET("/api/jobs/{job_id}/revisions/{number}/differences/{other}", {
        params: { path: { job_id: jobId, number, other: list?.head ?? number } },
      }),
    )
      .then((answer) => setCompared({ number, differences: answer.differences }))
      .catch((failure: unknown) => setFault(messageOf(failure)));
  const restore = (number: number) =>
    answered(api.POST("/api/jobs/{job_id}/revisions/{number}/restore", { params: { path: { job_id: jobId, number } } }))
      .then(() => {
        onClose();
        onRestored();
      })
      .catch((failure: unknown) => setFault(messageOf(failure)));

  return (
    <>
      {fault ? <p role="alert">{fault}</p> : null}
      {!list ? <p>Reading…</p> : null}
      <ul>
        {list?.revisions.map((item) => (
          <li key={item.number} className="border-b border-rule py-1">
            <div className="flex items-baseline gap-3">
              <strong className="w-8 text-right">{item.number}</strong>
              <span className="min-w-0 flex-1 truncate">
                {item.summary}
                {item.kind === "sibling" ? " (kept beside another save)" : ""}
              </span>
              <span className="narrow text-soft">
                {item.author}, {new Date(item.created_at).toLocaleString()}
              </span>
              {item.number === list.head ? (
                <span className="narrow text-soft">newest</span>
              ) : (
                <>
                  <Button kind="quiet" onClick={() => void compare(item.number)}>
                    Compare
                  </Button>
                  {mayWrite ? (
                    <Button kind="quiet" onClick={() => void restore(item.number)}>
                      Restore
                    </Button>
                  ) : null}
                </>
              )}
            </div>
            {compared?.number === item.number ? (
              compared.differences.length ? (
                <DifferenceLines differences={compared.differences} />
              ) : (
                <p className="text-soft">No difference to the newest.</p>
              )
            ) : null}
          </li>
        ))}
      </ul>
      {list?.older ? (
        <Button kind="quiet" className="mt-2" onClick={older}>
          Older ones
        </Button>
      ) : null}
    </>
  );
}
