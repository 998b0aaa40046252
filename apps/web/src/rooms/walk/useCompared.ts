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
 * twice under a finger. Null: nothing was yet.
 * @param of the move and the body: nothing of another one stays
 */
export function useCompared(of: string, plan: WalkPlan, rows: readonly SetupRow[], numbers: Numbers): Compared | null {
  const comparison = useComparison(plan, rows);
  const [held, hold] = useState<(Compared & { of: string }) | null>(null);
  const kept = held?.of === of ? held : null;
  const now = comparison === undefined || !isWhole(numbers) ? null : { of, rows, comparison };
  if (now !== null && now.comparison !== kept?.comparison) hold(now);
  return now ?? kept ?? (numbers.trouble === null ? null : { rows, comparison: null });
}
