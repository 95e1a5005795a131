/** Who is signed in, and which page is shown. */
import { useCallback, useEffect, useState } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { answered, api, rememberCsrf, type Session, messageOf } from "./api/client";
import { FiguresPage } from "./figures/FiguresPage";
import { JobPage } from "./job/JobPage";
import { JobsPage } from "./jobs/JobsPage";
import { LinkPage } from "./jobs/LinkPage";
import { SharedPage } from "./jobs/SharedPage";
import { SignIn } from "./jobs/SignIn";
import { ShopPage } from "./shop/ShopPage";

type Loaded = { kind: "loading" } | { kind: "failed"; message: string } | { kind: "ready"; session: Session };

const RETRY_MS = 2500;

export function App() {
  const [loaded, setLoaded] = useState<Loaded>({ kind: "loading" });
  const accept = useCallback((session: Session) => {
    rememberCsrf(session.csrf);
    setLoaded({ kind: "ready", session });
  }, []);
  useEffect(() => {
    if (loaded.kind === "ready") return;
    let stopped = false;
    const ask = () =>
      answered(api.GET("/api/session"))
        .then((session) => stopped || accept(session))
        .catch((failure: unknown) => {
          if (stopped) return;
          setLoaded({ kind: "failed", message: messageOf(failure) });
          timer = setTimeout(() => void ask(), RETRY_MS);
        });
    let timer: ReturnType<typeof setTimeout> | undefined;
    void ask();
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
    // Asked once, and again by itself while the server is away.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  if (loaded.kind === "loading") return <p className="p-6">Opening…</p>;
  if (loaded.kind === "failed") return <p className="p-6">{loaded.message} Trying again…</p>;
  const { session } = loaded;
  const token = window.location.pathname === "/link" ? window.location.hash.slice(1) : "";
  const shared = window.location.pathname === "/shared" ? window.location.hash.slice(1) : "";
  if (shared) return <SharedPage token={shared} onOpened={accept} />;
  if (token) return <LinkPage token={token} onSignedIn={accept} />;
  if (!session.member) return <SignIn demo={session.demo} onSignedIn={accept} />;
  const { only_job: onlyJob } = session.member;
  if (onlyJob)
    return (
      <BrowserRouter>
        <Routes>
          <Route path="/jobs/:jobId/:stage?" element={<JobPage />} />
          <Route path="*" element={<Navigate to={`/jobs/${onlyJob}/path`} replace />} />
        </Routes>
      </BrowserRouter>
    );
  return (
    <BrowserRouter>
      <Routes>
        <Route path="/" element={<JobsPage member={session.member} onSignedOut={accept} />} />
        <Route path="/shop" element={<ShopPage mayReadHistory={session.member.may_read_history} />} />
        <Route path="/figures/:name?" element={<FiguresPage />} />
        <Route path="/jobs/:jobId/:stage?" element={<JobPage />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </BrowserRouter>
  );
}
