/** What leaves the office: the permit sheet, and the job as a file. */
import { Glyph } from "../../kit/Glyph";
import { CAUTIONS, OUTCOMES, OUTCOME_WORDS } from "../../core/words";
import { useWork } from "../../core/context";
import { PaperLink } from "./PaperLink";

const PAPERS = [
  ["permit.pdf", "Permit sheet, PDF"],
  ["labels.pdf", "Door labels, PDF"],
  ["bonds.pdf", "Bond cards, PDF"],
  ["signs.pdf", "Signs, PDF"],
  ["application.pdf", "For the utility, PDF"],
  ["export", "Job, JSON"],
  ["export.zip", "Job with its pictures, ZIP"],
] as const;

export function PacketStage({ jobId, saved }: { jobId: string; saved: boolean }) {
  const { report } = useWork("report");
  return (
    <section aria-label="Packet" className="min-h-0 max-w-2xl overflow-auto px-6 py-5">
      <h2 className="wide text-lg font-bold">Permit sheet</h2>
      <p className="mb-3 text-soft">
        One-line, loads, feeder schedule, bonding and grounding, signs, open findings, cautions and panel schedules,
        from the newest saved revision of the proposal.
      </p>
      {report ? (
        <ul className="mb-3 flex flex-wrap gap-4">
          {OUTCOMES.map((outcome) => (
            <li key={outcome} className="flex items-center gap-1">
              <Glyph outcome={outcome} /> {report.counts[outcome]} {OUTCOME_WORDS[outcome]}
            </li>
          ))}
        </ul>
      ) : null}
      {saved ? null : <p className="mb-2 text-advice">The last edits are being saved; the sheet waits for them.</p>}
      <div className="flex flex-wrap gap-2">
        {PAPERS.map(([name, words]) => (
          <PaperLink key={name} href={`/api/jobs/${jobId}/${name}`} words={words} disabled={!saved} boxed />
        ))}
      </div>
      <h2 className="wide mt-8 text-lg font-bold">Not covered yet</h2>
      <p className="text-soft">
        The direct-current side of solar and storage, legally required standby, and spans in free air. Have these judged
        by hand.
      </p>
      <h2 className="wide mt-8 text-lg font-bold">Before the work</h2>
      <ul className="list-disc pl-5">
        {CAUTIONS.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </ul>
    </section>
  );
}
