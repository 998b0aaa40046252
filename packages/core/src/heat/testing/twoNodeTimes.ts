// What two nodes do, asked of their solution: truths that tests and check cases compare with. The application only steps them.

import type { TwoNodeBody, TwoNodeInput, TwoNodeState } from "../twoNode.ts";
import { advance, modesOf, steadyState } from "../twoNode.ts";

/** Time constants in seconds, fast then slow. */
export function timeConstantsSec(body: TwoNodeBody): { fastSec: number; slowSec: number } {
  const m = modesOf(body);
  return { fastSec: -1 / m.fastPerSec, slowSec: -1 / m.slowPerSec };
}

/**
 * Seconds until the chip first reaches `thresholdC` under constant input: 0 when it starts at or above, "never" when it does
 * not get there. Bisection to 1e-9 s relative; assumes the chip rises monotonically, true from any start below steady state.
 */
export function secondsToChip(
  body: TwoNodeBody,
  from: TwoNodeState,
  input: TwoNodeInput,
  thresholdC: number,
): { ok: true; sec: number } | { ok: false; reason: "never" } {
  if (from.chipC >= thresholdC) return { ok: true, sec: 0 };
  if (steadyState(body, input).chipC <= thresholdC) return { ok: false, reason: "never" };
  let [lo, hi] = [0, 60];
  while (advance(body, from, input, hi).chipC < thresholdC) hi *= 2;
  for (let i = 0; i < 200 && hi - lo > 1e-9 * hi; i++) {
    const mid = (lo + hi) / 2;
    if (advance(body, from, input, mid).chipC < thresholdC) lo = mid;
    else hi = mid;
  }
  return { ok: true, sec: hi };
}
