/** What every answer is shown with. */
export function Cautions({ cautions }: { cautions: string[] }) {
  return <p className="narrow mt-4 border-l-4 border-advice py-1 pl-3 text-soft">{cautions.join(" ")}</p>;
}
