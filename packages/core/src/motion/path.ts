// From pairs to a path, and from a path to jitter: what is left when the walker's own slow way is taken out.

/** A quantity along the clip, one value a frame, at an even rate. */
export type Series = Float64Array;

/** Width of the low-pass: half the amplitude of 0.5 Hz passes (−3 dB at 0.5 Hz for the path it keeps). */
export const SIGMA_SEC = 0.265;
/** Frames at either end where the low-pass leans on one side only. */
export const DROPPED_FRAMES = 8;

/** Running sum, from 0: one value more than there are pairs. */
export function runningSum(steps: ArrayLike<number>): Series {
  const sum = new Float64Array(steps.length + 1);
  for (let i = 0; i < steps.length; i++) sum[i + 1] = (sum[i] as number) + (steps[i] as number);
  return sum;
}

/**
 * Local-linear Gaussian low-pass: at each frame the value of the weighted straight line through its surroundings (4 σ either way), so that
 * a steady pan passes whole, at the ends too. Cleveland (1979) with a Gaussian kernel. `rateHz` > 0 frames a second.
 */
export function lowPass(values: Series, rateHz: number, sigmaSec = SIGMA_SEC): Series {
  if (!(rateHz > 0)) throw new RangeError(`rateHz must be above 0, got ${rateHz}`);
  const reach = Math.ceil(4 * sigmaSec * rateHz);
  const weights = Float64Array.from({ length: reach + 1 }, (_, k) => Math.exp(-0.5 * (k / rateHz / sigmaSec) ** 2));
  return values.map((_, i) => {
    let [w, wk, wkk, wv, wkv] = [0, 0, 0, 0, 0];
    for (let j = Math.max(0, i - reach); j <= Math.min(values.length - 1, i + reach); j++) {
      const k = j - i;
      const g = weights[Math.abs(k)] as number;
      const v = values[j] as number;
      w += g;
      wk += g * k;
      wkk += g * k * k;
      wv += g * v;
      wkv += g * k * v;
    }
    const det = w * wkk - wk * wk;
    return det > 1e-12 * w * w ? (wkk * wv - wk * wkv) / det : wv / w;
  });
}

/** Values less their low-pass. */
export function highPass(values: Series, rateHz: number): Series {
  const low = lowPass(values, rateHz);
  return values.map((v, i) => v - (low[i] as number));
}

/**
 * Root mean square about zero over the frames marked in `counted` (all when left out), the first and last 8 left out; null when fewer than
 * 8 frames remain.
 */
export function rmsOf(values: Series, counted?: Uint8Array): number | null {
  let [sum, n] = [0, 0];
  for (let i = DROPPED_FRAMES; i < values.length - DROPPED_FRAMES; i++) {
    if (counted !== undefined && counted[i] === 0) continue;
    sum += (values[i] as number) ** 2;
    n++;
  }
  return n < 8 ? null : Math.sqrt(sum / n);
}

/** A share of the picture's width as an angle about the picture's middle, for a level field of view. Degrees in, degrees out. */
export function degreesOf(frac: number, hfovDeg: number): number {
  if (!(hfovDeg > 0 && hfovDeg < 180)) throw new RangeError(`hfovDeg must lie between 0 and 180, got ${hfovDeg}`);
  return (frac * 2 * Math.tan((hfovDeg * Math.PI) / 360) * 180) / Math.PI;
}

/** Even samples of values at uneven times, by straight lines; as many as the median interval makes. Times in s, rising. */
export function resampled(values: Series, timesSec: Series, rateHz: number): Series {
  const from = timesSec[0] ?? 0;
  const count = Math.max(1, Math.round(((timesSec.at(-1) ?? from) - from) * rateHz) + 1);
  let k = 0;
  return Float64Array.from({ length: count }, (_, i) => {
    const t = from + i / rateHz;
    while (k < timesSec.length - 2 && (timesSec[k + 1] as number) < t) k++;
    const a = timesSec[k] ?? 0;
    const b = timesSec[k + 1] ?? a;
    const u = b > a ? Math.min(1, Math.max(0, (t - a) / (b - a))) : 0;
    const v = values[k] ?? 0;
    return v * (1 - u) + (values[k + 1] ?? v) * u;
  });
}
