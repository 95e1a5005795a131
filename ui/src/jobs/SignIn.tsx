import { useState, type SyntheticEvent } from "react";
import type { Session } from "../api/client";
import { answered, api, messageOf } from "../api/client";
import { Button } from "../kit/Button";

const INPUT = "mt-0.5 block w-full rounded-sm border border-rule bg-paper px-2 py-1 min-h-11";

export function SignIn({ demo, onSignedIn }: { demo: boolean; onSignedIn: (session: Session) => void }) {
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [fault, setFault] = useState("");

  const attempt = (session: Promise<Session>) =>
    session.then(onSignedIn).catch((failure: unknown) => setFault(messageOf(failure)));
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    void attempt(answered(api.POST("/api/session", { body: { email, password } })));
  };

  return (
    <main className="flex min-h-full items-center justify-center p-4">
      <div className="w-full max-w-sm border-t-4 border-copper bg-sheet p-6">
        <h1 className="wide text-2xl font-extrabold tracking-tight">NELVOR</h1>
        <p className="mb-5 text-soft">
          Feeders and sub-panels designed along the path of the power, with every figure’s working shown.
        </p>
        {demo ? (
          <div className="mb-5 border-b border-rule pb-5">
            <Button
              kind="main"
              className="min-h-11 w-full"
              onClick={() => void attempt(answered(api.POST("/api/session/demo")))}
            >
              Open the demo
            </Button>
            <p className="narrow mt-1 text-soft">
              One click, on this machine only. The sample orchard is ready to change.
            </p>
          </div>
        ) : null}
        <form onSubmit={submit} className="space-y-3">
          <label className="block">
            Email
            <input
              className={INPUT}
              type="email"
              autoComplete="username"
              required
              value={email}
              onChange={(event) => setEmail(event.target.value)}
            />
          </label>
          <label className="block">
            Password
            <input
              className={INPUT}
              type="password"
              autoComplete="current-password"
              required
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
          </label>
          {fault ? (
            <p role="alert" className="text-fix">
              {fault}
            </p>
          ) : null}
          <Button type="submit" className="min-h-11 w-full">
            Sign in
          </Button>
        </form>
      </div>
    </main>
  );
}
