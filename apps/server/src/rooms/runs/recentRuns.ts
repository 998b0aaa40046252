// What this process last saw of runs under way: a hint, never the truth. Whoever uses it checks the cursor under the run's row
// lock, so several servers on one database stay right; a server that guessed wrong reads again.

import type { Mark } from "@keep-rolling/core/runs";

export interface RecentRun {
  lastSeq: number;
  clockId: string;
  unitId: string;
  marks: readonly Mark[];
}
export interface RecentRuns {
  get(runId: string): RecentRun | undefined;
  set(runId: string, run: RecentRun): void;
  forget(runId: string): void;
  clear(): void;
}

/** Keeps the `max` runs used last. */
export function createRecentRuns(max = 200): RecentRuns {
  const runs = new Map<string, RecentRun>();
  const set = (runId: string, run: RecentRun): void => {
    const known = runs.get(runId);
    // A slower answer must not push a newer one out.
    if (known !== undefined && known.lastSeq > run.lastSeq) return;
    runs.delete(runId);
    runs.set(runId, run);
    const oldest = runs.keys().next().value;
    if (runs.size > max && oldest !== undefined) runs.delete(oldest);
  };
  return { get: (runId) => runs.get(runId), set, forget: (runId) => void runs.delete(runId), clear: () => runs.clear() };
}
