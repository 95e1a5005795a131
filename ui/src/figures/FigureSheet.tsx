/** The answer of a quick figure: the value first, what was judged beside it, the figures on the way, the working. */
import type { Schemas } from "../api/client";
import { figureText } from "../sheets/FigureLine";
import { Glyph } from "../kit/Glyph";
import { Steps } from "../kit/Steps";

type Answer = Schemas["FigureAnswer"];

export function FigureSheet({ answer, stale }: { answer: Answer; stale: boolean }) {
  return (
    <div className={stale ? "opacity-50" : ""} data-figure={answer.name} data-stale={stale}>
      <p className="flex flex-wrap items-baseline gap-x-3 border-b-2 border-ink pb-1">
        <strong className="wide text-3xl" data-testid="figure-value">
          {figureText({ ...answer, key: "" })}
        </strong>
        <span className="narrow text-soft">
          {answer.section} · {answer.signature.edition} rules
        </span>
      </p>
      <ul className="mt-2 space-y-1">
        {answer.remarks.map((remark) => (
          <li key={remark.text} className="grid grid-cols-[1.2rem_minmax(0,1fr)] items-baseline">
            {remark.outcome === "note" ? <span className="text-soft">–</span> : <Glyph outcome={remark.outcome} />}
            <span className={remark.outcome === "note" ? "text-soft" : ""}>
              {remark.text} <span className="narrow text-soft">{remark.section}</span>
            </span>
          </li>
        ))}
      </ul>
      {Object.keys(answer.others).length ? (
        <dl className="mt-3 grid grid-cols-[minmax(0,1fr)_auto] gap-x-4 border-t border-rule pt-1">
          {Object.entries(answer.others).map(([label, figure]) => (
            <div key={label} className="contents">
              <dt className="narrow text-soft first-letter:uppercase">{label}</dt>
              <dd className="text-right font-semibold">{figureText(figure)}</dd>
            </div>
          ))}
        </dl>
      ) : null}
      <h3 className="wide mt-4 border-b border-ink text-xs font-bold uppercase">Working</h3>
      <div className="narrow mt-1 border-l-2 border-copper pl-2" data-testid="working">
        <Steps steps={answer.steps} changes={answer.changes} />
      </div>
    </div>
  );
}
