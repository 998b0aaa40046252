// Drift and swing: what moves between 0.1 and 1 Hz, too slow for jitter and too fast for the walker's way.

import type { Series } from "./path.ts";

const LOW_HZ = 0.1;
const HIGH_HZ = 1;
export const LEAST_SEC = 8;

/** Root mean square of the 0.1 to 1 Hz part after a straight line is taken out, by the Fourier sums of the whole length; null below 8 s. */
export function slowBand(values: Series, rateHz: number): number | null {
  const n = values.length;
  if ((n - 1) / rateHz < LEAST_SEC) return null;
  const [mid, mean] = [(n - 1) / 2, values.reduce((a, b) => a + b, 0) / n];
  let [up, across] = [0, 0];
  for (let i = 0; i < n; i++) {
    up += (i - mid) * ((values[i] as number) - mean);
    across += (i - mid) ** 2;
  }
  const rest = values.map((v, i) => v - mean - (up / across) * (i - mid));
  let power = 0;
  for (let k = Math.ceil((LOW_HZ * n) / rateHz); k <= (HIGH_HZ * n) / rateHz; k++) {
    let [re, im] = [0, 0];
    for (let i = 0; i < n; i++) {
      const angle = (2 * Math.PI * k * i) / n;
      re += (rest[i] as number) * Math.cos(angle);
      im += (rest[i] as number) * Math.sin(angle);
    }
    power += (2 * (re * re + im * im)) / (n * n);
  }
  return Math.sqrt(power);
}
