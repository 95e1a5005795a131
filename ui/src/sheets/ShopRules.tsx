/** The local rules of the shop that this job lacks, and the way to bring them in. */
import { useMemo, useState } from "react";
import { answered, api, messageOf } from "../api/client";
import { Button } from "../kit/Button";
import { ruleWords } from "../shop/rules";
import { useDerived, useJobStore, useWork } from "../core/context";
import { useAnswer } from "../core/useAnswer";

export function ShopRules() {
  const job = useJobStore();
  const { act, mayWrite } = useWork("act", "mayWrite");
  const amendments = useDerived(({ document }) => document.amendments);
  const asked = useMemo(() => ({ amendments: amendments ?? [] }), [amendments]);
  const { answer } = useAnswer(asked, (body, signal) =>
    answered(api.POST("/api/shop/rules/missing", { body, signal })),
  );
  const [fault, setFault] = useState("");
  const bringIn = () => {
    setFault("");
    answered(api.POST("/api/shop/rules/bring-in", { body: { document: job.getState().document } }))
      .then(({ operations }) => act("Bring in the shop's local rules", operations))
      .catch((failure: unknown) => setFault(messageOf(failure)));
  };
  if (!answer || answer.rules.length === 0) return null;
  return (
    <div className="my-1 border-l-4 border-advice py-1 pl-2" data-testid="shop-rules">
      <p>
        The shop keeps {answer.rules.length === 1 ? "a local rule" : `${answer.rules.length} local rules`} that this job
        lacks: {answer.rules.map(ruleWords).join(", ")}.
      </p>
      {mayWrite ? <Button onClick={bringIn}>Bring them in</Button> : null}
      {fault ? (
        <p role="alert" className="text-fix">
          {fault}
        </p>
      ) : null}
    </div>
  );
}
