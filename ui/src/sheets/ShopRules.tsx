/** The local rules of the shop that this job lacks, and the way to bring them in. */
import { useMemo } from "react";
import { answered, api } from "../api/client";
import { Button } from "../kit/Button";
import { ruleWords } from "../shop/rules";
import { useWork } from "../core/context";
import { useAnswer } from "../core/useAnswer";

export function ShopRules() {
  const { document, act, mayWrite } = useWork("document", "act", "mayWrite");
  // The answer hangs on the job's own amendments alone: it is asked again when they change, not at each edit.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const asked = useMemo(() => ({ document }), [document.amendments]);
  const { answer } = useAnswer(asked, (body, signal) =>
    answered(api.POST("/api/shop/rules/missing", { body, signal })),
  );
  if (!answer || answer.rules.length === 0) return null;
  return (
    <div className="my-1 border-l-4 border-advice py-1 pl-2" data-testid="shop-rules">
      <p>
        The shop keeps {answer.rules.length === 1 ? "a local rule" : `${answer.rules.length} local rules`} that this job
        lacks: {answer.rules.map(ruleWords).join(", ")}.
      </p>
      {mayWrite ? (
        <Button onClick={() => act("Bring in the shop's local rules", answer.operations)}>Bring them in</Button>
      ) : null}
    </div>
  );
}
