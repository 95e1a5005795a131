/** Who feeds whom, for drawing and for the choice of another feed. */
import { owners, type Document, type Enclosure } from "./document";

/** The run that feeds an enclosure in the resolved site. */
export function feedingRun(site: Document, enclosureId: string) {
  const owner = owners(site);
  return (site.runs ?? []).find((run) => owner.get(run.to_part) === enclosureId);
}

/** The end of a run away from a place that is drawn at its other end; a source that pushes in is drawn at its start. */
export function otherEnd(run: { from_id: string; to_id: string }, placeId: string): string {
  return run.from_id === placeId ? run.to_id : run.from_id;
}

/** Enclosures and sources that may feed this one: all that it does not feed itself. */
export function possibleFeeds(site: Document, enclosureId: string): { id: string; name: string }[] {
  const owner = owners(site);
  const beneath = new Set([enclosureId]);
  for (let grew = true; grew;) {
    grew = false;
    for (const run of site.runs ?? []) {
      const from = owner.get(run.from_part);
      const to = owner.get(run.to_part);
      if (from && to && beneath.has(from) && !beneath.has(to)) {
        beneath.add(to);
        grew = true;
      }
    }
  }
  const candidates: (Enclosure | { id: string; name?: string })[] = [
    ...(site.sources ?? []),
    ...(site.enclosures ?? []),
  ];
  return candidates
    .filter((item) => !beneath.has(item.id))
    .map((item) => ({ id: item.id, name: item.name || item.id }));
}
