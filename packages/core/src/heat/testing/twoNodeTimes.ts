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
 * not get there. Its path turns at most once, so each side of the turn is monotone: a hot shell may lift the chip above where it settles.
 * Bisection to 1e-9 s relative.
 */
export function secondsToChip(
  body: TwoNodeBody,
  from: TwoNodeState,
  input: TwoNodeInput,
  thresholdC: number,
): { ok: true; sec: number } | { ok: false; reason: "never" } {
  if (from.chipC >= thresholdC) return { ok: true, sec: 0 };
  const chipAt = (sec: number): number => advance(body, from, input, sec).chipC;
  const turn = turnSec(body, from, input);
  if (turn !== null && chipAt(turn) >= thresholdC) return { ok: true, sec: firstAbove(chipAt, 0, turn, thresholdC) };
  if (steadyState(body, input).chipC <= thresholdC) return { ok: false, reason: "never" };
  const lo = turn ?? 0;
  let hi = lo + 60;
  while (chipAt(hi) < thresholdC) hi = lo + 2 * (hi - lo);
  return { ok: true, sec: firstAbove(chipAt, lo, hi, thresholdC) };
}

/** When the chip's path turns from rising to falling or back; null: it never does. */
function turnSec(body: TwoNodeBody, from: TwoNodeState, input: TwoNodeInput): number | null {
  const m = modesOf(body);
  const end = steadyState(body, input);
  const along = (shift: number): number => (m.a - shift) * (from.chipC - end.chipC) + m.b * (from.shellC - end.shellC);
  // The two exponentials of the path have equal and opposite slopes there.
  const ratio = (m.fastPerSec * along(m.slowPerSec)) / (m.slowPerSec * along(m.fastPerSec));
  return ratio > 1 && Number.isFinite(ratio) ? Math.log(ratio) / (m.slowPerSec - m.fastPerSec) : null;
}

function firstAbove(chipAt: (sec: number) => number, from: number, to: number, thresholdC: number): number {
  let [lo, hi] = [from, to];
  for (let i = 0; i < 200 && hi - lo > 1e-9 * hi; i++) {
    const mid = (lo + hi) / 2;
    if (chipAt(mid) < thresholdC) lo = mid;
    else hi = mid;
  }
  return hi;
}
