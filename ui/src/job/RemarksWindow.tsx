/** What reviewers and others remark on the job: a stream of its own, beside the findings and never among them. */
import { useEffect, useState, type SyntheticEvent } from "react";
import { answered, api, messageOf, type Schemas } from "../api/client";
import { useWork } from "../core/context";
import { Button } from "../kit/Button";
import { Window } from "../kit/Window";

type Remark = Schemas["RemarkLine"];

export function RemarksWindow(props: { jobId: string; mayRemark: boolean; open: boolean; onClose: () => void }) {
  return (
    <Window title="Remarks" open={props.open} onClose={props.onClose}>
      <Remarks jobId={props.jobId} mayRemark={props.mayRemark} />
    </Window>
  );
}

function Remarks({ jobId, mayRemark }: { jobId: string; mayRemark: boolean }) {
  const [remarks, setRemarks] = useState<Remark[] | null>(null);
  const [fault, setFault] = useState("");
  useEffect(() => {
    answered(api.GET("/api/jobs/{job_id}/remarks", { params: { path: { job_id: jobId } } })).then(
      (list) => setRemarks(list.remarks),
      (failure: unknown) => setFault(messageOf(failure)),
    );
  }, [jobId]);
  const add = async (words: string, about: string) => {
    setFault("");
    const body = { words, about };
    try {
      const list = await answered(
        api.POST("/api/jobs/{job_id}/remarks", { params: { path: { job_id: jobId } }, body }),
      );
      setRemarks(list.remarks);
      return true;
    } catch (failure) {
      setFault(messageOf(failure));
      return false;
    }
  };
  return (
    <>
      <p className="mb-3 text-soft">
        Remarks are what people say of the job. They are no findings, count as none, and none is ever changed.
      </p>
      {mayRemark ? <NewRemark onAdd={add} /> : null}
      {fault ? (
        <p role="alert" className="mt-2 text-fix">
          {fault}
        </p>
      ) : null}
      {remarks?.length === 0 ? <p className="mt-4 text-soft">Nobody has remarked anything yet.</p> : null}
      <ol className="mt-4" aria-label="Remarks">
        {remarks?.toReversed().map((item) => (
          <li key={`${item.at} ${item.author}`} className="border-t border-rule py-2">
            <p className="narrow text-soft">
              {item.author} on revision {item.revision}, {new Date(item.at).toLocaleString()}
              {item.about ? (
                <>
                  {" "}
                  · <span dir="auto">{item.about}</span>
                </>
              ) : null}
            </p>
            <p dir="auto" className="whitespace-pre-wrap">
              {item.words}
            </p>
          </li>
        ))}
      </ol>
    </>
  );
}

function NewRemark({ onAdd }: { onAdd: (words: string, about: string) => Promise<boolean> }) {
  const { document } = useWork("document");
  const [words, setWords] = useState("");
  const [about, setAbout] = useState("");
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    void onAdd(words.trim(), about.trim()).then((added) => {
      if (added) setWords("");
    });
  };
  const names = [...(document.enclosures ?? []), ...(document.sources ?? [])].map((thing) => thing.name);
  return (
    <form onSubmit={submit} className="grid gap-2">
      <label>
        Remark
        <textarea
          className="mt-0.5 block min-h-20 w-full rounded-sm border border-rule bg-paper px-2 py-1"
          required
          maxLength={2000}
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
      </label>
      <div className="flex flex-wrap items-end gap-3">
        <label className="min-w-40 flex-1">
          About (empty: the whole job)
          <input
            list="remarked-things"
            className="mt-0.5 block min-h-9 w-full rounded-sm border border-rule bg-paper px-2 pointer-coarse:min-h-11"
            maxLength={80}
            value={about}
            onChange={(event) => setAbout(event.target.value)}
          />
        </label>
        <datalist id="remarked-things">
          {names.filter(Boolean).map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
        <Button type="submit" kind="main" className="min-h-9">
          Add the remark
        </Button>
      </div>
    </form>
  );
}
