// The sway ruler: shake on a doubling ruler, so that half as much is the same step everywhere.

import type { Scale } from "../axis/linear.ts";
import { linear } from "../axis/linear.ts";

const LABELS = [0.001, 0.002, 0.003, 0.005, 0.01, 0.02, 0.03, 0.05, 0.1, 0.2, 0.3, 0.5, 1, 2, 3, 5, 10, 20, 30, 50];

export interface SwayRuler {
  at: Scale;
  ticks: readonly number[];
}

/** A ruler over all values (above 0, any unit) with room at its ends; null without values. */
export function swayRuler(values: readonly number[], width: number): SwayRuler | null {
  const known = values.filter((v) => v > 0);
  if (known.length === 0) return null;
  const [least, most] = [Math.min(...known) / 1.35, Math.max(...known) * 1.35];
  const log = linear([Math.log2(least), Math.log2(most)], [0, width]);
  return { at: (v) => log(Math.log2(Math.max(v, 1e-6))), ticks: LABELS.filter((v) => v >= least && v <= most) };
}
