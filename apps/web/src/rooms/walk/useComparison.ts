// The setups of a move compared, in a worker.

import type { MoveComparison, SetupRow, WalkPlan } from "@keep-rolling/core/walks";
import { useEffect, useState } from "react";
import { isAbandoned, pool } from "../../workers/pool.ts";

/** Undefined while it is compared for the first time; null where that failed. */
export function useComparison(plan: WalkPlan | null, rows: readonly SetupRow[]): MoveComparison | null | undefined {
  const [found, setFound] = useState<{ asked: string; comparison: MoveComparison | null } | null>(null);
  const asked = JSON.stringify({ plan, rows });
  useEffect(() => {
    if ((JSON.parse(asked) as { plan: WalkPlan | null }).plan === null) return;
    const stop = new AbortController();
    pool.call("compareMove", JSON.parse(asked) as { plan: WalkPlan; rows: SetupRow[] }, { signal: stop.signal }).then(
      (comparison) => setFound({ asked, comparison }),
      (error: unknown) => void (isAbandoned(error) || stop.signal.aborted || setFound({ asked, comparison: null })),
    );
    return () => stop.abort();
  }, [asked]);
  return found?.asked === asked ? found.comparison : undefined;
}
