// The time constant of a body's heat ledger, fitted from its own log: how much runtime came back after each rest. One constant for heating and
// cooling, as in the ledger; every cell's recoveries together, each against the cold time of its own cell. Until they say enough, the
// protocol's stands. The slow end of the range is taken: it leaves more heat in the body and asks for longer rests.

import { typicalOf } from "../cells/index.ts";
import type { CandidateRun } from "../cells/index.ts";
import { cellKey } from "../kit/index.ts";
import { eligible, groupCells } from "../cells/index.ts";
import { leastOver, recoveriesOf, restsDiffer, shareAfterRest } from "./recoveries.ts";

export type TimeConstant =
  | { by: "recoveries"; tauMin: number; rangeMin: { lo: number; hi: number }; runIds: string[] }
  | { by: "protocol"; tauMin: number; because: "too-few-recoveries" | "one-rest" | "range-too-wide" };

/** One constant from fewer recoveries than these would follow a single day's air. */
export const LEAST_RECOVERIES = 3;
/** A range whose ends differ by more says no more than a default does. */
export const RANGE_MOST = 3;

/** Whole minutes, rounded up. Candidates of one unit on one clock; `protocolMin`: what stands without a fit. `RangeError` unless positive. */
export function timeConstantOf(candidates: readonly CandidateRun[], protocolMin: number): TimeConstant {
  if (!(protocolMin > 0)) throw new RangeError(`protocolMin must be positive, got ${protocolMin}`);
  const none = (because: (TimeConstant & { by: "protocol" })["because"]): TimeConstant => ({
    by: "protocol",
    tauMin: protocolMin,
    because,
  });
  if (!candidates.some((c) => c.fold.setup?.runKind === "recovery")) return none("too-few-recoveries");
  const cold = new Map(groupCells(candidates).map(({ key, runs }) => [key, coldSecOf(runs)]));
  const points = recoveriesOf(candidates, ({ fold }) => (fold.setup === null ? null : (cold.get(cellKey(fold.setup)) ?? null)));
  const used = points.filter((p) => p.event === 1);
  if (used.length < LEAST_RECOVERIES) return none("too-few-recoveries");
  if (!restsDiffer(used)) return none("one-rest");
  const { range } = leastOver(used, protocolMin * 60, (p, tau) => shareAfterRest(p.restSec, p.coldSec, tau, tau));
  if (range.hi > RANGE_MOST * range.lo) return none("range-too-wide");
  const minutes = { lo: Math.floor(range.lo / 60), hi: Math.ceil(range.hi / 60) };
  return { by: "recoveries", tauMin: minutes.hi, rangeMin: minutes, runIds: used.map((p) => p.runId) };
}

function coldSecOf(runs: readonly CandidateRun[]): number | null {
  const { counted } = eligible(runs, "shutdown");
  return typicalOf({ records: counted.map((c) => ({ runId: c.runId, timeSec: c.timeMs.lo / 1000, event: c.event })) });
}

/** For people: where the constant comes from. */
export function timeConstantWords(t: TimeConstant): string {
  if (t.by === "recoveries")
    return `${t.tauMin} min, the slow end of ${t.rangeMin.lo} to ${t.rangeMin.hi} min fitted from ${t.runIds.length} recoveries`;
  return `${t.tauMin} min, a default`;
}
