/** A figure whose working opens in place: inputs, steps, section, and what would change it. */
import { useEffect, useId, useState, type ReactNode } from "react";
import type { Schemas } from "../api/client";
import { useWork } from "../core/context";
import { Steps } from "../kit/Steps";

type FigureOut = Schemas["FigureOut"];

export function figureText(figure: FigureOut): string {
  if (figure.unit === "AWG/kcmil" || figure.unit === "") return figure.value;
  if (figure.unit === "trade size") return `${figure.value} in`;
  return `${figure.value} ${figure.unit}`;
}

/** One line of a sheet: label, value, and a button that opens the working beneath. */
export function FigureLine({
  label,
  figure,
  gap,
  changed,
  note,
  children,
}: {
  label: string;
  figure?: FigureOut;
  gap?: string;
  changed?: boolean;
  note?: ReactNode;
  children?: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const id = useId();
  return (
    <div className={`border-b border-rule py-1 ${changed ? "bg-touched" : ""}`}>
      <div className="grid grid-cols-[6.2rem_minmax(0,1fr)_auto] items-baseline gap-x-2">
        <span className="narrow text-soft">{label}</span>
        <span className="min-w-0">
          {children ??
            (figure ? <strong className="text-[15px]">{figureText(figure)}</strong> : <em>{gap ?? "none"}</em>)}
          {note ? <span className="narrow ml-2 text-soft">{note}</span> : null}
        </span>
        {figure ? (
          <button
            type="button"
            className="narrow text-copper underline decoration-dotted underline-offset-2 pointer-coarse:min-h-11 pointer-coarse:min-w-11"
            aria-expanded={open}
            aria-controls={id}
            aria-label={`${open ? "close the " : ""}working of ${label}`}
            onClick={() => setOpen(!open)}
          >
            {open ? "close" : "working"}
          </button>
        ) : null}
      </div>
      {open && figure ? <WorkingPanel id={id} figure={figure} /> : null}
    </div>
  );
}

/** The working of a figure, which comes with each report as long as it is open. */
export function WorkingPanel({ id, figure }: { id: string; figure: FigureOut }) {
  const { report, openWorking } = useWork("report", "openWorking");
  const { key } = figure;
  useEffect(() => openWorking(key), [openWorking, key]);
  const working = report?.workings[key];
  return (
    <div id={id} className="narrow mt-1 border-l-2 border-copper pl-2" data-testid="working">
      {working ? (
        <Steps steps={working.steps} changes={working.changes} />
      ) : (
        <p className="text-soft">Reading the working…</p>
      )}
    </div>
  );
}
