// One body records one run at a time: whether a span lies over another run of it.

import type { RunFold } from "./fold.ts";

/** Ends are exclusive: a run may start when another ends. A void run is none; one under way has no end yet. `but`: the run itself. */
export function overlapsAnother(
  runs: readonly { id: string; fold: Pick<RunFold, "state" | "startMs" | "end" | "setup"> }[],
  { unitId, fromMs, toMs, but }: { unitId: string; fromMs: number; toMs: number; but?: string },
): boolean {
  return runs.some(
    ({ id, fold }) =>
      id !== but &&
      fold.state !== "void" &&
      fold.startMs !== null &&
      fold.setup?.unit.id === unitId &&
      fold.startMs < toMs &&
      fromMs < (fold.end?.hiMs ?? Number.POSITIVE_INFINITY),
  );
}
