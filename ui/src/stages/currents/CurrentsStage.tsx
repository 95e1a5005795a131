/** Where the current flows: choose a position and a situation, play with bonds, and see it on the rails at once. */
import { download } from "../../core/papers";
import { pictureOf } from "../../core/picture";
import { useState } from "react";
import { answered, api, messageOf, type Schemas } from "../../api/client";
import { CAUTIONS } from "../../core/words";
import { useAnswer } from "../../core/useAnswer";
import { useWork } from "../../core/context";
import { Button } from "../../kit/Button";
import { BondRails } from "../bonds/BondRails";
import { PositionBar } from "../PositionBar";
import { Available } from "./Available";
import { Beside } from "./Beside";
import { CurrentTables } from "./CurrentTables";
import { KeptScenarios } from "./KeptScenarios";
import { PlayedWith } from "./PlayedWith";
import { Readings } from "./Readings";
import { Touches } from "./Touches";
import { AT_A_BOX, AS_DESIGNED, SituationForm, isWhole, type Situation } from "./SituationForm";

type Study = Schemas["StudyOut"];

export function CurrentsStage() {
  const { document, site, report, state } = useWork("document", "site", "report", "state");
  const [playing, play] = useState<string | null>(null);
  const [situation, setSituation] = useState<Situation>(AS_DESIGNED);
  const positions = report?.positions ?? [];
  const played = positions.find((item) => item.name === playing) ?? null;
  const body = { document: { ...document }, state, situation, position: played?.name ?? "" };
  const { answer, fault } = useAnswer(body, (asked, signal) =>
    isWhole(situation) ? answered(api.POST("/api/study", { body: asked, signal })) : Promise.resolve(null),
  );
  const toggle = (bondId: string, made: boolean) =>
    setSituation({ ...situation, bonds: { ...situation.bonds, [bondId]: made } });
  const at = (id: string) => AT_A_BOX.has(situation.kind) && setSituation({ ...situation, place: id });
  if (!report || (site.enclosures ?? []).length === 0)
    return <p className="p-6 text-soft">Draw the path first: the circuit is made from it.</p>;
  return (
    <section aria-label="Currents" className="min-h-0 min-w-0 overflow-auto">
      <PositionBar positions={positions} played={played} onPlay={play} />
      <SituationForm situation={situation} onChange={setSituation} />
      <PlayedWith situation={situation} study={answer} onChange={setSituation} />
      <KeptScenarios
        situation={situation}
        position={played?.name ?? ""}
        onChoose={(kept, position) => {
          setSituation(kept);
          play(position || null);
        }}
      />
      {fault ? (
        <p role="alert" className="border-b border-rule px-4 py-2 text-fix">
          {fault}
        </p>
      ) : null}
      {answer && !fault ? <Sentences study={answer} /> : null}
      <BondRails
        site={site}
        report={report}
        played={played}
        selected={situation.place ?? null}
        onSelect={at}
        flow={fault ? null : answer}
        bonds={situation.bonds}
        onToggle={toggle}
      />
      {answer && !fault ? (
        <CurrentTables study={answer}>
          <Touches
            study={answer}
            between={situation.between}
            onBetween={(between) => setSituation({ ...situation, between })}
          />
        </CurrentTables>
      ) : null}
      {answer && !fault ? <Beside study={answer} body={body} /> : null}
      <Available body={{ document: body.document, state, position: body.position }} />
      <Readings body={body} onShow={(bonds) => setSituation({ ...AS_DESIGNED, bonds })} />
      <p className="m-4 flex flex-wrap items-baseline gap-2">
        <Netlist body={body} />
        {answer && !fault ? (
          <Button onClick={() => savePicture(document.name, answer)}>Picture for the customer</Button>
        ) : null}
        {Object.keys(situation.bonds).length > 0 ? (
          <Button onClick={() => setSituation({ ...situation, bonds: {} })}>Bonds as they are</Button>
        ) : null}
      </p>
      <p className="m-4 border-l-4 border-advice bg-sheet px-3 py-1.5">{CAUTIONS.join(" ")}</p>
    </section>
  );
}

/** The rails as they stand with their currents, and what it means in words, as a picture that moves. */
function savePicture(job: string, study: Study): void {
  const drawing = window.document.querySelector<SVGSVGElement>("[data-testid=bond-rails] svg");
  if (!drawing) return;
  const words = [study.sentences.join(" "), CAUTIONS[0] ?? ""];
  const title = `${job}: where the current flows`;
  download("currents.svg", new Blob([pictureOf(drawing, title, words)], { type: "image/svg+xml" }));
}

const DANGER: Record<Study["danger"], string> = {
  none: "border-hold",
  wrong: "border-advice",
  lethal: "border-fix",
};
const DANGER_WORDS: Record<Study["danger"], string> = { none: "", wrong: "Wrong", lethal: "Danger to life" };

function Sentences({ study }: { study: Study }) {
  return (
    <div
      aria-live="polite"
      data-testid="sentences"
      className={`border-b border-l-4 border-b-rule bg-sheet px-4 py-2 ${DANGER[study.danger]}`}
    >
      {DANGER_WORDS[study.danger] ? (
        <strong className={study.danger === "lethal" ? "text-fix" : "text-advice"}>
          {DANGER_WORDS[study.danger]}.{" "}
        </strong>
      ) : null}
      {study.sentences.join(" ")}
    </div>
  );
}

/** The circuit as a file that an independent simulator reads. */
function Netlist({ body }: { body: Schemas["StudyBody"] }) {
  const [fault, setFault] = useState("");
  const save = () => {
    answered(api.POST("/api/study/netlist", { body }))
      .then(({ text }) => {
        download("circuit.cir", new Blob([text], { type: "text/plain" }));
        setFault("");
      })
      .catch((failure: unknown) => setFault(messageOf(failure)));
  };
  return (
    <>
      <Button onClick={save}>Netlist of this circuit</Button>
      {fault ? <span className="text-fix">{fault}</span> : null}
    </>
  );
}
