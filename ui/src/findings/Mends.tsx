/** The ways to mend a finding, side by side; what each would do, and what else it moves, is told before it is taken. */
import { useEffect, useId, useState } from "react";
import { answered, api, messageOf, type Schemas } from "../api/client";
import { Button } from "../kit/Button";
import { Glyph } from "../kit/Glyph";
import { useWork } from "../core/context";

type Mend = Schemas["MendOut"];
type Effect = Schemas["MendEffectOut"];

export function Mends({ mends }: { mends: Mend[] }) {
  return (
    <ul className="mt-1 space-y-1" aria-label="Ways to mend it">
      {mends.map((mend) => (
        <MendChoice key={mend.label} mend={mend} />
      ))}
    </ul>
  );
}

function MendChoice({ mend }: { mend: Mend }) {
  const { act } = useWork("act");
  const [open, setOpen] = useState(false);
  const id = useId();
  return (
    <li>
      <div className="flex flex-wrap items-center gap-1">
        <Button className="narrow text-left" onClick={() => act(`Mend: ${mend.label}`, mend.operations)}>
          {mend.label}
        </Button>
        <button
          type="button"
          className="narrow px-1 text-soft underline decoration-dotted hover:text-copper pointer-coarse:min-h-11"
          aria-expanded={open}
          aria-controls={id}
          onClick={() => setOpen(!open)}
        >
          what it moves
        </button>
      </div>
      {open ? <EffectOf id={id} mend={mend} /> : null}
    </li>
  );
}

function EffectOf({ id, mend }: { id: string; mend: Mend }) {
  const { document, state } = useWork("document", "state");
  const [told, setTold] = useState<Effect | string | null>(null);
  useEffect(() => {
    let wanted = true;
    answered(api.POST("/api/mends/weigh", { body: { document: { ...document }, state, operations: mend.operations } }))
      .then((effect) => wanted && setTold(effect))
      .catch((failure: unknown) => wanted && setTold(messageOf(failure)));
    return () => {
      wanted = false;
    };
  }, [document, state, mend]);
  return (
    <div id={id} className="narrow mt-1 border-l-2 border-copper pl-2" data-testid="mend-effect">
      {told === null ? <p className="text-soft">Trying it out…</p> : null}
      {typeof told === "string" ? <p role="alert">{told}</p> : null}
      {told !== null && typeof told !== "string" ? <Told effect={told} /> : null}
    </div>
  );
}

const MOST_SHOWN = 12;

function Told({ effect }: { effect: Effect }) {
  const comes = effect.findings.filter((item) => item.change === "comes");
  const goes = effect.findings.filter((item) => item.change === "goes");
  const more = effect.figures.length - MOST_SHOWN;
  return (
    <>
      <ul>
        {effect.changes.map((change) => (
          <li key={change}>{change}</li>
        ))}
      </ul>
      {effect.parts.length > 0 ? (
        <ul aria-label="What is bought">
          {effect.parts.map((part) => (
            <li key={part.words}>
              {part.words}:{" "}
              {part.price === null ? <span className="text-soft">price not known</span> : part.price.toFixed(2)}
            </li>
          ))}
        </ul>
      ) : null}
      {comes.map((item) => (
        <p key={item.name + item.text}>
          <Glyph outcome={item.outcome} /> comes: <strong>{item.name}</strong> {item.text}
        </p>
      ))}
      <p className="text-soft">
        {goes.length === 1 ? "One finding goes" : `${goes.length} findings go`},{" "}
        {comes.length === 0 ? "none comes." : `${comes.length} come.`}
      </p>
      {effect.figures.length > 0 ? (
        <ul aria-label="Figures that change">
          {effect.figures.slice(0, MOST_SHOWN).map((item) => (
            <li key={`${item.name} ${item.figure}`}>
              <span dir="auto">{item.name}</span>, {item.figure}: {item.before} → <strong>{item.after}</strong>
            </li>
          ))}
          {more > 0 ? <li className="text-soft">and {more} more</li> : null}
        </ul>
      ) : (
        <p className="text-soft">No figure changes.</p>
      )}
    </>
  );
}
