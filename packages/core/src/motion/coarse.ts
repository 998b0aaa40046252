// Where did the picture go, to a few pixels: a full search at an eighth of the size, on brightness less its 7 × 7 mean.

import type { Luma } from "./luma.ts";

export interface Shift {
  dx: number;
  dy: number;
  /** The best shift lies on the edge of the search: the true one may lie beyond it. */
  atEdge: boolean;
}

const RADIUS = 8;
const MEAN_HALF = 3;

/** Offsets of the search, nearest first, so that a small true shift ends most of the others early. */
function spiral(radius: number): readonly (readonly [number, number])[] {
  const all: [number, number][] = [];
  for (let dy = -radius; dy <= radius; dy++) for (let dx = -radius; dx <= radius; dx++) all.push([dx, dy]);
  return all.sort(([ax, ay], [bx, by]) => ax * ax + ay * ay - (bx * bx + by * by));
}

/** `from` less the mean of the 7 × 7 pixels about each; windows are cut at the border. */
export function lessLocalMean(from: Luma, to: Float32Array): void {
  const { width: w, height: h, data } = from;
  const rows = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let sum = 0;
      const hi = Math.min(w - 1, x + MEAN_HALF);
      const lo = Math.max(0, x - MEAN_HALF);
      for (let k = lo; k <= hi; k++) sum += data[y * w + k] as number;
      rows[y * w + x] = sum / (hi - lo + 1);
    }
  for (let x = 0; x < w; x++)
    for (let y = 0; y < h; y++) {
      let sum = 0;
      const hi = Math.min(h - 1, y + MEAN_HALF);
      const lo = Math.max(0, y - MEAN_HALF);
      for (let k = lo; k <= hi; k++) sum += rows[k * w + x] as number;
      to[y * w + x] = (data[y * w + x] as number) - sum / (hi - lo + 1);
    }
}

/**
 * The whole-pixel shift of `b` against `a` (both less their local mean) with the least mean absolute difference over what they share.
 * Shifts in pixels of this level; at most `radius` in either direction.
 */
export function coarseShift(
  a: Float32Array,
  b: Float32Array,
  width: number,
  height: number,
  radius = RADIUS,
  differenceOf = meanDifference,
): Shift {
  let best = { dx: 0, dy: 0, mean: Number.POSITIVE_INFINITY };
  for (const [dx, dy] of spiralOf(radius)) {
    const mean = differenceOf(a, b, width, height, dx, dy, best.mean);
    if (mean < best.mean) best = { dx, dy, mean };
  }
  return { dx: best.dx, dy: best.dy, atEdge: Math.max(Math.abs(best.dx), Math.abs(best.dy)) === radius };
}

const spirals = new Map<number, ReturnType<typeof spiral>>();
function spiralOf(radius: number): ReturnType<typeof spiral> {
  const known = spirals.get(radius) ?? spiral(radius);
  spirals.set(radius, known);
  return known;
}

/** Mean absolute difference over the overlap; given up, as infinite, once it must exceed `limit`. */
export function meanDifference(a: Float32Array, b: Float32Array, w: number, h: number, dx: number, dy: number, limit: number): number {
  const [x0, x1] = [Math.max(0, -dx), Math.min(w, w - dx)];
  const [y0, y1] = [Math.max(0, -dy), Math.min(h, h - dy)];
  const count = (x1 - x0) * (y1 - y0);
  if (count <= 0) return Number.POSITIVE_INFINITY;
  const most = limit * count;
  let sum = 0;
  for (let y = y0; y < y1; y++) {
    let i = y * w + x0;
    let j = (y + dy) * w + x0 + dx;
    for (let x = x0; x < x1; x++) sum += Math.abs((a[i++] as number) - (b[j++] as number));
    if (sum > most) return Number.POSITIVE_INFINITY;
  }
  return sum / count;
}
