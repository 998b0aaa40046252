// The maximum of a concave log likelihood by Newton's method, each step halved until it does not go downhill.

import type { Matrix } from "./linear.ts";
import { dot, solvePositive } from "./linear.ts";

export interface Slope {
  value: number;
  gradient: number[];
  /** Minus the second derivatives; positive definite. */
  information: number[][];
}
export interface Maximum {
  at: number[];
  value: number;
  information: Matrix;
}

const ROUNDS = 200;
const HALVINGS = 40;

/** From `start` until no step is longer than `within`; null when the curve has no maximum to be found. */
export function maximiseConcave(slopeAt: (x: readonly number[]) => Slope, start: readonly number[], within = 1e-9): Maximum | null {
  let at = [...start];
  let here = slopeAt(at);
  for (let round = 0; round < ROUNDS; round++) {
    const step = solvePositive(here.information, here.gradient);
    if (step === null || !step.every(Number.isFinite)) return null;
    const longest = Math.max(0, ...step.map(Math.abs));
    // What a step this short could gain is below the last digit.
    if (longest < within) return { at, value: here.value, information: here.information };
    let share = 1;
    let next = here;
    for (let h = 0; h < HALVINGS; h++, share /= 2) {
      next = slopeAt(at.map((v, i) => v + share * (step[i] as number)));
      if (next.value >= here.value || dot(here.gradient, step) * share < 1e-13 * Math.abs(here.value)) break;
    }
    at = at.map((v, i) => v + share * (step[i] as number));
    here = next;
  }
  return null;
}
