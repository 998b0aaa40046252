import type { MoveComparison, SetupRow, WalkPlan } from "@keep-rolling/core/walks";
import { useState } from "react";
import { useComparison } from "./useComparison.ts";
import type { Numbers } from "./useWalk.ts";
import { isWhole } from "./useWalk.ts";

export interface Compared {
  rows: readonly SetupRow[];
  /** Null where they could not be compared. */
  comparison: MoveComparison | null;
}

/**
 * Rows with what is said of them, both of the same moment: those of before stay until all is read and compared again, so that nothing moves
 * twice under a finger. Null: nothing was yet. Of one move and one body: its place on a page has a key of both.
 */
export function useCompared(plan: WalkPlan, rows: readonly SetupRow[], numbers: Numbers): Compared | null {
  const comparison = useComparison(plan, rows);
  const [kept, keep] = useState<Compared | null>(null);
  const now = comparison === undefined || !isWhole(numbers) ? null : { rows, comparison };
  if (now !== null && now.comparison !== kept?.comparison) keep(now);
  return now ?? kept ?? (numbers.trouble === null ? null : { rows, comparison: null });
}
