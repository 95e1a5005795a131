/** What is looked at closely just now: the workings that are open, counted, since a figure may stand in two places. */
import { useCallback, useMemo, useState } from "react";

export interface Looking {
  workings: string[];
  openWorking: (key: string) => () => void;
}

export function useLooking(): Looking {
  const [counts, setCounts] = useState<ReadonlyMap<string, number>>(new Map());
  const change = useCallback((key: string, by: number) => {
    setCounts((before) => {
      const after = new Map(before);
      const count = (after.get(key) ?? 0) + by;
      if (count > 0) after.set(key, count);
      else after.delete(key);
      return after;
    });
  }, []);
  const openWorking = useCallback(
    (key: string) => {
      change(key, 1);
      return () => change(key, -1);
    },
    [change],
  );
  return useMemo(() => ({ workings: [...counts.keys()].sort(), openWorking }), [counts, openWorking]);
}
