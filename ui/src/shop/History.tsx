/** What was done in the shop, to its jobs and to itself, the newest first. Nothing of it is ever changed. */
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { answered, api, messageOf, type Schemas } from "../api/client";
import { Button } from "../kit/Button";

type Told = Schemas["HistoryOut"];

export function History() {
  const [told, setTold] = useState<Told | null>(null);
  const [fault, setFault] = useState("");
  useEffect(() => {
    answered(api.GET("/api/shop/history")).then(setTold, (failure: unknown) => setFault(messageOf(failure)));
  }, []);
  const older = () => {
    const last = told?.entries.at(-1)?.number;
    if (!told || last === undefined) return;
    answered(api.GET("/api/shop/history/before/{number}", { params: { path: { number: last } } })).then(
      (more) => setTold({ ...more, entries: [...told.entries, ...more.entries] }),
      (failure: unknown) => setFault(messageOf(failure)),
    );
  };
  if (fault) return <p role="alert">{fault}</p>;
  if (!told) return <p>Reading the history…</p>;
  return (
    <>
      <ol className="border-b border-rule" aria-label="History">
        {told.entries.map((entry) => (
          <li key={entry.number} className="grid gap-x-3 border-t border-rule py-1 sm:grid-cols-[11rem_minmax(0,1fr)]">
            <span className="narrow text-soft">{new Date(entry.at).toLocaleString()}</span>
            <span className="min-w-0 break-words">
              <strong>{entry.action}</strong>{" "}
              {entry.job_id ? (
                <Link to={`/jobs/${entry.job_id}/path`} dir="auto" className="text-copper hover:underline">
                  {entry.job}
                </Link>
              ) : null}{" "}
              {entry.detail === entry.job ? null : <span dir="auto">{entry.detail} </span>}
              <span className="narrow text-soft">by {entry.member}</span>
            </span>
          </li>
        ))}
      </ol>
      {told.older ? (
        <Button kind="quiet" className="mt-2" onClick={older}>
          Older ones
        </Button>
      ) : null}
    </>
  );
}
