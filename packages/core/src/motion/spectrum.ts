// How often the picture shakes: step and sway, the share of fast shake, and slow drift and swing.

import type { Series } from "./path.ts";

export interface Spectrum {
  hz: Float64Array;
  /** Power per bin; the bins add up to the mean square of what went in. */
  power: Float64Array;
}

const PADDING = 16;

/**
 * Periodogram of one or more series of equal length (their powers added), less their mean, under a Hann window, padded to at least 16 times
 * the length so that a peak is read finely. Scaled so that the bins sum to the mean square (Welch 1967). Even rate; 2 values or more.
 */
export function periodogram(series: readonly Series[], rateHz: number): Spectrum {
  const n = series[0]?.length ?? 0;
  if (n < 2) throw new RangeError(`series must hold 2 values or more, got ${n}`);
  const size = 2 ** Math.ceil(Math.log2(PADDING * n));
  const taper = Float64Array.from({ length: n }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / (n - 1)));
  const gain = taper.reduce((s, w) => s + w * w, 0);
  const half = size / 2;
  const power = new Float64Array(half);
  for (const values of series) {
    const re = new Float64Array(size);
    const im = new Float64Array(size);
    const mean = values.reduce((sum, v) => sum + v, 0) / n;
    for (let i = 0; i < n; i++) re[i] = ((values[i] as number) - mean) * (taper[i] as number);
    transform(re, im);
    for (let k = 1; k < half; k++)
      power[k] = (power[k] as number) + (2 * ((re[k] as number) ** 2 + (im[k] as number) ** 2)) / (gain * size);
  }
  return { hz: Float64Array.from({ length: half }, (_, k) => (k * rateHz) / size), power };
}

/** In-place Fourier transform of a power-of-two length. Cooley and Tukey (1965). */
export function transform(re: Float64Array, im: Float64Array): void {
  const n = re.length;
  if (n === 0 || (n & (n - 1)) !== 0) throw new RangeError(`length must be a power of two, got ${n}`);
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      [re[i], re[j]] = [re[j] as number, re[i] as number];
      [im[i], im[j]] = [im[j] as number, im[i] as number];
    }
  }
  for (let size = 2; size <= n; size <<= 1) {
    const half = size >> 1;
    for (let k = 0; k < half; k++) {
      const angle = (-2 * Math.PI * k) / size;
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      for (let i = k; i < n; i += size) {
        const j = i + half;
        const tr = (re[j] as number) * c - (im[j] as number) * s;
        const ti = (re[j] as number) * s + (im[j] as number) * c;
        re[j] = (re[i] as number) - tr;
        im[j] = (im[i] as number) - ti;
        re[i] = (re[i] as number) + tr;
        im[i] = (im[i] as number) + ti;
      }
    }
  }
}

/** Mean square between two frequencies, both ends included. */
export function bandPower({ hz, power }: Spectrum, fromHz: number, toHz: number): number {
  let sum = 0;
  for (let k = 0; k < hz.length; k++) if ((hz[k] as number) >= fromHz && (hz[k] as number) <= toHz) sum += power[k] as number;
  return sum;
}

/** The highest peak between two frequencies, refined by the parabola through its neighbours; null when power only rises to an end. */
export function peakHz({ hz, power }: Spectrum, fromHz: number, toHz: number): number | null {
  let best = -1;
  for (let k = 1; k < hz.length - 1; k++) {
    const f = hz[k] as number;
    if (f < fromHz || f > toHz || (power[k] as number) < (power[k - 1] as number) || (power[k] as number) < (power[k + 1] as number))
      continue;
    if (best < 0 || (power[k] as number) > (power[best] as number)) best = k;
  }
  if (best < 0) return null;
  const [l, m, r] = [power[best - 1], power[best], power[best + 1]] as [number, number, number];
  const bend = l - 2 * m + r;
  return ((hz[1] as number) - (hz[0] as number)) * (best + (bend < 0 ? (0.5 * (l - r)) / bend : 0));
}
