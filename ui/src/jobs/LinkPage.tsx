/** A one-time link: by it one becomes a member of a shop, or chooses a new password. */
import { useEffect, useState, type SyntheticEvent } from "react";
import { answered, api, messageOf, type Schemas, type Session } from "../api/client";
import { Button } from "../kit/Button";

const INPUT = "mt-0.5 block w-full rounded-sm border border-rule bg-paper px-2 py-1 min-h-11";

export function LinkPage({ token, onSignedIn }: { token: string; onSignedIn: (session: Session) => void }) {
  const [opened, setOpened] = useState<Schemas["LinkOpened"] | null>(null);
  const [fault, setFault] = useState("");
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  useEffect(() => {
    answered(api.POST("/api/links/read", { body: { token } })).then(setOpened, (failure: unknown) =>
      setFault(messageOf(failure)),
    );
  }, [token]);
  const use = (event: SyntheticEvent) => {
    event.preventDefault();
    answered(api.POST("/api/links/use", { body: { token, name: name.trim(), password } })).then(
      (session) => {
        window.history.replaceState(null, "", "/");
        onSignedIn(session);
      },
      (failure: unknown) => setFault(messageOf(failure)),
    );
  };
  return (
    <main className="flex min-h-full items-center justify-center p-4">
      <div className="w-full max-w-sm border-t-4 border-copper bg-sheet p-6">
        <h1 className="wide text-2xl font-extrabold tracking-tight">NELVOR</h1>
        {opened ? (
          <form onSubmit={use} className="space-y-3">
            <p className="text-soft">
              {opened.kind === "invitation"
                ? `${opened.made_by} invites you to ${opened.shop} as ${opened.role}.`
                : `${opened.made_by} hands you a link to choose a new password.`}{" "}
              You sign in with <strong>{opened.email}</strong>.
            </p>
            {opened.kind === "invitation" ? (
              <label className="block">
                Your name
                <input
                  className={INPUT}
                  required
                  maxLength={200}
                  autoComplete="name"
                  value={name}
                  onChange={(event) => setName(event.target.value)}
                />
              </label>
            ) : null}
            <label className="block">
              Password, 12 characters or more
              <input
                className={INPUT}
                type="password"
                autoComplete="new-password"
                required
                minLength={12}
                value={password}
                onChange={(event) => setPassword(event.target.value)}
              />
            </label>
            <Button type="submit" kind="main" className="min-h-11 w-full">
              {opened.kind === "invitation" ? "Become a member" : "Take this password"}
            </Button>
          </form>
        ) : null}
        {fault ? (
          <p role="alert" className="mt-3 text-fix">
            {fault}
          </p>
        ) : opened ? null : (
          <p className="text-soft">Opening the link…</p>
        )}
      </div>
    </main>
  );
}
