/** The job's log of what was done and found on site: read once, only ever added to. */
import { useCallback, useEffect, useState } from "react";
import { answered, api, type Schemas } from "../api/client";

export type FieldEntry = Schemas["FieldEntry"];

export function useFieldLog(jobId: string) {
  const [entries, setEntries] = useState<FieldEntry[]>([]);
  useEffect(() => {
    let wanted = true;
    answered(api.GET("/api/jobs/{job_id}/field-log", { params: { path: { job_id: jobId } } }))
      .then((told) => wanted && setEntries(told.entries))
      .catch(() => undefined); // without it one begins with none; what is added is told
    return () => {
      wanted = false;
    };
  }, [jobId]);
  const append = useCallback(
    async (added: FieldEntry[]) => {
      const told = await answered(
        api.POST("/api/jobs/{job_id}/field-log", { params: { path: { job_id: jobId } }, body: { entries: added } }),
      );
      setEntries(told.entries);
    },
    [jobId],
  );
  return { entries, append };
}
