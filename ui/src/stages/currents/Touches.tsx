/** What is felt by one who touches two things at once: metal and earth, boxes that stand side by side, or a pair that is named. */
import type { Schemas } from "../../api/client";
import { insert } from "../../core/changes";
import { useWork } from "../../core/context";
import { freshId } from "../../core/document";
import { Button } from "../../kit/Button";

type Study = Schemas["StudyOut"];

const EARTH = "earth";
const FELT: Record<Schemas["TouchOut"]["felt"], string> = {
  unknown: "floats: no volts of its own to tell",
  nothing: "not felt",
  felt: "felt",
  cannot_let_go: "hands may not let go",
  lethal: "danger to life",
};
const SELECT = "max-w-44 rounded-sm border border-rule bg-sheet px-1.5 py-0.5 pointer-coarse:min-h-11";

interface TouchesProps {
  study: Study;
  between: string[];
  onBetween: (pair: string[]) => void;
}

export function Touches({ study, between, onBetween }: TouchesProps) {
  const { document, act, mayWrite } = useWork("document", "act", "mayWrite");
  const [one = "", other = EARTH] = between;
  const sideBySide = (document.reaches ?? []).some(
    (item) =>
      [item.enclosure_a, item.enclosure_b].includes(one) && [item.enclosure_a, item.enclosure_b].includes(other),
  );
  const mark = () => {
    const reach = { id: freshId(document, "side by side"), enclosure_a: one, enclosure_b: other, standing: "existing" };
    act("Stand side by side", [insert("reaches", reach)]);
  };
  return (
    <section aria-label="Touched at once">
      <h3 className="narrow text-soft">Touched at once, with wet hands</h3>
      <ul>
        {study.touches.map((item) => (
          <li key={`${item.a} ${item.b}`} className="flex flex-wrap gap-x-2 border-t border-rule">
            <span dir="auto" className="min-w-0 flex-1">
              {item.name}
            </span>
            {item.volts === null ? null : (
              <span className="tabular-nums">
                {item.volts} V, {item.milliamperes} mA
              </span>
            )}
            <span
              className={
                item.felt === "lethal" || item.felt === "cannot_let_go" ? "font-semibold text-fix" : "text-soft"
              }
            >
              {FELT[item.felt]}
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-1 flex flex-wrap items-center gap-2">
        <select
          aria-label="One hand on"
          className={SELECT}
          value={one}
          onChange={(event) => onBetween(event.target.value ? [event.target.value, other] : [])}
        >
          <option value="">choose what is touched</option>
          {study.boxes.map((box) => (
            <option key={box.id} value={box.id}>
              {box.name}
            </option>
          ))}
        </select>
        {one ? (
          <select
            aria-label="The other one on"
            className={SELECT}
            value={other}
            onChange={(event) => onBetween([one, event.target.value])}
          >
            <option value={EARTH}>feet on the earth</option>
            {study.boxes
              .filter((box) => box.id !== one)
              .map((box) => (
                <option key={box.id} value={box.id}>
                  {box.name}
                </option>
              ))}
          </select>
        ) : null}
        {mayWrite && one && other !== EARTH && !sideBySide ? (
          <Button kind="quiet" onClick={mark}>
            They stand side by side
          </Button>
        ) : null}
      </p>
      <p className="narrow text-soft">
        A caution, no license: 1000 Ω from hand to hand, 2000 Ω to the feet in shoes. Bodies, skin and ground differ
        without end.
      </p>
    </section>
  );
}
