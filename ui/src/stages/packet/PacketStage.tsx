/** What leaves the office: the permit sheet, and the job as a file. */
import { Glyph } from "../../kit/Glyph";
import { CAUTIONS, OUTCOMES, OUTCOME_WORDS } from "../../core/words";
import { useWork } from "../../core/context";

const LINK =
  "inline-flex min-h-11 items-center rounded-sm border border-copper px-3 font-semibold text-copper hover:bg-touched aria-disabled:pointer-events-none aria-disabled:opacity-50";

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
        <a className={LINK} aria-disabled={!saved} href={`/api/jobs/${jobId}/permit.pdf`} download>
          Permit sheet, PDF
        </a>
        <a className={LINK} aria-disabled={!saved} href={`/api/jobs/${jobId}/labels.pdf`} download>
          Door labels, PDF
        </a>
        <a className={LINK} aria-disabled={!saved} href={`/api/jobs/${jobId}/bonds.pdf`} download>
          Bond cards, PDF
        </a>
        <a className={LINK} aria-disabled={!saved} href={`/api/jobs/${jobId}/signs.pdf`} download>
          Signs, PDF
        </a>
        <a className={LINK} aria-disabled={!saved} href={`/api/jobs/${jobId}/export`} download>
          Job, JSON
        </a>
      </div>
      <h2 className="wide mt-8 text-lg font-bold">Not covered yet</h2>
      <p className="text-soft">
        Interrupting ratings against the fault current of the Currents stage, connections on the supply side, power
        control, the direct-current side of solar and storage, legally required standby, spans in free air, and
        agricultural buildings with livestock. Have these judged by hand.
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
