// A homography through vectors of which some lie, weighted by Tukey, and the similarity nearest to it over the frame.

import type { Affine } from "./consensus.ts";
import { GATE_PX, squaredError } from "./consensus.ts";
import type { Vectors } from "./lucasKanade.ts";
import type { Centre, Similarity } from "./similarity.ts";
import { tukey } from "./similarity.ts";

/** h0…h7: x' = (h0 x + h1 y + h2) / (h6 x + h7 y + 1), likewise y' with h3…h5; about the centre, in units of half the width. */
export type Homography = Float64Array;

const UNKNOWNS = 8;
const REWEIGHTINGS = 5;
const TUKEY = 4.685;
const LEAST_SCALE_PX = 0.12;
/** Background left by a homography is followed to a few tenths of a pixel; a wider scale would take a slow subject in. */
const MOST_SCALE_PX = 0.5;
const FAR_PX = 3;

/** Homography and weights (0 for who disagrees) from who agreed with `start`; null when those do not fix one. */
export function robustHomography(v: Vectors, start: Affine, centre: Centre, unit: number, weights: Float64Array): Homography | null {
  for (let i = 0; i < v.count; i++) weights[i] = squaredError(v, i, start, centre) < GATE_PX * GATE_PX ? 1 : 0;
  const errors = new Float64Array(v.count);
  let h: Homography | null = null;
  for (let k = 0; k < REWEIGHTINGS; k++) {
    h = fit(v, weights, centre, unit);
    if (h === null) return null;
    for (let i = 0; i < v.count; i++) errors[i] = Math.hypot(...leftOf(v, i, h, centre, unit));
    const scale = Math.min(MOST_SCALE_PX, Math.max(LEAST_SCALE_PX, 1.48 * medianBelow(errors, FAR_PX)));
    for (let i = 0; i < v.count; i++) weights[i] = tukey(errors[i] as number, TUKEY * scale);
  }
  return h;
}

function medianBelow(values: Float64Array, limit: number): number {
  const kept = values.filter((r) => r < limit).sort();
  return kept[kept.length >> 1] ?? 0;
}

const gram = new Float64Array(UNKNOWNS * (UNKNOWNS + 1));

/** Weighted linear least squares of the eight unknowns by elimination; null when they are not fixed. */
function fit(v: Vectors, weights: Float64Array, c: Centre, unit: number): Homography | null {
  gram.fill(0);
  for (let i = 0; i < v.count; i++) {
    const w = weights[i] as number;
    if (w === 0) continue;
    const x = ((v.x[i] as number) - c.x) / unit;
    const y = ((v.y[i] as number) - c.y) / unit;
    addPoint(w, x, y, x + (v.dx[i] as number) / unit, y + (v.dy[i] as number) / unit);
  }
  return eliminated();
}

const ROW = UNKNOWNS + 1;
/** Adds the rows (x y 1 0 0 0 −xq −yq | q) and (0 0 0 x y 1 −xr −yr | r) to the upper triangle of the normal equations. */
function addPoint(w: number, x: number, y: number, q: number, r: number): void {
  const p = [x, y, 1] as const;
  const m = -(q * q + r * r);
  for (let i = 0; i < 3; i++) {
    const wp = w * (p[i] as number);
    for (let j = i; j < 3; j++) {
      const wpp = wp * (p[j] as number);
      add(i, j, wpp);
      add(i + 3, j + 3, wpp);
    }
    for (let j = 0; j < 2; j++) {
      const wpp = wp * (p[j] as number);
      add(i, 6 + j, -wpp * q);
      add(i + 3, 6 + j, -wpp * r);
      if (i < 2 && j >= i) add(6 + i, 6 + j, -wpp * m);
    }
    add(i, UNKNOWNS, wp * q);
    add(i + 3, UNKNOWNS, wp * r);
    if (i < 2) add(6 + i, UNKNOWNS, wp * m);
  }
}
function add(i: number, j: number, value: number): void {
  gram[i * ROW + j] = (gram[i * ROW + j] as number) + value;
}

/** Solves the symmetric system held in the upper triangle of `gram`, in place. */
function eliminated(): Homography | null {
  const at = (i: number, j: number): number => gram[i * ROW + j] as number;
  for (let i = 0; i < UNKNOWNS; i++) {
    const pivot = at(i, i);
    // Units are half widths and weights near 1: a pivot this small means that the points do not fix this unknown.
    if (!(pivot > 1e-6)) return null;
    for (let j = i + 1; j < UNKNOWNS; j++) {
      const factor = at(i, j) / pivot;
      for (let k = j; k < ROW; k++) gram[j * ROW + k] = at(j, k) - factor * at(i, k);
    }
  }
  const x = new Float64Array(UNKNOWNS);
  for (let i = UNKNOWNS - 1; i >= 0; i--) {
    let left = at(i, UNKNOWNS);
    for (let k = i + 1; k < UNKNOWNS; k++) left -= at(i, k) * (x[k] as number);
    x[i] = left / at(i, i);
  }
  return x;
}

/** What `h` leaves of vector `i`, px, right and down. */
export function leftOf(v: Vectors, i: number, h: Homography, c: Centre, unit: number): [number, number] {
  const x = ((v.x[i] as number) - c.x) / unit;
  const y = ((v.y[i] as number) - c.y) / unit;
  const w = (h[6] as number) * x + (h[7] as number) * y + 1;
  return [
    (v.dx[i] as number) + (x - ((h[0] as number) * x + (h[1] as number) * y + (h[2] as number)) / w) * unit,
    (v.dy[i] as number) + (y - ((h[3] as number) * x + (h[4] as number) * y + (h[5] as number)) / w) * unit,
  ];
}

const GRID_X = 17;
const GRID_Y = 10;
const COVER_X = 0.94;
const COVER_Y = 0.92;

/**
 * The similarity nearest to `h` by least squares over an even grid of 17 × 10 points on 94 % × 92 % of the frame, and the root mean
 * square of what it leaves, in px. Even, so that the answer does not depend on where the texture happens to lie.
 */
export function similarityOver(h: Homography, frame: { width: number; height: number }): { similarity: Similarity; leftPx: number } {
  const unit = frame.width / 2;
  const aspect = frame.height / frame.width;
  let [n, tx, ty, along, across, spread, size] = [0, 0, 0, 0, 0, 0, 0];
  for (let r = 0; r < GRID_Y; r++)
    for (let c = 0; c < GRID_X; c++) {
      const x = COVER_X * ((2 * c) / (GRID_X - 1) - 1);
      const y = COVER_Y * ((2 * r) / (GRID_Y - 1) - 1) * aspect;
      const w = (h[6] as number) * x + (h[7] as number) * y + 1;
      const qx = ((h[0] as number) * x + (h[1] as number) * y + (h[2] as number)) / w - x;
      const qy = ((h[3] as number) * x + (h[4] as number) * y + (h[5] as number)) / w - y;
      n++;
      tx += qx;
      ty += qy;
      along += x * qx + y * qy;
      across += x * qy - y * qx;
      spread += x * x + y * y;
      size += qx * qx + qy * qy;
    }
  // The grid is even about the centre, so shift, turn and scale are estimated apart, and each takes its own part of the squares.
  const left = size - (tx * tx + ty * ty) / n - (along * along + across * across) / spread;
  return {
    similarity: { a: 1 + along / spread, b: across / spread, tx: (tx / n) * unit, ty: (ty / n) * unit },
    leftPx: Math.sqrt(Math.max(0, left) / n) * unit,
  };
}
