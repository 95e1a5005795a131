/** The causes that speak most, each with how much, what else it would show, its danger, and its mend in a safe order. */
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../kit/Button";
import { Glyph, type Outcome } from "../../kit/Glyph";

type Cause = Schemas["CauseOut"];

const GLYPHS: Record<Cause["danger"], Outcome> = { none: "holds", wrong: "advice", lethal: "must_fix" };
const WORDS: Record<Cause["danger"], string> = { none: "sound", wrong: "wrong", lethal: "danger to life" };

export function Causes({ causes, onShow }: { causes: Cause[]; onShow: (bonds: Record<string, boolean>) => void }) {
  const [opened, open] = useState<string | null>(null);
  if (causes.length === 0) return null;
  return (
    <ol className="border-t border-rule" aria-label="Causes">
      {causes.map((cause) => (
        <li key={cause.words} className="border-b border-rule" data-cause={cause.kinds.join(" ")}>
          <button
            type="button"
            aria-expanded={opened === cause.words}
            className="grid w-full grid-cols-[1.2rem_minmax(0,1fr)_7rem] items-baseline gap-x-1.5 py-1 text-left hover:bg-touched pointer-coarse:min-h-11"
            onClick={() => open(opened === cause.words ? null : cause.words)}
          >
            <Glyph outcome={GLYPHS[cause.danger]} />
            <span>
              <span className="font-semibold">{cause.words}</span>{" "}
              <span className="narrow text-soft">
                {WORDS[cause.danger]}
                {cause.fits ? "" : "; does not give all readings"}
              </span>
            </span>
            <Share share={cause.share} />
          </button>
          {opened === cause.words ? <Detail cause={cause} onShow={onShow} /> : null}
        </li>
      ))}
    </ol>
  );
}

function Share({ share }: { share: number }) {
  const percent = Math.round(share * 100);
  return (
    <span className="flex items-center justify-end gap-1.5 tabular-nums">
      <svg viewBox="0 0 60 8" className="w-15" aria-hidden="true">
        <rect width={60} height={8} fill="var(--rule)" />
        <rect width={60 * share} height={8} fill="var(--copper)" />
      </svg>
      {percent < 1 ? "< 1" : percent} %
    </span>
  );
}

function Detail({ cause, onShow }: { cause: Cause; onShow: (bonds: Record<string, boolean>) => void }) {
  return (
    <div className="pb-2 pl-6">
      <p>{cause.sentences.join(" ")}</p>
      {cause.worst ? (
        <p className="narrow text-soft">
          Least well given: {cause.worst.words}, read {cause.worst.read} {cause.worst.unit}, it would be{" "}
          {cause.worst.expected} {cause.worst.unit}.
        </p>
      ) : null}
      {cause.would_show.length > 0 ? (
        <>
          <h4 className="narrow mt-1.5 text-soft">Would also show</h4>
          <ul className="list-disc pl-5">
            {cause.would_show.map((item) => (
              <li key={item}>{item}</li>
            ))}
          </ul>
        </>
      ) : null}
      {cause.mend.length > 0 ? (
        <>
          <h4 className="narrow mt-1.5 text-soft">The mend, in this order</h4>
          <ol className="list-decimal pl-5">
            {cause.mend.map((item) => (
              <li key={item}>{item}</li>
            ))}
          </ol>
        </>
      ) : null}
      {Object.keys(cause.bonds).length > 0 ? (
        <p className="mt-1.5">
          <Button onClick={() => onShow(cause.bonds)}>Show it on the rails</Button>
        </p>
      ) : null}
    </div>
  );
}
