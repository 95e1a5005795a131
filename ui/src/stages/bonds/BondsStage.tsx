/** Neutral and ground at every enclosure: the decision with its reason, and what is found part by part, to edit. */
import type { Schemas } from "../../api/client";
import { Button } from "../../kit/Button";
import { FigureLine } from "../../sheets/FigureLine";
import { ChoiceField } from "../../kit/Field";
import { ThingField } from "../../sheets/ThingField";
import { find, freshId, type Bond } from "../../core/document";
import { insert } from "../../core/changes";
import { CAUTIONS, DECISION_WORDS, FOUND_WORDS, word } from "../../core/words";
import { useWork } from "../../core/context";
import { Electrodes } from "./Electrodes";

export function BondsStage() {
  const { report, site } = useWork("report", "site");
  const order = (report?.walking_order ?? []).filter((id) => find(site.enclosures, id));
  return (
    <section aria-label="Bonds" className="min-h-0 min-w-0 overflow-auto px-4 py-3">
      <p className="mb-3 border-l-4 border-advice bg-sheet px-3 py-1.5">{CAUTIONS.join(" ")}</p>
      {order.length === 0 ? <p className="text-soft">Draw the path first: every enclosure is decided here.</p> : null}
      <ol className="grid gap-3 xl:grid-cols-2">
        {order.map((id) => {
          const answer = report?.enclosures[id];
          return answer ? <EnclosureBonds key={id} answer={answer} /> : null;
        })}
      </ol>
    </section>
  );
}

function EnclosureBonds({ answer }: { answer: Schemas["EnclosureOut"] }) {
  const { selected, select } = useWork("selected", "select");
  return (
    <li
      className={`border border-rule bg-sheet px-3 py-2 ${selected === answer.id ? "outline-2 outline-copper" : ""}`}
      data-bond-enclosure={answer.id}
    >
      <div className="flex items-baseline justify-between gap-2">
        <h2 dir="auto" className="font-bold">
          <button type="button" className="hover:text-copper" onClick={() => select(answer.id)}>
            {answer.name}
          </button>
        </h2>
        <strong className="whitespace-nowrap" data-decision={answer.decision}>
          {DECISION_WORDS[answer.decision]}
        </strong>
      </div>
      <p>
        {answer.reason} <span className="narrow text-soft">{answer.section}</span>
      </p>
      {answer.parts.length ? (
        <p>
          <span className="text-soft">Parts: </span>
          {answer.parts.join("; ")}.
        </p>
      ) : null}
      {answer.conductors.length ? (
        <p>
          <span className="text-soft">Must be present: </span>
          {answer.conductors.join(", ")}.
        </p>
      ) : null}
      {answer.figures.main_bonding_jumper ? (
        <FigureLine
          label="Bonding jumper"
          figure={answer.figures.main_bonding_jumper}
          note="Cu, where a wire is used"
        />
      ) : null}
      {answer.figures.system_bonding_jumper ? (
        <FigureLine
          label="System bonding jumper"
          figure={answer.figures.system_bonding_jumper}
          note="Cu, where a wire is used"
        />
      ) : null}
      {answer.figures.electrode_conductor ? (
        <FigureLine label="Electrode wire" figure={answer.figures.electrode_conductor} note="Cu" />
      ) : null}
      {answer.figures.electrode_conductor_rods ? (
        <FigureLine label="to rods alone" figure={answer.figures.electrode_conductor_rods} note="Cu" />
      ) : null}
      <h3 className="wide mt-2 text-xs font-bold uppercase">Found: {FOUND_WORDS[answer.found] ?? answer.found}</h3>
      {answer.further_neutrals.map((neutral) => (
        <p key={neutral.part} data-further-neutral={neutral.part}>
          <span dir="auto">{neutral.name}</span>: <strong>{DECISION_WORDS[neutral.decision]}</strong>, found{" "}
          {FOUND_WORDS[neutral.found] ?? neutral.found}. {neutral.reason}{" "}
          <span className="narrow text-soft">{neutral.section}</span>
        </p>
      ))}
      <FoundParts enclosureId={answer.id} />
      <Electrodes enclosureId={answer.id} />
    </li>
  );
}

function FoundParts({ enclosureId }: { enclosureId: string }) {
  const { site, document, state, act, remove, mayWrite } = useWork(
    "site",
    "document",
    "state",
    "act",
    "remove",
    "mayWrite",
  );
  const bars = (site.bars ?? []).filter((bar) => bar.enclosure_id === enclosureId);
  const bonds = (site.bonds ?? []).filter((bond) => bond.enclosure_id === enclosureId);
  const neutral = bars.find((bar) => bar.kind === "neutral");
  const ground = bars.find((bar) => bar.kind === "ground");
  const addBond = (kind: Bond["kind"]) => {
    if (!neutral) return;
    const across = kind === "tied_bars" || kind === "branch_neutral" || kind === "branch_ground";
    const thing = {
      id: freshId(document, `${enclosureId.slice(0, 20)}-${kind.slice(0, 6)}`),
      standing: state === "existing" ? "existing" : "added",
      enclosure_id: enclosureId,
      kind,
      part_a: neutral.id,
      part_b: across && ground ? ground.id : enclosureId,
      made: true,
    };
    act(`Add: ${word(kind).toLowerCase()}`, [insert("bonds", thing)]);
  };
  return (
    <>
      {bars.map((bar) => (
        <ThingField
          key={bar.id}
          kind="yes-no"
          list="bars"
          thing={bar}
          field="insulated"
          label={`${bar.name || bar.kind} insulated`}
        />
      ))}
      {bonds.map((bond) => (
        <div key={bond.id} className="flex items-start gap-1">
          <div className="min-w-0 flex-1">
            <ThingField
              kind="yes-no"
              list="bonds"
              thing={bond}
              field="made"
              label={`${word(bond.kind)}: joins`}
              hint={bond.note || undefined}
            />
          </div>
          {mayWrite ? (
            <Button
              kind="quiet"
              aria-label={`Remove ${word(bond.kind)}`}
              onClick={() => remove("Remove a bond", "bonds", bond.id)}
            >
              Remove
            </Button>
          ) : null}
        </div>
      ))}
      {mayWrite && neutral ? (
        <ChoiceField
          label="Also found"
          list="found"
          field="kind"
          value={null}
          options={["", "screw", "strap", "wire", "tied_bars", "branch_neutral", "branch_ground"].map((value) => ({
            value,
            label: value ? word(value) : "choose what is there",
          }))}
          onChange={(value) => value && addBond(value as Bond["kind"])}
        />
      ) : null}
    </>
  );
}
