// Scatter over the grid: a normal kernel in steps of a twelfth of a stop; what would fall outside is folded onto the end point.

import { STEPS } from "./assumptions.ts";

/** Weights of the offsets -w to w, sum one. @param sd in stops */
export function kernelOf(sd: number): Float64Array {
  const w = Math.ceil(4 * sd * STEPS);
  const kernel = Float64Array.from({ length: 2 * w + 1 }, (_, k) => Math.exp(-0.5 * ((k - w) / STEPS / sd) ** 2));
  const sum = kernel.reduce((a, b) => a + b, 0);
  return kernel.map((v) => v / sum);
}

/** What a value about each point would be, on average. */
export function spread(values: Float64Array, kernel: Float64Array): Float64Array {
  const w = (kernel.length - 1) / 2;
  const last = values.length - 1;
  const about = new Float64Array(values.length);
  for (let j = 0; j <= last; j++) {
    let sum = 0;
    for (let o = -w; o <= w; o++) sum += (kernel[o + w] as number) * (values[Math.min(last, Math.max(0, j + o))] as number);
    about[j] = sum;
  }
  return about;
}

/** Where weights at each point go when each scatters: the transpose of `spread`. */
export function scattered(weights: Float64Array, kernel: Float64Array): Float64Array {
  const w = (kernel.length - 1) / 2;
  const last = weights.length - 1;
  const to = new Float64Array(weights.length);
  for (let j = 0; j <= last; j++)
    for (let o = -w; o <= w; o++) {
      const at = Math.min(last, Math.max(0, j + o));
      to[at] = (to[at] as number) + (kernel[o + w] as number) * (weights[j] as number);
    }
  return to;
}
