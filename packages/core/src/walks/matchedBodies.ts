// Two bodies compared on the same walk only: takes that one key began together saw the same steps, so each pair's ratio is free of them.

import { quantileOf } from "../statistics/index.ts";
import { levelPosteriors } from "./comparing/levels.ts";
import { togetherWith } from "./session.ts";
import type { MeasuredTake } from "./summary.ts";

export interface MatchedSetup {
  setupId: string;
  pairs: number;
  /** Of the log of the first body's shake over the second's: middle and 90 % interval. */
  log: number;
  low: number;
  high: number;
}
export type MatchedResult = { ok: true; setups: readonly MatchedSetup[] } | { ok: false; reason: "no-pairs" | "no-repeats" };

/** Takes of one move; pairs of a bad take, or of one not measured, are left out. */
export function matchedBodies(takes: readonly MeasuredTake[], first: string, second: string): MatchedResult {
  const good = takes.filter((t) => t.take.bad === null && (t.measures?.jitterRmsFrac ?? 0) > 0);
  const all = good.map((t) => t.take);
  const ratios = new Map<string, number[]>();
  for (const t of good.filter((x) => x.take.unitId === first)) {
    const twin = togetherWith(all, t.take).find((x) => x.unitId === second);
    const other = good.find((x) => x.take === twin);
    if (other === undefined) continue;
    const ratio = Math.log((t.measures?.jitterRmsFrac ?? 1) / (other.measures?.jitterRmsFrac ?? 1));
    ratios.set(t.take.setupId, [...(ratios.get(t.take.setupId) ?? []), ratio]);
  }
  if (ratios.size === 0) return { ok: false, reason: "no-pairs" };
  if ([...ratios.values()].every((r) => r.length < 2)) return { ok: false, reason: "no-repeats" };
  const levels = levelPosteriors([...ratios.values()]);
  const setups = [...ratios].map(([setupId, r], i): MatchedSetup => {
    const density = levels[i]?.density;
    if (density === undefined) throw new RangeError("a level for every setup");
    return { setupId, pairs: r.length, log: quantileOf(density, 0.5), low: quantileOf(density, 0.05), high: quantileOf(density, 0.95) };
  });
  return { ok: true, setups };
}
