/** A job opened by a read-only link: the link is traded for a session that reads this one job. */
import { useEffect, useState } from "react";
import { answered, api, messageOf, type Session } from "../api/client";

export function SharedPage({ token, onOpened }: { token: string; onOpened: (session: Session) => void }) {
  const [fault, setFault] = useState("");
  useEffect(() => {
    let stopped = false;
    answered(api.POST("/api/shared", { body: { token } })).then(
      (session) => {
        if (stopped) return;
        window.history.replaceState(null, "", `/jobs/${session.member?.only_job ?? ""}/path`);
        onOpened(session);
      },
      (failure: unknown) => {
        if (!stopped) setFault(messageOf(failure));
      },
    );
    return () => {
      stopped = true;
    };
  }, [token, onOpened]);
  return (
    <main className="flex min-h-full items-center justify-center p-4">
      <div className="w-full max-w-sm border-t-4 border-copper bg-sheet p-6">
        <h1 className="wide text-2xl font-extrabold tracking-tight">NELVOR</h1>
        {fault ? (
          <p role="alert" className="text-fix">
            {fault}
          </p>
        ) : (
          <p className="text-soft">Opening the job…</p>
        )}
      </div>
    </main>
  );
}
