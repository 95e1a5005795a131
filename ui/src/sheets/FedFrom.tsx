/** What feeds a thing, to choose anew. */
import { possibleFeeds } from "../core/feeds";
import { useWork } from "../core/context";
import { ChoiceField } from "../kit/Field";

export function FedFrom({
  runId,
  fedId,
  fromId,
  onFeedFrom,
}: {
  runId: string;
  fedId: string;
  fromId: string;
  onFeedFrom: (runId: string, fromId: string) => void;
}) {
  const { site, mayWrite } = useWork("site", "mayWrite");
  return (
    <div data-feed="">
      <ChoiceField
        label="Fed from"
        list="runs"
        field="from_part"
        value={fromId}
        disabled={!mayWrite}
        options={possibleFeeds(site, fedId).map((item) => ({ value: item.id, label: item.name }))}
        onChange={(value) => value !== null && value !== fromId && onFeedFrom(runId, String(value))}
      />
    </div>
  );
}
