/** Links by which others read this job: made for so many days, shown once, closed again at any time. */
import { useCallback, useEffect, useState, type SyntheticEvent } from "react";
import { answered, api, messageOf, type Schemas } from "../api/client";
import { Button } from "../kit/Button";
import { Window } from "../kit/Window";

type Line = Schemas["SharedLinkLine"];

const BOX = "min-h-9 rounded-sm border border-rule bg-paper px-2 pointer-coarse:min-h-11";

export function ShareWindow({ jobId, open, onClose }: { jobId: string; open: boolean; onClose: () => void }) {
  return (
    <Window title="Share for reading" open={open} onClose={onClose}>
      <Links jobId={jobId} />
    </Window>
  );
}

function Links({ jobId }: { jobId: string }) {
  const [links, setLinks] = useState<Line[] | null>(null);
  const [made, setMade] = useState("");
  const [fault, setFault] = useState("");
  const told = useCallback((failure: unknown) => setFault(messageOf(failure)), []);
  const path = { params: { path: { job_id: jobId } } };
  const read = useCallback(() => {
    answered(api.GET("/api/jobs/{job_id}/links", { params: { path: { job_id: jobId } } })).then(
      (list) => setLinks(list.links),
      told,
    );
  }, [jobId, told]);
  useEffect(read, [read]);
  const share = (days: number, meantFor: string) => {
    setFault("");
    answered(api.POST("/api/jobs/{job_id}/links", { ...path, body: { days, meant_for: meantFor } })).then(
      ({ token }) => {
        setMade(`${window.location.origin}/shared#${token}`);
        read();
      },
      told,
    );
  };
  const revoke = (link: Line) => {
    answered(
      api.DELETE("/api/jobs/{job_id}/links/{link_id}", { params: { path: { job_id: jobId, link_id: link.id } } }),
    ).then((list) => setLinks(list.links), told);
  };
  return (
    <>
      <p className="mb-3 text-soft">
        Whoever has a link reads this job and its papers, the newest state too, and changes nothing. Making and closing
        one is kept in the history of the shop.
      </p>
      <NewLink onShare={share} />
      {made ? (
        <p role="status" className="mt-3 border-l-4 border-copper bg-paper p-3">
          Hand this link over:
          <input
            aria-label="Link to this job"
            className={`${BOX} mt-1 w-full`}
            readOnly
            value={made}
            onFocus={(event) => event.target.select()}
          />
          <span className="narrow text-soft">It is shown this once.</span>
        </p>
      ) : null}
      {fault ? (
        <p role="alert" className="mt-3 text-fix">
          {fault}
        </p>
      ) : null}
      {links?.length === 0 ? <p className="mt-4 text-soft">No link was made to this job.</p> : null}
      <ul className="mt-4" aria-label="Links">
        {links?.map((link) => (
          <li key={link.id} className="flex items-center gap-3 border-t border-rule py-1.5">
            <span className="min-w-0 flex-1">
              <span dir="auto" className="font-semibold">
                {link.meant_for || "whoever has it"}
              </span>{" "}
              <span className="narrow text-soft">by {link.made_by}</span>
            </span>
            <span className="narrow text-soft">{standing(link)}</span>
            {link.open ? (
              <Button kind="quiet" aria-label={`Close the link for ${link.meant_for}`} onClick={() => revoke(link)}>
                Close it
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
    </>
  );
}

function standing(link: Line): string {
  const day = new Date(link.expires_at).toLocaleDateString();
  if (link.revoked) return "closed";
  return link.open ? `open until ${day}` : `expired ${day}`;
}

function NewLink({ onShare }: { onShare: (days: number, meantFor: string) => void }) {
  const [days, setDays] = useState("14");
  const [meantFor, setMeantFor] = useState("");
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    onShare(Number(days), meantFor.trim());
    setMeantFor("");
  };
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
      <label className="min-w-40 flex-1">
        For whom
        <input
          className={`${BOX} mt-0.5 block w-full`}
          maxLength={80}
          placeholder="inspector, owner, general contractor"
          value={meantFor}
          onChange={(event) => setMeantFor(event.target.value)}
        />
      </label>
      <label>
        Days
        <input
          type="number"
          min={1}
          max={365}
          required
          className={`${BOX} mt-0.5 block w-24`}
          value={days}
          onChange={(event) => setDays(event.target.value)}
        />
      </label>
      <Button type="submit" kind="main" className="min-h-9">
        Make a link
      </Button>
    </form>
  );
}
