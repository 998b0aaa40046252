// Where too few points can be followed: the whole picture at once. A similarity with gain and offset of brightness through the pixels
// of the strongest gradients, by Gauss–Newton with Tukey's weights, on a quarter and then a half of the size.

import { solvePositive } from "../statistics/index.ts";
import type { Luma, Pyramid } from "./luma.ts";
import { tukey } from "./similarity.ts";
import type { Similarity } from "./similarity.ts";

const MOST_PIXELS = 12_000;
const ITERATIONS = 12;
const TUKEY_SIGMAS = 4;
const UNKNOWNS = 6;
/** Grey levels of noise below which the weights would chase rounding. */
const LEAST_SIGMA = 1;

/**
 * Refines `start` (in pixels of the full frame, about its centre); null when the picture has no texture or the equations have no solution.
 */
export function denseSimilarity(from: Pyramid, to: Pyramid, start: Similarity): Similarity | null {
  let s: Similarity | null = start;
  for (const level of [2, 1]) {
    const scale = 1 << level;
    const scaled: Similarity = { ...s, tx: s.tx / scale, ty: s.ty / scale };
    s = refine(from[level] as Luma, to[level] as Luma, scaled);
    if (s === null) return null;
    s = { ...s, tx: s.tx * scale, ty: s.ty * scale };
  }
  return s;
}

/** The same on one level, in its own pixels. */
export function refine(from: Luma, to: Luma, start: Similarity): Similarity | null {
  const picked = strongestGradients(from);
  if (picked.length < 100) return null;
  let s = start;
  let [gain, offset] = [1, 0];
  const [cx, cy] = [(from.width - 1) / 2, (from.height - 1) / 2];
  const errors = new Float64Array(picked.length);
  for (let k = 0; k < ITERATIONS; k++) {
    const used = readErrors(from, to, picked, s, gain, offset, errors);
    if (used.length < picked.length / 5) return null;
    const sizes = used.map((i) => Math.abs(errors[i] as number)).sort((a, b) => a - b);
    const sigma = Math.max(LEAST_SIGMA, 1.48 * (sizes[sizes.length >> 1] ?? 0));
    const step = solveStep(from, picked, used, errors, TUKEY_SIGMAS * sigma, cx, cy);
    if (step === null) return null;
    const [da, db, dtx, dty, dgain, doffset] = step as [number, number, number, number, number, number];
    s = composedWithInverse(s, da, db, dtx, dty);
    gain += dgain;
    offset += doffset;
    if (Math.hypot(dtx, dty) < 0.003 && Math.hypot(da, db) * cx < 0.003) break;
  }
  return s;
}

/** Indices of up to 12,000 pixels, the strongest gradients first chosen by a histogram of their squares' logarithms. */
function strongestGradients(image: Luma): Int32Array {
  const { width: w, height: h, data } = image;
  const strength = new Float32Array(w * h);
  const histogram = new Int32Array(BINS);
  for (let y = 2; y < h - 2; y++)
    for (let x = 2; x < w - 2; x++) {
      const i = y * w + x;
      const gx = (data[i + 1] as number) - (data[i - 1] as number);
      const gy = (data[i + w] as number) - (data[i - w] as number);
      const g = gx * gx + gy * gy;
      if (g <= LEAST_GRADIENT) continue;
      strength[i] = g;
      const bin = binOf(g);
      histogram[bin] = (histogram[bin] as number) + 1;
    }
  let [bin, count] = [BINS - 1, 0];
  while (bin > 0 && count + (histogram[bin] as number) <= MOST_PIXELS) count += histogram[bin--] as number;
  const picked: number[] = [];
  for (let i = 0; i < strength.length; i++) if ((strength[i] as number) > 0 && binOf(strength[i] as number) >= bin) picked.push(i);
  return Int32Array.from(picked.slice(0, MOST_PIXELS + (histogram[bin] ?? 0)));
}

const BINS = 256;
const LEAST_GRADIENT = 4;
const binOf = (g: number): number => Math.min(BINS - 1, Math.floor(16 * Math.log2(g)));

/** Errors gain·from + offset − to at the moved place; answers which of the picked pixels stay inside. */
function readErrors(from: Luma, to: Luma, picked: Int32Array, s: Similarity, gain: number, offset: number, errors: Float64Array): number[] {
  const { width: w, height: h } = from;
  const [cx, cy] = [(w - 1) / 2, (h - 1) / 2];
  const used: number[] = [];
  for (let n = 0; n < picked.length; n++) {
    const i = picked[n] as number;
    const [px, py] = [(i % w) - cx, Math.floor(i / w) - cy];
    const qx = s.a * px - s.b * py + s.tx + cx;
    const qy = s.b * px + s.a * py + s.ty + cy;
    const [x0, y0] = [Math.floor(qx), Math.floor(qy)];
    if (x0 < 0 || y0 < 0 || x0 + 1 >= w || y0 + 1 >= h) continue;
    const [fx, fy, j] = [qx - x0, qy - y0, y0 * w + x0];
    const top = (to.data[j] as number) * (1 - fx) + (to.data[j + 1] as number) * fx;
    const low = (to.data[j + w] as number) * (1 - fx) + (to.data[j + w + 1] as number) * fx;
    errors[n] = top * (1 - fy) + low * fy - (gain * (from.data[i] as number) + offset);
    used.push(n);
  }
  return used;
}

/** The step of the template's own warp (inverse compositional), and of gain and offset. */
function solveStep(
  from: Luma,
  picked: Int32Array,
  used: readonly number[],
  errors: Float64Array,
  cut: number,
  cx: number,
  cy: number,
): number[] | null {
  const { width: w, data } = from;
  const gram = new Float64Array(UNKNOWNS * UNKNOWNS);
  const right = new Float64Array(UNKNOWNS);
  const j = new Float64Array(UNKNOWNS);
  for (const n of used) {
    const e = errors[n] as number;
    const weight = tukey(Math.abs(e), cut);
    if (weight === 0) continue;
    const i = picked[n] as number;
    const px = (i % w) - cx;
    const py = Math.floor(i / w) - cy;
    const gx = ((data[i + 1] as number) - (data[i - 1] as number)) / 2;
    const gy = ((data[i + w] as number) - (data[i - w] as number)) / 2;
    // Turn and scale are counted in pixels at the frame's half width, grey in tens, so that the equations are well scaled.
    j[0] = (gx * px + gy * py) / cx;
    j[1] = (gy * px - gx * py) / cx;
    j[2] = gx;
    j[3] = gy;
    j[4] = (data[i] as number) / 10;
    j[5] = 10;
    for (let p = 0; p < UNKNOWNS; p++) {
      const wp = weight * (j[p] as number);
      right[p] = (right[p] as number) + wp * e;
      for (let q = 0; q <= p; q++) gram[p * UNKNOWNS + q] = (gram[p * UNKNOWNS + q] as number) + wp * (j[q] as number);
    }
  }
  const rows = Array.from({ length: UNKNOWNS }, (_, p) =>
    Array.from({ length: UNKNOWNS }, (__, q) => gram[Math.max(p, q) * UNKNOWNS + Math.min(p, q)] as number),
  );
  const x = solvePositive(rows, [...right]);
  if (x === null) return null;
  const at = (k: number): number => x[k] ?? 0;
  return [at(0) / cx, at(1) / cx, at(2), at(3), at(4) / 10, at(5) * 10];
}

/** s after the inverse of the small warp (1 + da, db, dtx, dty). */
function composedWithInverse(s: Similarity, da: number, db: number, dtx: number, dty: number): Similarity {
  const size = (1 + da) ** 2 + db * db;
  const [ia, ib] = [(1 + da) / size, -db / size];
  const [itx, ity] = [-(ia * dtx - ib * dty), -(ib * dtx + ia * dty)];
  return {
    a: s.a * ia - s.b * ib,
    b: s.a * ib + s.b * ia,
    tx: s.a * itx - s.b * ity + s.tx,
    ty: s.b * itx + s.a * ity + s.ty,
  };
}
