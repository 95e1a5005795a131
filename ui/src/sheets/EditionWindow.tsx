/** What another edition would change of the job, shown before it is accepted. */
import { answered, api, type Schemas } from "../api/client";
import { Button } from "../kit/Button";
import { Glyph } from "../kit/Glyph";
import { Window } from "../kit/Window";
import { useWork } from "../core/context";
import { useAnswer } from "../core/useAnswer";

type Change = Schemas["EditionChangeOut"];

export function EditionWindow({
  edition,
  onAccept,
  onClose,
}: {
  edition: string | null;
  onAccept: (edition: string) => void;
  onClose: () => void;
}) {
  return (
    <Window title={`What the ${edition ?? ""} edition changes`} open={edition !== null} onClose={onClose}>
      {edition ? <Preview edition={edition} onAccept={() => onAccept(edition)} onClose={onClose} /> : null}
    </Window>
  );
}

function Preview({ edition, onAccept, onClose }: { edition: string; onAccept: () => void; onClose: () => void }) {
  const { document } = useWork("document");
  const { answer, fault } = useAnswer({ document, edition }, (body, signal) =>
    answered(api.POST("/api/editions/compare", { body, signal })),
  );
  return (
    <>
      {fault ? <p className="text-fix">{fault}</p> : null}
      {!answer && !fault ? <p>Working out both editions…</p> : null}
      {answer ? <Changes change={answer} /> : null}
      <p className="mt-4 flex gap-2">
        <Button kind="main" onClick={onAccept}>
          Use the {edition} edition
        </Button>
        <Button onClick={onClose}>Keep the {document.settings.edition} edition</Button>
      </p>
    </>
  );
}

function Changes({ change }: { change: Change }) {
  if (change.figures.length + change.sections.length + change.findings.length === 0)
    return <p>Nothing of this job changes.</p>;
  return (
    <>
      <h3 className="wide mt-1 border-b border-ink text-xs font-bold uppercase">Figures</h3>
      {change.figures.length === 0 ? <p className="text-soft">None changes.</p> : null}
      <table className="w-full">
        <tbody>
          {change.figures.map((item) => (
            <tr key={`${item.name} ${item.figure}`} className="border-b border-rule">
              <th scope="row" className="narrow pr-2 text-left font-normal">
                {item.name}, {item.figure}
              </th>
              <td className="text-soft">{item.before}</td>
              <td className="px-1">→</td>
              <td className="font-semibold">{item.after}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <h3 className="wide mt-3 border-b border-ink text-xs font-bold uppercase">Findings</h3>
      {change.findings.length === 0 ? <p className="text-soft">None comes or goes.</p> : null}
      <ul>
        {change.findings.map((item) => (
          <li
            key={`${item.change} ${item.name} ${item.text}`}
            className="grid grid-cols-[3.5rem_1.2rem_1fr] items-baseline border-b border-rule"
          >
            <span className="text-soft">{item.change}</span>
            <Glyph outcome={item.outcome} />
            <span>
              <strong>{item.name}:</strong> {item.text} <span className="text-soft">{item.section}</span>
            </span>
          </li>
        ))}
      </ul>
      <h3 className="wide mt-3 border-b border-ink text-xs font-bold uppercase">Sections</h3>
      <p className="text-soft">
        {change.sections.length === 0
          ? "All keep their numbers."
          : change.sections.map((item) => `${item.before} becomes ${item.after}`).join("; ") + "."}
      </p>
    </>
  );
}
