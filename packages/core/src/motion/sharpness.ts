// How sharp each frame is, against the others of its clip, and how wide its edges are in pixels.

import { nthSmallest } from "../statistics/index.ts";
import { blurred } from "./blur.ts";
import type { Luma } from "./luma.ts";

/**
 * Gradient energy over variance of a frame: grows with sharpness, and unlike the variance of the Laplacian it is not led by the noise of
 * compression. No unit; comparable only between frames of one scene. 0 for a frame without contrast.
 */
export function frameSharpness({ width: w, height: h, data }: Luma): number {
  let sum = 0;
  let squares = 0;
  let energy = 0;
  for (let y = 1; y < h - 1; y++)
    for (let x = 1, i = y * w + 1; x < w - 1; x++, i++) {
      const v = data[i] as number;
      const gx = (data[i + 1] as number) - (data[i - 1] as number);
      const gy = (data[i + w] as number) - (data[i - w] as number);
      sum += v;
      squares += v * v;
      energy += gx * gx + gy * gy;
    }
  const n = (w - 2) * (h - 2);
  const variance = n > 0 ? squares / n - (sum / n) ** 2 : 0;
  return variance > 0.25 ? energy / 4 / n / variance : 0;
}

export interface SoftPulse {
  startFrame: number;
  /** Included. */
  endFrame: number;
  /** How far below its surroundings the softest frame lies, as a share of them. */
  depthFrac: number;
  /** Frames from the softest one until it is within 5 % of its surroundings again; null where the clip ends first. */
  recoveryFrames: number | null;
}

const AROUND = 20;
const SOFT = 0.85;
const BACK = 0.95;

/** Runs of frames below 0.85 × the 75th percentile of the 20 frames either side. A focus hunt looks the same. */
export function softPulses(sharpness: ArrayLike<number>): SoftPulse[] {
  const n = sharpness.length;
  const ratio = Float64Array.from({ length: n }, (_, i) => {
    const around: number[] = [];
    for (let j = Math.max(0, i - AROUND); j <= Math.min(n - 1, i + AROUND); j++) around.push(sharpness[j] ?? 0);
    around.sort((a, b) => a - b);
    const level = around[Math.floor(0.75 * (around.length - 1))] as number;
    return level > 0 ? (sharpness[i] as number) / level : 1;
  });
  const pulses: SoftPulse[] = [];
  for (let i = 0; i < n; i++) {
    if ((ratio[i] as number) >= SOFT) continue;
    let [end, softest] = [i, i];
    while (end + 1 < n && (ratio[end + 1] as number) < SOFT) end++;
    for (let j = i; j <= end; j++) if ((ratio[j] as number) < (ratio[softest] as number)) softest = j;
    let back = softest;
    while (back < n && (ratio[back] as number) < BACK) back++;
    pulses.push({
      startFrame: i,
      endFrame: end,
      depthFrac: 1 - (ratio[softest] as number),
      recoveryFrames: back < n ? back - softest : null,
    });
    i = end;
  }
  return pulses;
}

/** Mean of the frames' sharpness over that of the best, 0 to 1: a clip evenly soft has 1 as well. Null without contrast. */
export function sharpnessArea(sharpness: ArrayLike<number>): number | null {
  const values = Array.from(sharpness);
  const best = values.reduce((a, b) => Math.max(a, b), 0);
  return best > 0 ? values.reduce((a, b) => a + b, 0) / values.length / best : null;
}

const FINE_SIGMA = 1;
const WIDE_SIGMA = 2.5;
const EDGE_SHARE = 0.1;
/** A difference over two pixels blurs like a box of 2 px: variance 2² / 12. */
const DIFFERENCE = 1 / 3;
const LEAST_EDGE_PIXELS = 20;
/** Grey² per px² after the wide Gaussian: below it there is no edge to speak of. */
const LEAST_ENERGY = 0.05;

/**
 * Width σ of the frame's edges in px, as if a Gaussian had blurred a step: gradient energy on the strongest tenth of the pixels after a
 * Gaussian of 1.0 px over that after 2.5 px, less what noise adds to each. For a step blurred by σ the ratio is (6.25 + σ²) / (1 + σ²),
 * each with a third of a px² for the difference itself.
 * Null where noise drowns the edges or the ratio fits no width.
 */
export function edgeSigmaPx(image: Luma, blur = blurred): number | null {
  const fine = blur(image, FINE_SIGMA);
  const wide = gradients(blur(image, WIDE_SIGMA));
  const ridge = ridgeOf(wide, image.width);
  const energies = ridge.map((i) => wide.energy[i] as number);
  const least = energies.length === 0 ? 0 : nthSmallest(energies, Math.floor((1 - EDGE_SHARE) * energies.length));
  let [n, sumFine, sumWide] = [0, 0, 0];
  for (const i of ridge) {
    if ((wide.energy[i] as number) < least) continue;
    n++;
    sumFine += energyAt(fine, i);
    sumWide += wide.energy[i] as number;
  }
  if (n < LEAST_EDGE_PIXELS) return null;
  const noise = noiseVariance(image);
  const clean = (sum: number, sigma: number): number => sum / n - noise * gradientOfNoise(sigma);
  const [e1, e2] = [clean(sumFine, FINE_SIGMA), clean(sumWide, WIDE_SIGMA)];
  if (!(e1 > 0 && e2 > LEAST_ENERGY)) return null;
  const ratio = e1 / e2;
  return ratio > 1.02
    ? Math.sqrt(Math.max(0, (WIDE_SIGMA ** 2 + DIFFERENCE - ratio * (FINE_SIGMA ** 2 + DIFFERENCE)) / (ratio - 1)))
    : null;
}

interface Gradients {
  x: Float32Array;
  y: Float32Array;
  energy: Float32Array;
}

/** Pixels whose gradient is the greatest across their edge: where an edge runs. */
function ridgeOf({ x, y, energy }: Gradients, w: number): Float64Array {
  const ridge: number[] = [];
  for (let i = w; i < energy.length - w; i++) {
    const e = energy[i] as number;
    if (e === 0) continue;
    const next = Math.abs(x[i] as number) >= Math.abs(y[i] as number) ? 1 : w;
    if (e >= (energy[i - next] as number) && e > (energy[i + next] as number)) ridge.push(i);
  }
  return Float64Array.from(ridge);
}

/** Energy of both gradients that white noise of variance 1 keeps after a Gaussian of σ: 1 / (4 π σ⁴) in all (central differences, σ ≥ 1). */
const gradientOfNoise = (sigma: number): number => 1 / (4 * Math.PI * sigma ** 4);

/** Of white noise, from the median size of a Laplacian-like difference that any plane passes. Immerkær (1996), with a median for robustness. */
function noiseVariance({ width: w, height: h, data }: Luma): number {
  const sizes = new Float64Array(((h - 1) >> 1) * ((w - 1) >> 1));
  let n = 0;
  for (let y = 1; y < h - 1; y += 2)
    for (let x = 1; x < w - 1; x += 2) {
      const i = y * w + x;
      const above = (data[i - w - 1] as number) - 2 * (data[i - w] as number) + (data[i - w + 1] as number);
      const here = -2 * (data[i - 1] as number) + 4 * (data[i] as number) - 2 * (data[i + 1] as number);
      const below = (data[i + w - 1] as number) - 2 * (data[i + w] as number) + (data[i + w + 1] as number);
      sizes[n++] = Math.abs(above + here + below);
    }
  // The filter's weights have a sum of squares of 36; a normal deviate's median size is 0.6745.
  return sizes.length === 0 ? 0 : (nthSmallest(sizes, sizes.length >> 1) / 0.6745 / 6) ** 2;
}

/** Of one pixel, to the precision of 32 bits. */
function energyAt({ width: w, data }: Luma, i: number): number {
  const gx = 0.5 * ((data[i + 1] as number) - (data[i - 1] as number));
  const gy = 0.5 * ((data[i + w] as number) - (data[i - w] as number));
  return Math.fround(gx * gx + gy * gy);
}

function gradients({ width: w, height: h, data }: Luma): Gradients {
  const g: Gradients = { x: new Float32Array(w * h), y: new Float32Array(w * h), energy: new Float32Array(w * h) };
  for (let y = 3; y < h - 3; y++)
    for (let x = 3, i = y * w + 3; x < w - 3; x++, i++) {
      const gx = 0.5 * ((data[i + 1] as number) - (data[i - 1] as number));
      const gy = 0.5 * ((data[i + w] as number) - (data[i - w] as number));
      g.x[i] = gx;
      g.y[i] = gy;
      g.energy[i] = gx * gx + gy * gy;
    }
  return g;
}
